import { api, type Schemas, take } from '../../api/client'
import { bytesText } from '../../shared/amounts'

type World = Schemas['WorldSeen']

export type Field = {
  key: string
  label: string
  help?: string
  /** text; lines: one per line; number; flag of nothing: the key of the thing, fixed once it is there. */
  as: 'key' | 'text' | 'lines' | 'number' | 'date' | 'secret' | 'site' | 'scope' | 'yes'
  needed?: boolean
}

export type Values = Record<string, string>

/** A kind of thing of the world: how it is shown, edited, put and taken out. */
export type Thing = {
  name: string
  one: string
  why: string
  rows: (world: World) => { key: string; cells: string[]; values: Values }[]
  heads: string[]
  fields: Field[]
  fresh: Values
  put: (refresh: string, values: Values) => Promise<unknown>
  drop?: (refresh: string, key: string) => Promise<unknown>
}

const lines = (text: string | undefined) =>
  (text ?? '')
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
const number = (text: string | undefined) => (text?.trim() ? Number(text) : null)
const gigabytes = (bytes: number | null | undefined) => (bytes == null ? '' : String(bytes / 1e9))
const bytes = (text: string | undefined) => (text?.trim() ? Math.round(Number(text) * 1e9) : null)
const key: Field = { key: 'key', label: 'Key', help: 'Short, for the command line and files', as: 'key', needed: true }
const name: Field = { key: 'name', label: 'Name', as: 'text', needed: true }
const at = (refresh: string, k: string | undefined) => ({ params: { path: { refresh, key: k ?? '' } } })

