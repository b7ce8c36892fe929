import { Popover } from '@mantine/core'
import { words } from './words'

/** A mark beside one of our words that says, when it is pressed, what the word means. */
export function Word({ of }: { of: keyof typeof words }) {
  return (
    <Popover width={300} position="bottom-start" withArrow shadow="md" trapFocus returnFocus>
      <Popover.Target>
        <button type="button" className="word-mark" aria-label={`What is ${/^[aeiou]/.test(of) ? 'an' : 'a'} ${of}?`}>
          ?
        </button>
      </Popover.Target>
      <Popover.Dropdown>
        <p>
          <strong>{of}</strong>: {words[of]}
        </p>
      </Popover.Dropdown>
    </Popover>
  )
}
