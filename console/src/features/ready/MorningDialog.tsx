import { Button, Textarea, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Coming, Failed } from '../../shared/States'
import { dayText } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { type MorningMail, morningQuery, useSendMorning, useSetMorning } from './queries'

/** To whom goes in the morning who is not ready for the next day. */
export function MorningDialog({ close }: { close: () => void }) {
  const refresh = useRefresh()
  const mail = useQuery(morningQuery(refresh.key))
  if (mail.isPending) return <Coming rows={3} />
  if (mail.isError) return <Failed error={mail.error} retry={() => mail.refetch()} />
  return <Morning mail={mail.data} close={close} />
}

const addresses = (text: string) => text.split(/[\s,;]+/).filter(Boolean)

function Morning({ mail, close }: { mail: MorningMail; close: () => void }) {
  const { key } = useRefresh()
  const { zone } = useClock()
  const [to, setTo] = useState(mail.to.join('\n'))
  const [at, setAt] = useState(mail.at)
  const set = useSetMorning(key)
  const wanted = { to: addresses(to), at }
  const same = wanted.to.join() === mail.to.join() && at === mail.at
  return (
    <FormDialog
      title="A mail in the morning"
      close={close}
      change={set}
      send={() => set.mutate(wanted, { onSuccess: close })}
      action={wanted.to.length === 0 && mail.to.length > 0 ? 'Send none any more' : 'Keep'}
      ready={mail.canSend && !same && at !== ''}
    >
      <p className="soft">
        It says who is not ready for the next day with visits and why, on each morning before such a day. Those who get it read names of
        people.
      </p>
      {!mail.canSend && <p>The service has no mail server, so none can go. Whoever runs it starts it with “mail” and “mail-from”.</p>}
      <Textarea
        label="To"
        description="One address a line; none: nobody gets it."
        autosize
        minRows={2}
        value={to}
        disabled={!mail.canSend}
        onChange={(e) => setTo(e.currentTarget.value)}
        data-autofocus
      />
      <TextInput
        label={`From when on (${zone})`}
        type="time"
        value={at}
        disabled={!mail.canSend}
        onChange={(e) => setAt(e.currentTarget.value)}
      />
      {mail.to.length > 0 && <Last mail={mail} />}
    </FormDialog>
  )
}

function lastWords(mail: MorningMail) {
  if (mail.isUnderWay) return 'One is being sent now.'
  if (mail.trouble) return `The last one did not go: ${mail.trouble}`
  return mail.mailed ? `The last one went on ${dayText(mail.mailed)}.` : 'None went yet.'
}

/** What became of the last one, and one now, to see how it reads. */
function Last({ mail }: { mail: MorningMail }) {
  const { key } = useRefresh()
  const send = useSendMorning(key)
  const words = lastWords(mail)
  return (
    <div className="stack">
      <p className={mail.trouble ? undefined : 'soft'}>{words}</p>
      <div className="actions">
        <Button variant="default" size="compact-sm" loading={send.isPending} onClick={() => send.mutate()}>
          Send one now
        </Button>
        {send.data && <span role="status">Sent: {send.data.subject}</span>}
      </div>
      {send.isError && <Failed error={send.error} />}
    </div>
  )
}
