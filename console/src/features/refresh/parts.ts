/** What the parts of a set-up are called, and what stands behind each. */
export const parts: Record<string, { name: string; why: string; to?: string; action: string }> = {
  days: { name: 'Name, days, zone', why: 'what it is called and when it is', action: 'Change…' },
  people: { name: 'People and computers', why: 'who gets which computer', to: '/roster', action: 'Take a list…' },
  sites: { name: 'Sites', why: 'where swaps happen, and how many at once', to: '/capacity#Sites', action: 'Rooms, hours…' },
  technicians: { name: 'Technicians', why: 'who does the swaps', to: '/capacity#Technicians', action: 'Add…' },
  depot: { name: 'Where files go', why: 'a depot, in which files lie on their way', action: 'Choose…' },
  hands: { name: 'Hands at the computers', why: 'a small program that carries the files', to: '/hands', action: 'Codes…' },
  accounts: { name: 'Who may do what', why: 'accounts to sign in by', to: '/accounts', action: 'Accounts…' },
  notices: { name: 'Telling people', why: 'mails about their time', to: '/told', action: 'Mails…' },
  plan: { name: 'The plan', why: 'a time for each swap', to: '/plan', action: 'Plan…' },
}
