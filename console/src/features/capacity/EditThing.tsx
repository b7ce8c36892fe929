import { Button, Modal } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Failed } from '../../shared/States'
import { useRefresh } from '../../shell/refresh'
import { ThingField } from './ThingField'
import type { Thing, Values, World } from './thing'

/** One thing of the world: made, changed or taken out. What it is called by machines is made from its name. */
export function EditThing({
  thing,
  values: first,
  isNew,
  world,
  close,
}: {
  thing: Thing
  values: Values
  isNew: boolean
  world: World
  close: () => void
}) {
  const refresh = useRefresh()
  const queries = useQueryClient()
  const [values, setValues] = useState<Values>(first)
  const after = { onSuccess: close, onSettled: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' }) }
  const makesKey = isNew && thing.keyFrom
  const taken = thing.rows(world).map((row) => row.key)
  const keyed = makesKey ? { ...values, key: makesKey(values, taken) } : values
  const put = useMutation({ mutationFn: () => thing.put(refresh.key, keyed), ...after })
  const drop = useMutation({
    mutationFn: () => thing.drop?.(refresh.key, values.key ?? `${values.scope}/${values.of}`) ?? Promise.resolve(),
    ...after,
  })
  const fields = thing.fields.filter((f) => !(makesKey && f.as === 'key'))
  const missing = fields.filter((f) => f.needed && !values[f.key]?.trim())
  // Whoever makes a new one must not write over one that is there.
  const isThere = isNew && keyed.key !== undefined && taken.includes(keyed.key)
  return (
    <Modal opened onClose={close} size="lg" title={isNew ? `A new ${thing.one}` : `Change the ${thing.one}`} closeOnClickOutside={false}>
      <form
        className="stack"
        onSubmit={(event) => {
          event.preventDefault()
          if (missing.length === 0 && !isThere) put.mutate()
        }}
      >
        {fields.map((field) => (
          <ThingField
            key={field.key}
            field={field}
            value={values[field.key] ?? ''}
            fixed={!isNew && ['key', 'scope', 'of', 'from', 'to'].includes(field.key)}
            world={world}
            set={(v) => setValues({ ...values, [field.key]: v })}
          />
        ))}
        {(put.isError || drop.isError) && <Failed error={put.error ?? drop.error} />}
        {isThere && <p className="soft">There is one of that {thing.keyFrom ? 'name' : 'key'} already. Change it in the list.</p>}
        <div className="actions">
          {!isNew && thing.drop && (
            <Button variant="default" loading={drop.isPending} onClick={() => drop.mutate()}>
              Take out
            </Button>
          )}
          <Button
            type="submit"
            loading={put.isPending}
            disabled={missing.length > 0 || isThere}
            title={missing.length ? `Missing: ${missing.map((m) => m.label).join(', ')}` : undefined}
          >
            Save
          </Button>
        </div>
      </form>
    </Modal>
  )
}
