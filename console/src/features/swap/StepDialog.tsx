import { Button, Modal, NumberInput, Textarea } from '@mantine/core'
import { useState } from 'react'
import type { Step } from '../../api/client'
import { Prose } from '../../shared/Prose'
import { FormDialog } from '../parcel/FormDialog'
import { PhotoField } from './PhotoField'
import { ScanField } from './ScanField'

/** What is said about a step. */
export type StepSaid = { claim: string; tag?: string; reason?: string; value?: string; photo?: Blob }

/** Whether a step still waits for somebody. */
export const isOpen = (step: Step) => step.state === 'open' || step.state === 'under-way'

type Props = {
  asked: { step: Step; what: 'work' | 'reason' }
  claim: { isError: boolean; error: unknown; isPending: boolean }
  close: () => void
  set: (said: StepSaid) => void
}

/** Asks what a step wants to know. */
export function StepDialog({ asked: { step, what }, claim, close, set }: Props) {
  const [text, setText] = useState('')
  const [photo, setPhoto] = useState<Blob | null>(null)
  const shared = { title: step.title, close, change: claim, ready: !!text.trim() }
  const help = step.help ? <Prose text={step.help} /> : null
  const field = { value: text, 'data-autofocus': true, required: true, autoComplete: 'off' } as const
  if (what === 'reason')
    return (
      <FormDialog {...shared} send={() => set({ claim: 'not-applicable', reason: text })} action="Does not apply">
        <Textarea
          label="Why does it not apply?"
          {...field}
          onChange={(e) => setText(e.currentTarget.value)}
          maxLength={500}
          autosize
          minRows={2}
        />
      </FormDialog>
    )
  switch (step.kind) {
    case 'scan':
      return (
        <FormDialog {...shared} send={() => set({ claim: 'scanned', tag: text })} action="Check the tag">
          {help}
          <ScanField
            label="Tag on the computer"
            description={`Expected: ${step.expects ?? 'not known'}. Scan it, or type it.`}
            value={text}
            onChange={setText}
            read={(tag) => set({ claim: 'scanned', tag })}
          />
        </FormDialog>
      )
    case 'photo':
      return (
        <FormDialog {...shared} ready={!!photo} send={() => photo && set({ claim: 'photographed', photo })} action="Keep it">
          {help}
          <PhotoField photo={photo} take={setPhoto} />
        </FormDialog>
      )
    case 'number':
      return (
        <FormDialog {...shared} send={() => set({ claim: 'answered', value: text })} action="Keep it">
          {help}
          <NumberInput
            label={step.unit ? `How many ${step.unit}` : 'Number'}
            description={boundsText(step)}
            {...field}
            onChange={(value) => setText(String(value))}
            allowedDecimalSeparators={['.', ',']}
          />
        </FormDialog>
      )
    case 'choice':
      return (
        <Question step={step} claim={claim} close={close}>
          {step.proposed && <p className="soft">{step.proposed.words}</p>}
          {step.options?.map((option, i) => (
            <Button
              key={option}
              variant={option === step.proposed?.value ? 'filled' : 'default'}
              data-autofocus={(step.proposed ? option === step.proposed.value : i === 0) || undefined}
              disabled={claim.isPending}
              onClick={() => set({ claim: 'answered', value: option })}
            >
              {option}
              {option === step.proposed?.value ? ', as proposed' : ''}
            </Button>
          ))}
        </Question>
      )
    case 'again':
      return (
        <Question step={step} claim={claim} close={close}>
          <p>
            Until: <strong>{step.expects}</strong>
            {step.runs > 0 ? <span className="soft"> · {step.runs === 1 ? '1 run so far' : `${step.runs} runs so far`}</span> : null}
          </p>
          <Button variant="default" data-autofocus disabled={claim.isPending} onClick={() => set({ claim: 'ran' })}>
            Ran it, not there yet
          </Button>
          <Button disabled={claim.isPending} onClick={() => set({ claim: 'ticked' })}>
            Ran it: {step.expects}
          </Button>
        </Question>
      )
    default:
      return (
        <FormDialog {...shared} send={() => set({ claim: 'answered', value: text })} action="Keep it">
          {help}
          <Textarea
            label="What is to be written down"
            {...field}
            onChange={(e) => setText(e.currentTarget.value)}
            maxLength={2000}
            autosize
            minRows={2}
          />
        </FormDialog>
      )
  }
}

const boundsText = ({ least, most }: Step) =>
  least != null && most != null ? `${least} to ${most}` : least != null ? `At least ${least}` : most != null ? `At most ${most}` : undefined

/** A question whose answers are buttons. */
function Question({ step, claim, close, children }: { step: Step; claim: Props['claim']; close: () => void; children: React.ReactNode }) {
  return (
    <Modal opened onClose={close} title={step.title} centered>
      <div className="stack">
        {step.help && <Prose text={step.help} />}
        {children}
        {claim.isError && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {claim.error instanceof Error ? claim.error.message : 'It was not kept.'}
          </p>
        )}
      </div>
    </Modal>
  )
}
