import { api, take } from '../../api/client'
import { bytesText } from '../../shared/amounts'
import { at, bytes, gigabytes, key, keyFromName, lines, name, number, type Thing } from './thing'

/** Where files are staged, what is offered for programs, and what is known of lengths. */
export const carrying: Thing[] = [
  {
    name: 'Depots',
    one: 'depot',
    why: 'Where files are staged: what fits, and what the link brings in a day.',
    word: 'depot',
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
      'Second copy',
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
          d.copyTo ? `in ${d.copyTo}` : '',
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
          copyTo: d.copyTo ?? '',
          limits: d.limits.join('\n'),
        },
      })),
    fields: [
      key,
      name,
      {
        key: 'address',
        label: 'Address',
        help: 'file:///path, http(s)://host/path or sftp://user@host/path, without a password; built-in for the one of the service. What is staged in a folder is private; ?modes=group or ?modes=as-mounted behind its path lets others of its system in',
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
        key: 'copyTo',
        label: 'Second copy in',
        help: 'A depot on another disk. None: a dead disk loses what lies there.',
        as: 'depot',
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
    keyFrom: keyFromName,
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
            copyTo: v.copyTo || null,
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
    keyFrom: (v, taken) => keyFromName({ name: v.program ?? '' }, taken),
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