export const things: Thing[] = [
  {
    name: 'Technicians',
    one: 'technician',
    why: 'Who does swaps, where, and when. The gap between two shifts is a break.',
    heads: ['Name', 'Sites', 'Shifts', 'Knows', 'Away'],
    rows: (w) =>
      w.technicians.map((t) => ({
        key: t.key,
        cells: [t.name, t.sites.join(', '), t.shifts.join(', '), t.skills.join(', '), t.absences.join(', ')],
        values: {
          key: t.key,
          name: t.name,
          sites: t.sites.join('\n'),
          shifts: t.shifts.join('\n'),
          skills: t.skills.join('\n'),
          absences: t.absences.join('\n'),
        },
      })),
    fields: [
      key,
      name,
      { key: 'sites', label: 'Sites', help: 'Keys of sites, one per line', as: 'lines', needed: true },
      {
        key: 'shifts',
        label: 'Shifts',
        help: '08:00-12:00 on weekdays, daily 08:00-12:00, mon,wed 08:00-12:00; one per line',
        as: 'lines',
        needed: true,
      },
      { key: 'skills', label: 'Knows', help: 'Beyond a plain swap, one per line', as: 'lines' },
      { key: 'absences', label: 'Away', help: '2026-11-25, 2026-11-25..2026-11-27, or with times; one per line', as: 'lines' },
    ],
    fresh: { shifts: '08:00-12:00\n12:45-16:30' },
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/technicians/{key}', {
          ...at(refresh, v.key),
          body: {
            name: v.name ?? '',
            sites: lines(v.sites),
            shifts: lines(v.shifts),
            skills: lines(v.skills),
            absences: lines(v.absences),
          },
        }),
      ),
    drop: (refresh, k) => take(api.DELETE('/api/refreshes/{refresh}/technicians/{key}', at(refresh, k))),
  },
  {
    name: 'Sites',
    one: 'site',
    why: 'Where swaps happen, and how many at once.',
    heads: ['Name', 'Benches', 'Rooms', 'Open', 'Carried at most'],
    rows: (w) =>
      w.sites.map((s) => ({
        key: s.key,
        cells: [s.name, String(s.benches), s.rooms.map((r) => `${r.name} ${r.benches}`).join(', '), s.opens, s.limits.join(', ')],
        values: {
          key: s.key,
          name: s.name,
          benches: String(s.benches),
          rooms: s.rooms.map((r) => `${r.name}: ${r.benches}`).join('\n'),
          opens: s.opens,
          limits: s.limits.join('\n'),
        },
      })),
    fields: [
      key,
      name,
      { key: 'benches', label: 'Benches', help: 'Where rooms are listed, theirs count', as: 'number', needed: true },
      { key: 'rooms', label: 'Rooms', help: 'Ticket hall: 2, one per line', as: 'lines' },
      { key: 'opens', label: 'Open', help: 'When visits may take place', as: 'text', needed: true },
      {
        key: 'limits',
        label: 'Carried at most',
        help: '08:00-18:00 40 for 40 Mbit/s in these hours, 08:00-18:00 none, or 200 for any time; one per line, over all hands',
        as: 'lines',
      },
    ],
    fresh: { benches: '2', opens: 'daily 07:00-19:00' },
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/sites/{key}', {
          ...at(refresh, v.key),
          body: {
            name: v.name ?? '',
            benches: number(v.benches) ?? 0,
            rooms: lines(v.rooms).map((r) => ({
              name: r.slice(0, r.lastIndexOf(':')).trim(),
              benches: Number(r.slice(r.lastIndexOf(':') + 1)),
            })),
            opens: v.opens ?? null,
            limits: lines(v.limits),
          },
        }),
      ),
    drop: (refresh, k) => take(api.DELETE('/api/refreshes/{refresh}/sites/{key}', at(refresh, k))),
  },
  {
    name: 'Ways',
    one: 'way',
    why: 'How long it takes from one site to another.',
    heads: ['From', 'To', 'Minutes'],
    rows: (w) =>
      w.ways.map((x) => ({
        key: `${x.from}/${x.to}`,
        cells: [x.from, x.to, String(x.minutes)],
        values: { from: x.from, to: x.to, minutes: String(x.minutes) },
      })),
    fields: [
      { key: 'from', label: 'From', as: 'site', needed: true },
      { key: 'to', label: 'To', as: 'site', needed: true },
      { key: 'minutes', label: 'Minutes', help: '0 takes the way out', as: 'number', needed: true },
    ],
    fresh: {},
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/ways', {
          params: { path: { refresh } },
          body: { from: v.from ?? '', to: v.to ?? '', minutes: number(v.minutes) ?? 0 },
        }),
      ),
  },
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
      { key: 'at', label: 'When', help: '2026-12-24, 2026-12-24..2026-12-26, or with times', as: 'text', needed: true },
    ],
    fresh: {},
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
      { key: 'arrives', label: 'Arrives', help: '2026-11-30 12:00', as: 'text', needed: true },
      { key: 'tags', label: 'Tags', help: 'Of the new computers, one per line', as: 'lines', needed: true },
    ],
    fresh: {},
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
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/waves/{key}', {
          ...at(refresh, v.key),
          body: { name: v.name ?? '', from: v.from ?? '', until: v.until ?? '' },
        }),
      ),
    drop: (refresh, k) => take(api.DELETE('/api/refreshes/{refresh}/waves/{key}', at(refresh, k))),
  },
  {
    name: 'Depots',
    one: 'depot',
    why: 'Where files are staged: what fits, and what the link brings in a day.',
    heads: [
      'Name',
      'Address',
      'Parcels',
      'Lies there',
      'Promised',
      'Room, GB',
      'A day, GB',
      'Held, days',
      'Rate',
      'At most',
      'Ends',
      'Parcels are',
      'Opened by',
      'Health',
    ],
    rows: (w) =>
      w.depots.map((d) => ({
        key: d.key,
        cells: [
          d.name,
          d.address,
          String(d.parcels),
          bytesText(d.bytes),
          d.promisedBytes ? bytesText(d.promisedBytes) : '',
          gigabytes(d.capacityBytes) || (d.freeBytes ? `${bytesText(d.freeBytes)} free` : ''),
          gigabytes(d.dailyBytes),
          String(d.holdDays),
          `${Math.round(d.bytesPerSecond / 1e5) / 10} MB/s ${d.observed === 0 ? 'assumed' : `seen in ${d.observed}`}`,
          d.limits.join(', '),
          d.endsOn ?? '',
          d.sealTo.length ? 'sealed' : 'open',
          d.address === 'built-in' ? 'an order' : (d.openedBy ?? 'the hand itself'),
          d.trouble ? `■ ${d.trouble}` : d.heardAt ? '✓' : 'not used yet',
        ],
        values: {
          key: d.key,
          name: d.name,
          address: d.address,
          capacity: gigabytes(d.capacityBytes),
          daily: gigabytes(d.dailyBytes),
          hold: String(d.holdDays),
          ends: d.endsOn ?? '',
          sealTo: d.sealTo.join('\n'),
          limits: d.limits.join('\n'),
        },
      })),
    fields: [
      key,
      name,
      {
        key: 'address',
        label: 'Address',
        help: 'file:///path, http(s)://host/path or sftp://user@host/path, without a password; built-in for the one of the service',
        as: 'text',
        needed: true,
      },
      { key: 'capacity', label: 'Room, GB', help: 'Empty: no bound', as: 'number' },
      { key: 'daily', label: 'The link brings a day, GB', help: 'Empty: no bound', as: 'number' },
      { key: 'hold', label: 'Held after a swap, days', as: 'number' },
      {
        key: 'limits',
        label: 'Carried at most',
        help: '08:00-18:00 40 for 40 Mbit/s in these hours, 08:00-18:00 none, or 200 for any time; one per line, over all hands',
        as: 'lines',
      },
      {
        key: 'ends',
        label: 'Deletes by itself on',
        help: 'Empty: it does not. You are told weeks ahead what is not safe by then.',
        as: 'date',
      },
      {
        key: 'sealTo',
        label: 'New parcels are sealed to',
        help: 'Recipients (age1…), one per line. Empty: whoever may read the depot can read them.',
        as: 'lines',
      },
      {
        key: 'user',
        label: 'Opened as',
        help: 'Name that hands sign in with. Empty with an empty password: as it was.',
        as: 'text',
      },
      {
        key: 'password',
        label: 'Opened with',
        help: 'Kept encrypted, given to a hand with an order only, never shown again.',
        as: 'secret',
      },
    ],
    fresh: { hold: '14' },
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/depots/{key}', {
          ...at(refresh, v.key),
          body: {
            name: v.name ?? '',
            address: v.address ?? '',
            capacityBytes: bytes(v.capacity),
            dailyBytes: bytes(v.daily),
            holdDays: number(v.hold),
            endsOn: v.ends || null,
            sealTo: lines(v.sealTo),
            limits: lines(v.limits),
            access: v.user || v.password ? { user: v.user || null, password: v.password || null } : null,
          },
        }),
      ),
  },
  {
    name: 'Programs',
    one: 'program',
    why: 'What is offered for the programs of old computers; it stands in the report of each swap.',
    heads: ['On old computers', 'On the new one', 'Where to get it', 'Licence'],
    rows: (w) =>
      w.catalogue.map((c) => ({
        key: c.key,
        cells: [c.program, c.offer, c.where ?? '', c.isLicenceBound ? 'given back first' : ''],
        values: { key: c.key, program: c.program, offer: c.offer, where: c.where ?? '', bound: c.isLicenceBound ? 'yes' : '' },
      })),
    fields: [
      key,
      { key: 'program', label: 'On old computers', help: 'Its name, with * for anything: Berth Planner*', as: 'text', needed: true },
      { key: 'offer', label: 'On the new one', as: 'text', needed: true },
      { key: 'where', label: 'Where to get it', as: 'text' },
      { key: 'bound', label: 'Sign out of it on the old computer first', as: 'yes' },
    ],
    fresh: {},
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/catalogue/{key}', {
          ...at(refresh, v.key),
          body: { program: v.program ?? '', offer: v.offer ?? '', where: v.where || null, isLicenceBound: v.bound === 'yes' },
        }),
      ),
    drop: (refresh, k) => take(api.DELETE('/api/refreshes/{refresh}/catalogue/{key}', at(refresh, k))),
  },
  {
    name: 'Lengths set by hand',
    one: 'length',
    why: 'What you know better than the estimate, for a kind, a model or one swap; and bench preparations.',
    heads: ['For', 'First part', 'Unattended', 'Last part', 'Bench preparation'],
    rows: (w) =>
      w.estimates.map((e) => ({
        key: `${e.scope}/${e.of}`,
        cells: [
          `${e.scope} ${e.of}`,
          String(e.beforeMinutes ?? ''),
          String(e.unattendedMinutes ?? ''),
          String(e.afterMinutes ?? ''),
          e.bench ? `${e.bench.handsOnMinutes} + ${e.bench.unattendedMinutes} min${e.bench.site ? ` at ${e.bench.site}` : ''}` : '',
        ],
        values: {
          scope: e.scope,
          of: e.of,
          before: String(e.beforeMinutes ?? ''),
          alone: String(e.unattendedMinutes ?? ''),
          after: String(e.afterMinutes ?? ''),
          bench: String(e.bench?.handsOnMinutes ?? ''),
          updates: String(e.bench?.unattendedMinutes ?? ''),
          site: e.bench?.site ?? '',
          gap: String(e.bench?.gapMinutes ?? ''),
        },
      })),
    fields: [
      { key: 'scope', label: 'For', as: 'scope', needed: true },
      { key: 'of', label: 'Which', help: 'renew, a model of new computer, or a swap such as autumn-0001', as: 'text', needed: true },
      { key: 'before', label: 'First hands-on part, minutes', as: 'number' },
      { key: 'alone', label: 'Unattended part, minutes', as: 'number' },
      { key: 'after', label: 'Last hands-on part, minutes', as: 'number' },
      { key: 'bench', label: 'Bench preparation, hands-on minutes', help: 'Empty: none', as: 'number' },
      { key: 'updates', label: 'then unattended, minutes', as: 'number' },
      { key: 'site', label: 'Bench at', help: "Empty: at the swap's site", as: 'site' },
      { key: 'gap', label: 'At least so many minutes before the visit', as: 'number' },
    ],
    fresh: { scope: 'kind' },
    put: (refresh, v) =>
      take(
        api.PUT('/api/refreshes/{refresh}/estimates/{scope}/{of}', {
          params: { path: { refresh, scope: v.scope ?? '', of: v.of ?? '' } },
          body: {
            beforeMinutes: number(v.before),
            unattendedMinutes: number(v.alone),
            afterMinutes: number(v.after),
            bench:
              number(v.bench) === null
                ? null
                : {
                    site: v.site || null,
                    handsOnMinutes: number(v.bench) ?? 0,
                    unattendedMinutes: number(v.updates) ?? 0,
                    gapMinutes: number(v.gap) ?? 0,
                  },
          },
        }),
      ),
    drop: (refresh, k) => {
      const [scope = '', ...of] = k.split('/')
      return take(api.DELETE('/api/refreshes/{refresh}/estimates/{scope}/{of}', { params: { path: { refresh, scope, of: of.join('/') } } }))
    },
  },
]
