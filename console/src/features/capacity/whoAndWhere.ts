import { api, take } from '../../api/client'
import { at, key, keyFromName, lines, name, number, type Thing } from './thing'

/** Who does swaps, where, and how far it is between. */
export const whoAndWhere: Thing[] = [
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
      { key: 'sites', label: 'Sites', as: 'sites', needed: true },
      {
        key: 'shifts',
        label: 'Shifts',
        help: '08:00-12:00 on weekdays, daily 08:00-12:00, mon,wed 08:00-12:00; one per line',
        as: 'shifts',
        needed: true,
      },
      { key: 'skills', label: 'Knows', help: 'Beyond a plain swap, one per line', as: 'lines' },
      { key: 'absences', label: 'Away', help: '2026-11-25, 2026-11-25..2026-11-27, or with times; one per line', as: 'spans' },
    ],
    fresh: { shifts: '08:00-12:00\n12:45-16:30' },
    keyFrom: keyFromName,
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
    word: 'bench',
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
      { key: 'opens', label: 'Open', help: 'When visits may take place: daily 07:00-19:00', as: 'shift', needed: true },
      {
        key: 'limits',
        label: 'Carried at most',
        help: '08:00-18:00 40 for 40 Mbit/s in these hours, 08:00-18:00 none, or 200 for any time; one per line, over all hands',
        as: 'lines',
      },
    ],
    fresh: { benches: '2', opens: 'daily 07:00-19:00' },
    // Lists of people name the site.
    keyFrom: (v) => (v.name ?? '').trim(),
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
]
