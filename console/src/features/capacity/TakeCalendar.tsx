import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRefresh } from '../../shell/refresh'
import { tell } from '../plan/queries'

/** Closed days from a calendar. */
export function TakeCalendar() {
  const refresh = useRefresh()
  const queries = useQueryClient()
  const send = useMutation({
    mutationFn: async (file: File) => {
      const answer = await fetch(`/api/refreshes/${encodeURIComponent(refresh.key)}/closures/calendar`, {
        method: 'POST',
        headers: { 'Content-Type': 'text/calendar' },
        body: file,
      })
      if (!answer.ok) throw new Error((await answer.json()).detail)
    },
    onError: tell,
    onSettled: () => queries.invalidateQueries({ queryKey: ['world'] }),
  })
  return (
    <label className="file-button">
      Take a calendar
      <input
        type="file"
        accept=".ics,text/calendar"
        onChange={(e) => {
          const file = e.currentTarget.files?.[0]
          if (file) send.mutate(file)
          e.currentTarget.value = ''
        }}
      />
    </label>
  )
}
