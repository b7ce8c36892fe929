import { cleanup, render, screen } from '@testing-library/react'
import { afterEach, describe, expect, it } from 'vitest'
import { Around, userOfTest } from '../test-page'
import { Word } from './Word'
import { words } from './words'

describe('a word of ours', () => {
  afterEach(cleanup)

  it('is explained where it is pressed, and by keys', async () => {
    render(
      <Around>
        <Word of="depot" />
      </Around>,
    )
    const user = userOfTest()
    await user.tab()
    await user.keyboard('{Enter}')
    expect(await screen.findByText(words.depot, { exact: false })).toBeInTheDocument()
  })

  it('is explained in whole sentences, and none by itself alone', () => {
    for (const [word, said] of Object.entries(words)) {
      expect(said).toMatch(/^[A-Z].*\.$/s)
      expect(said.length).toBeGreaterThan(40)
      expect(said.split(' ').length).toBeGreaterThan(word.split(' ').length + 6)
    }
  })
})
