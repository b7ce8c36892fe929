import { cleanup, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { CapacityPage } from './CapacityPage'
import { things } from './things'

const world: Schemas['WorldSeen'] = {
  sites: [
    {
      key: 'North Quay',
      name: 'North Quay',
      benches: 3,
      rooms: [
        { name: 'Ticket hall', benches: 2 },
        { name: 'Loft: upper', benches: 1 },
      ],
      opens: 'daily 07:00-19:00',
      limits: ['08:00-18:00 40'],
    },
  ],
  technicians: [
    {
      key: 'noor',
      name: 'Noor Haddad',
      sites: ['North Quay'],
      shifts: ['08:00-12:00', 'mon 13:00-15:00'],
      skills: ['tablets'],
      absences: ['2026-12-08'],
    },
  ],
  ways: [{ from: 'North Quay', to: 'South', minutes: 25 }],
  closures: [{ key: 'feast', name: 'Feast', site: null, at: '2026-12-24..2026-12-26' }],
  deliveries: [{ key: 'd/1', name: 'First', arrives: '2026-12-08 12:00', tags: ['KB-1', 'KB-2'] }],
  spares: [{ key: 'KB-90', model: 'Gannet 14', site: 'North Quay', trouble: null }],
  waves: [{ key: 'w', name: 'Office', from: '2026-12-07', until: '2026-12-09', swaps: 4 }],
  depots: [
    {
      key: 'k',
      name: 'Cloud',
      address: 'http://c/',
      parcels: 0,
      bytes: 0,
      capacityBytes: 1_500_000_000,
      dailyBytes: null,
      holdDays: 7,
      bytesPerSecond: 6e7,
      observed: 0,
      endsOn: '2027-01-31',
      sealTo: ['age1x'],
      copyTo: 'safe',
      promisedBytes: 0,
      limits: ['200'],
      openedBy: null,
      freeBytes: null,
      heardAt: null,
      trouble: null,
    },
  ],
  groups: [
    {
      key: 'pay',
      name: 'Pay office',
      swaps: ['spring-0003', 'spring-0007'],
      names: ['Per Lunde', 'Ida Moreau'],
      atOnce: 1,
      oneDay: false,
    },
  ],
  catalogue: [{ key: 'berth', program: 'Berth*', offer: 'Berth 7', where: 'shop', isLicenceBound: true }],
  estimates: [
    {
      scope: 'model',
      of: 'Gannet 14',
      beforeMinutes: null,
      unattendedMinutes: 60,
      afterMinutes: null,
      bench: { site: 'North Quay', handsOnMinutes: 20, unattendedMinutes: 90, gapMinutes: 30 },
    },
  ],
}

beforeEach(() => {
  service.reset()
  Object.assign(service.answers, {
    'GET /api/refreshes/spring/world': world,
    'GET /api/refreshes/spring/lengths': [],
    'GET /api/refreshes/spring/choosing': { untilHours: 24, mostPerSlot: 2 },
    'GET /api/refreshes/spring/waiting': [],
    'GET /api/me': { name: 'kit', shown: 'Kit', role: 'coordinator', sites: [] },
  })
})
afterEach(() => cleanup())

/** What the service must be told so that nothing changes, taken from what it said. */
const told: Record<string, [string, unknown]> = {
  Technicians: [
    '/technicians/noor',
    {
      name: 'Noor Haddad',
      sites: ['North Quay'],
      shifts: ['08:00-12:00', 'mon 13:00-15:00'],
      skills: ['tablets'],
      absences: ['2026-12-08'],
    },
  ],
  Sites: [
    '/sites/North Quay',
    {
      name: 'North Quay',
      benches: 3,
      rooms: [
        { name: 'Ticket hall', benches: 2 },
        { name: 'Loft: upper', benches: 1 },
      ],
      opens: 'daily 07:00-19:00',
      limits: ['08:00-18:00 40'],
    },
  ],
  Ways: ['/ways', { from: 'North Quay', to: 'South', minutes: 25 }],
  'Closed days': ['/closures/feast', { name: 'Feast', site: null, at: '2026-12-24..2026-12-26' }],
  Deliveries: ['/deliveries/d/1', { name: 'First', arrives: '2026-12-08 12:00', tags: ['KB-1', 'KB-2'] }],
  Spares: ['/spares/KB-90', { site: 'North Quay', model: 'Gannet 14', trouble: null }],
  Waves: ['/waves/w', { name: 'Office', from: '2026-12-07', until: '2026-12-09' }],
  Groups: ['/groups/pay', { name: 'Pay office', swaps: ['spring-0003', 'spring-0007'], atOnce: 1, oneDay: false }],
  Depots: [
    '/depots/k',
    {
      name: 'Cloud',
      address: 'http://c/',
      capacityBytes: 1_500_000_000,
      dailyBytes: null,
      holdDays: 7,
      endsOn: '2027-01-31',
      sealTo: ['age1x'],
      copyTo: 'safe',
      limits: ['200'],
    },
  ],
  Programs: ['/catalogue/berth', { program: 'Berth*', offer: 'Berth 7', where: 'shop', isLicenceBound: true }],
  'Lengths set by hand': [
    '/estimates/model/Gannet 14',
    {
      beforeMinutes: null,
      unattendedMinutes: 60,
      afterMinutes: null,
      bench: { site: 'North Quay', handsOnMinutes: 20, unattendedMinutes: 90, gapMinutes: 30 },
    },
  ],
}

describe('every kind of thing', () => {
  it.each(things.map((t) => [t.name, t] as const))(
    '%s: what is opened and saved without a change says to the service just what it said',
    async (name, thing) => {
      const [path, body] = told[name] ?? ['', null]
      service.answers[`PUT /api/refreshes/spring${path}`] = {}
      const row = thing.rows(world)[0]
      expect(row?.cells).toHaveLength(thing.heads.length)
      await thing.put('spring', row?.values ?? {})
      expect(service.asked).toMatchObject([{ method: 'PUT', path: `/api/refreshes/spring${path}`, body }])
      for (const field of thing.fields) if (field.needed) expect(row?.values[field.key], field.key).toBeTruthy()
    },
  )
})

describe('the page', () => {
  const open = async () => {
    showPage('/capacity', CapacityPage, ['/swaps/$swap'])
    await screen.findByRole('heading', { name: 'Capacity' })
  }

  it('keeps what was typed when the service refuses it, and says why', async () => {
    service.answers['PUT /api/refreshes/spring/technicians/noor'] = new Refusal(
      422,
      "The shifts '08:00-12:00' and '11:00-13:00' of Noor Haddad overlap on a Monday.",
    )
    const user = userOfTest()
    await open()
    await user.click(screen.getByRole('button', { name: 'Change Noor Haddad' }))
    const dialog = await screen.findByRole('dialog')
    expect(within(dialog).getByLabelText(/Key/)).toBeDisabled()
    // Hours have fields, and the text as a second way.
    expect(within(dialog).getAllByRole('group', { name: /^Shifts, / })).not.toHaveLength(0)
    await user.click(within(within(dialog).getByText('Shifts').parentElement as HTMLElement).getByRole('button', { name: 'As text' }))
    const shifts = within(dialog).getByRole('textbox', { name: 'Shifts' })
    await user.clear(shifts)
    await user.type(shifts, '08:00-12:00{Enter}11:00-13:00')
    await user.click(within(dialog).getByRole('button', { name: 'Save' }))
    expect(await within(dialog).findByRole('alert')).toHaveTextContent('overlap on a Monday')
    expect(shifts).toHaveValue('08:00-12:00\n11:00-13:00')
    service.answers['PUT /api/refreshes/spring/technicians/noor'] = {}
    await user.click(within(dialog).getByRole('button', { name: 'Save' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  })

  it('takes over what swaps really took, and leaves the bench and what was not seen as they are set', async () => {
    const real = (of: string, more: object) => ({
      scope: 'model',
      of,
      swaps: 5,
      beforeMinutes: 25,
      unattendedMinutes: null,
      afterMinutes: 18,
      rule: null,
      ...more,
    })
    service.answers['GET /api/refreshes/spring/lengths'] = [
      real('Gannet 14', { rule: world.estimates[0] }),
      real('Petrel 13', { rule: { ...world.estimates[0], of: 'Petrel 13', beforeMinutes: 25, unattendedMinutes: 60, afterMinutes: 18 } }),
    ]
    service.answers['PUT /api/refreshes/spring/estimates/model/Gannet 14'] = {}
    await open()
    const card = await screen.findByRole('region', { name: 'How long it really took' })
    expect(within(card).getAllByText('taken over')).toHaveLength(1)
    await userOfTest().click(within(card).getByRole('button', { name: 'Take over for model Gannet 14' }))
    await waitFor(() =>
      expect(service.changes()).toMatchObject([
        { body: { beforeMinutes: 25, unattendedMinutes: 60, afterMinutes: 18, bench: world.estimates[0]?.bench } },
      ]),
    )
  })

  it('finds the people of a group by name, and names their swaps to the service', async () => {
    service.answers['GET /api/refreshes/spring/swaps'] = { items: [{ id: 'spring-0012', name: 'Bea Lindo' }], total: 1, next: null }
    service.answers['PUT /api/refreshes/spring/groups/pay'] = {}
    const user = userOfTest()
    await open()
    await user.click(screen.getByRole('button', { name: 'Change Pay office' }))
    const dialog = within(await screen.findByRole('dialog'))
    expect(dialog.getByText('Per Lunde')).toBeVisible()
    await user.type(dialog.getByRole('combobox', { name: /Who/ }), 'bea')
    await user.click(await screen.findByRole('option', { name: 'Bea Lindo' }))
    expect(await dialog.findByText('Bea Lindo')).toBeVisible()
    await user.click(dialog.getByRole('button', { name: 'Save' }))
    await waitFor(() =>
      expect(service.changes()).toMatchObject([{ body: { swaps: ['spring-0003', 'spring-0007', 'spring-0012'], atOnce: 1 } }]),
    )
  })

  it('says how people choose, keeps what was typed when it is refused, and shows who waits', async () => {
    service.answers['GET /api/refreshes/spring/waiting'] = [
      {
        swap: 'spring-0003',
        name: 'Per Lunde',
        site: 'North Quay',
        from: '2026-12-08T08:00:00Z',
        until: '2026-12-08T12:00:00Z',
        at: '2026-12-01T09:30:00Z',
        start: null,
      },
    ]
    service.answers['PUT /api/refreshes/spring/choosing'] = new Refusal(422, 'Choosing ends 2 to 720 hours before the appointment, not 1.')
    const user = userOfTest()
    await open()
    const card = within(await screen.findByRole('region', { name: 'Choosing times' }))
    expect(await card.findByRole('row', { name: /Per Lunde North Quay no time/ })).toHaveTextContent('Tue 8 Dec 8:00 to Tue 8 Dec 12:00')
    expect(card.getByRole('button', { name: 'Save' })).toBeDisabled()
    const hours = card.getByLabelText('Choosing ends')
    await user.clear(hours)
    await user.type(hours, '1')
    await user.clear(card.getByLabelText('May begin at one time'))
    await user.click(card.getByRole('button', { name: 'Save' }))
    expect(await card.findByRole('alert')).toHaveTextContent('2 to 720 hours')
    expect(hours).toHaveValue('1')
    service.answers['PUT /api/refreshes/spring/choosing'] = { untilHours: 48, mostPerSlot: null }
    await user.type(hours, '{Backspace}48')
    await user.click(card.getByRole('button', { name: 'Save' }))
    await waitFor(() => expect(card.queryByRole('alert')).toBeNull())
    expect(service.changes().at(-1)).toMatchObject({ body: { untilHours: 48, mostPerSlot: null } })
    expect(card.getByLabelText('May begin at one time')).toHaveValue('')
  })

  it('saves nothing while something needed is missing', async () => {
    const user = userOfTest()
    await open()
    await user.click(screen.getByRole('button', { name: 'Add a wave' }))
    const save = within(await screen.findByRole('dialog')).getByRole('button', { name: 'Save' })
    expect(save).toBeDisabled()
    expect(save).toHaveAttribute('title', 'Missing: Name, First day, Last day')
    expect(service.changes()).toHaveLength(0)
  })

  it('makes the key of a new thing from its name, and takes sites by name and hours by fields', async () => {
    service.answers['PUT /api/refreshes/spring/technicians/noor-haddad-2'] = {}
    service.answers['GET /api/refreshes/spring/world'] = {
      ...world,
      technicians: [...world.technicians, { ...world.technicians[0], key: 'noor-haddad', name: 'Noor Haddad' }],
    }
    const user = userOfTest()
    await open()
    await user.click(screen.getByRole('button', { name: 'Add a technician' }))
    const dialog = await screen.findByRole('dialog')
    expect(within(dialog).queryByLabelText(/Key/)).toBeNull()
    await user.type(within(dialog).getByLabelText(/^Name/), 'Noor Haddad')
    await user.click(within(dialog).getByRole('combobox', { name: /Sites/ }))
    await user.click(await screen.findByRole('option', { name: world.sites[0]?.name ?? '' }))
    const morning = within(dialog).getByRole('group', { name: 'Shifts, 1' })
    await user.click(within(morning).getByLabelText('Sa'))
    await user.click(within(dialog).getByRole('button', { name: 'Save' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(service.changes()[0]?.body).toMatchObject({
      name: 'Noor Haddad',
      sites: [world.sites[0]?.key],
      shifts: ['mon,tue,wed,thu,fri,sat 08:00-12:00', '12:45-16:30'],
    })
  })

  it('takes a thing out by its key', async () => {
    service.answers['DELETE /api/refreshes/spring/estimates/model/Gannet 14'] = {}
    const user = userOfTest()
    await open()
    await user.click(screen.getByRole('button', { name: 'Change model Gannet 14' }))
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Take out' }))
    await waitFor(() =>
      expect(service.changes()).toMatchObject([{ method: 'DELETE', path: '/api/refreshes/spring/estimates/model/Gannet 14' }]),
    )
  })

  it('takes a list of technicians only after it was looked at, and whole', async () => {
    const list = (over: Partial<Schemas['TechniciansTaken']>): Schemas['TechniciansTaken'] => ({
      dryRun: true,
      added: 1,
      changed: 0,
      same: 1,
      technicians: [{ key: 'vera', name: 'Vera Lindqvist', sites: ['North Quay'], shifts: ['08:00-12:00'], skills: ['mac'], absences: [] }],
      rejected: [],
      ...over,
    })
    const path = 'POST /api/refreshes/spring/technicians/table'
    service.answers[path] = list({
      rejected: [{ line: 3, column: 'sites', value: 'Nort', reason: 'this site is not in the refresh.', remedy: 'It has North Quay.' }],
    })
    const user = userOfTest()
    await open()
    const choose = () =>
      user.upload(screen.getByLabelText('Take a list'), new File(['name\nVera'], 'technicians.csv', { type: 'text/csv' }))
    await choose()
    const dialog = within(await screen.findByRole('dialog'))
    expect(await dialog.findByText(/Line 3, sites/)).toBeVisible()
    expect(dialog.getByRole('button', { name: 'Take them' })).toBeDisabled()
    await user.click(dialog.getByRole('button', { name: 'Cancel' }))
    service.answers[path] = list({})
    await choose()
    const again = within(await screen.findByRole('dialog'))
    expect(await again.findByText(/knows mac/)).toBeVisible()
    await user.click(again.getByRole('button', { name: 'Take them' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(service.changes()).toHaveLength(3)
  })
})
