import { Button, Modal } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { repeatKey, type Schemas } from '../../api/client'
import { Failed } from '../../shared/States'
import { useRefresh } from '../../shell/refresh'

type Listed = Schemas['TechniciansTaken']

/** A list of technicians: looked at first, then taken whole. */
export function TakeTechnicians() {
  const refresh = useRefresh()
  const queries = useQueryClient()
  const [file, setFile] = useState<File | null>(null)
  const send = useMutation({
    mutationFn: async ({ from, dryRun }: { from: File; dryRun: boolean }): Promise<Listed> => {
      const answer = await fetch(`/api/refreshes/${encodeURIComponent(refresh.key)}/technicians/table?dryRun=${dryRun}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/octet-stream', ...repeatKey() },
        body: from,
      })
      const body = await answer.json()
      if (!answer.ok) throw new Error(body.detail)
      return body
    },
    onSuccess: (_, { dryRun }) => {
      if (dryRun) return
      setFile(null)
      queries.invalidateQueries({ queryKey: ['world'] })
    },
  })
  const seen = send.data
  return (
    <>
      <label className="file-button">
        Take a list
        <input
          type="file"
          accept=".csv,.xlsx,text/csv"
          onChange={(e) => {
            const from = e.currentTarget.files?.[0]
            e.currentTarget.value = ''
            if (!from) return
            setFile(from)
            send.mutate({ from, dryRun: true })
          }}
        />
      </label>
      {file && (
        <Modal opened onClose={() => setFile(null)} title={`Technicians from ${file.name}`} closeOnClickOutside={false} size="lg">
          <div className="stack">
            {send.isError && <Failed error={send.error} retry={() => send.mutate({ from: file, dryRun: true })} />}
            {seen && (
              <>
                <p className="verdict">
                  {seen.added} to add, {seen.changed} to change, {seen.same} the same.
                </p>
                <ul className="changes" tabIndex={0} aria-label="Technicians in the list">
                  {seen.technicians.map((t) => (
                    <li key={t.key}>
                      <strong>{t.name}</strong>{' '}
                      <span className="soft">
                        {t.sites.join(', ')} · {t.shifts.join(', ')}
                        {t.skills.length > 0 && ` · knows ${t.skills.join(', ')}`}
                        {t.absences.length > 0 && ` · away ${t.absences.join(', ')}`}
                      </span>
                    </li>
                  ))}
                  {seen.rejected.map((r) => (
                    <li key={`${r.line}${r.column}${r.reason}`}>
                      <span className="sign-stopped" aria-hidden="true">
                        ■
                      </span>{' '}
                      Line {r.line}
                      {r.column && `, ${r.column}`}
                      {r.value && <span className="mono"> {r.value}</span>}: {r.reason} {r.remedy}
                    </li>
                  ))}
                </ul>
              </>
            )}
            <p className="soft">
              Columns: key, name, sites, skills, shifts, away. Name alone must be there; several of a thing with ; between.
            </p>
            <div className="actions">
              <Button variant="default" onClick={() => setFile(null)}>
                Cancel
              </Button>
              <Button
                loading={send.isPending}
                disabled={!seen || seen.rejected.length > 0 || seen.added + seen.changed === 0}
                onClick={() => send.mutate({ from: file, dryRun: false })}
              >
                {seen && seen.added + seen.changed === 0 && seen.rejected.length === 0 ? 'Nothing to take' : 'Take them'}
              </Button>
            </div>
          </div>
        </Modal>
      )}
    </>
  )
}
