import { api, take } from '../../api/client'
import { at, key, keyFromName, lines, name, type Thing } from './thing'

/** What bounds a plan in time, and the computers it waits for. */
export const whenAndWhat: Thing[] = [
  {
    name: 'Closed days',
    one: 'closure',
    why: 'Holidays and black-outs: nothing takes place then.',
    heads: ['Name', 'Where', 'When'],
    rows: (w) =>
      w.closures.map((c) => ({
        key: c.key,
        cells: [c.name, c.site ?? 'everywhere', c.at],
        values: { key: c.key, name: c.name, site: c.site ?? '', at: c.at },
      })),
    fields: [
      key,
      name,
      { key: 'site', label: 'Site', help: 'Empty: everywhere', as: 'site' },
      { key: 'at', label: 'When', help: '2026-12-24, 2026-12-24..2026-12-26, or with times', as: 'span', needed: true },
    ],
    fresh: {},
    keyFrom: keyFromName,
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/closures/{key}', {
          ...at(refresh, v.key),
          body: { name: v.name ?? '', site: v.site || null, at: v.at ?? '' },
        }),
      ),
    drop: (refresh, k) => take(api.DELETE('/api/refreshes/{refresh}/closures/{key}', at(refresh, k))),
  },
  {
    name: 'Deliveries',
    one: 'delivery',
    why: 'Batches of new computers. No swap comes before its computer.',
    heads: ['Name', 'Arrives', 'Computers'],
    rows: (w) =>
      w.deliveries.map((d) => ({
        key: d.key,
        cells: [d.name, d.arrives, `${d.tags.length}: ${d.tags.slice(0, 6).join(' ')}${d.tags.length > 6 ? ' …' : ''}`],
        values: { key: d.key, name: d.name, arrives: d.arrives, tags: d.tags.join('\n') },
      })),
    fields: [
      key,
      name,
      { key: 'arrives', label: 'Arrives', as: 'moment', needed: true },
      { key: 'tags', label: 'Tags', help: 'Of the new computers, one per line', as: 'lines', needed: true },
    ],
    fresh: {},
    keyFrom: keyFromName,
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/deliveries/{key}', {
          ...at(refresh, v.key),
          body: { name: v.name ?? '', arrives: v.arrives ?? '', tags: lines(v.tags) },
        }),
      ),
    drop: (refresh, k) => take(api.DELETE('/api/refreshes/{refresh}/deliveries/{key}', at(refresh, k))),
  },
  {
    name: 'Spares',
    one: 'spare',
    why: 'New computers that no swap has. One of the same model takes the place of one that is dead on arrival.',
    heads: ['Tag', 'Model', 'Site', 'Not given out because'],
    rows: (w) =>
      w.spares.map((s) => ({
        key: s.key,
        cells: [s.key, s.model ?? '', s.site, s.trouble ?? ''],
        values: { key: s.key, model: s.model ?? '', site: s.site, trouble: s.trouble ?? '' },
      })),
    fields: [
      { ...key, label: 'Tag', help: 'As it is printed on the computer' },
      { key: 'model', label: 'Model', as: 'text' },
      { key: 'site', label: 'Site', help: 'Where it lies', as: 'site', needed: true },
      { key: 'trouble', label: 'Not given out because', help: 'Left empty: it can be', as: 'text' },
    ],
    fresh: {},
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/spares/{key}', {
          ...at(refresh, v.key),
          body: { site: v.site ?? '', model: v.model || null, trouble: v.trouble || null },
        }),
      ),
    drop: (refresh, k) => take(api.DELETE('/api/refreshes/{refresh}/spares/{key}', at(refresh, k))),
  },
  {
    name: 'Waves',
    one: 'wave',
    why: 'Parts of the refresh that go together between two days.',
    heads: ['Name', 'From', 'Until', 'Swaps'],
    rows: (w) =>
      w.waves.map((v) => ({
        key: v.key,
        cells: [v.name, v.from, v.until, String(v.swaps)],
        values: { key: v.key, name: v.name, from: v.from, until: v.until },
      })),
    fields: [
      key,
      name,
      { key: 'from', label: 'First day', as: 'date', needed: true },
      { key: 'until', label: 'Last day', as: 'date', needed: true },
    ],
    fresh: {},
    keyFrom: keyFromName,
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/waves/{key}', {
          ...at(refresh, v.key),
          body: { name: v.name ?? '', from: v.from ?? '', until: v.until ?? '' },
        }),
      ),
    drop: (refresh, k) => take(api.DELETE('/api/refreshes/{refresh}/waves/{key}', at(refresh, k))),
  },
]
