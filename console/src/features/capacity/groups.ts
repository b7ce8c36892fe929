import { api, type Schemas, take } from '../../api/client'
import { at, key, keyFromName, lines, name, number, type Thing } from './thing'

/** A swap as it stands in a field: its id, then whose it is. */
export const swapLine = (id: string, person: string) => `${id} ${person}`

const rule = (g: Schemas['GroupSeen']) =>
  [g.atOnce == null ? '' : g.atOnce === 1 ? 'kept apart' : `at most ${g.atOnce} at once`, g.oneDay ? 'on one day' : '']
    .filter(Boolean)
    .join(', ')

/** Swaps that are kept apart, or go together. */
export const groups: Thing = {
  name: 'Groups',
  one: 'group',
  why: 'People who must not all be without a computer at once, or who go on one day. The plan, and what people choose, keep to it.',
  heads: ['Name', 'How', 'Who'],
  rows: (w) =>
    w.groups.map((g) => ({
      key: g.key,
      cells: [g.name, rule(g), g.names.join(', ')],
      values: {
        key: g.key,
        name: g.name,
        swaps: g.swaps.map((id, i) => swapLine(id, g.names[i] ?? '')).join('\n'),
        atOnce: g.atOnce == null ? '' : String(g.atOnce),
        oneDay: g.oneDay ? 'yes' : '',
      },
    })),
  fields: [
    key,
    name,
    { key: 'swaps', label: 'Who', help: 'Two or more people', as: 'swaps', needed: true },
    { key: 'atOnce', label: 'So many at most at once', help: '1 keeps all apart. Empty: any number.', as: 'number' },
    { key: 'oneDay', label: 'All on one day', as: 'yes' },
  ],
  fresh: { atOnce: '1' },
  keyFrom: keyFromName,
  put: (refresh, v) =>
    take(
      api.PUT('/api/refreshes/{refresh}/groups/{key}', {
        ...at(refresh, v.key),
        body: {
          name: v.name ?? '',
          swaps: lines(v.swaps).map((line) => line.split(' ')[0] ?? ''),
          atOnce: number(v.atOnce),
          oneDay: v.oneDay === 'yes',
        },
      }),
    ),
  drop: (refresh, k) => take(api.DELETE('/api/refreshes/{refresh}/groups/{key}', at(refresh, k))),
}
