/** What the text form writes as a word, in words for people. */
export const kindWords: Record<string, string> = {
  tick: 'Tick',
  confirmation: 'The person says so',
  text: 'Text',
  number: 'Number',
  choice: 'One of several answers',
  again: 'Again until',
  timed: 'Takes its time',
  restart: 'Restart',
  scan: 'Tag is read',
  photo: 'Photo',
  automatic: 'The system sees it',
}

export const kindHelp: Record<string, string> = {
  tick: 'A technician says that it is done.',
  confirmation: 'The person says so, and the technician writes it down.',
  text: 'Something is written down.',
  number: 'A number is read off.',
  choice: 'One of the answers is chosen; later steps can depend on it.',
  again: 'It is run until its result is there; each run counts.',
  timed: 'It is started, left to itself, and ended; its time is measured.',
  restart: 'The same, for a restart of the computer.',
  scan: 'The tag that is read must be that of this swap.',
  photo: 'A picture is taken; place and camera are taken out of it.',
  automatic: 'It is done as soon as the fact is there; nobody can tick it.',
}

export const factWords: Record<string, string> = {
  surveyed: 'The old computer is surveyed',
  'staged-and-verified': 'The files are staged, and verified',
  'closing-trip-done': 'The closing trip is made',
  'restored-and-verified': 'The files are restored, and verified',
  'account-closed': 'Every file is accounted for',
  'signed-out': 'No cloud is signed in on the old computer',
  'programs-found': 'The programs are on the new computer',
  'free-disk': 'There is room on the new computer',
  'passphrase-set': 'The person has set a passphrase',
}

export const phaseWords: Record<string, string> = { before: 'Before', swap: 'Swap', after: 'After', 'hand-in': 'Hand-in' }

export const stationWords: Record<string, string> = {
  told: 'Told',
  swapped: 'Swapped',
  accepted: 'Accepted',
  'handed-in': 'Handed in',
}

export const swapWords: Record<string, string> = {
  renew: 'Renew',
  second: 'Second computer',
  reimage: 'Set up afresh',
  rescue: 'Rescue',
  leave: 'Leave',
  issue: 'First computer',
}

export const platformWords: Record<string, string> = { linux: 'Linux', windows: 'Windows', mac: 'macOS' }

export const changeWords: Record<string, string> = {
  added: 'New',
  dropped: 'Gone',
  reworded: 'Reads otherwise',
  'asks-anew': 'Asks for something else',
}

/** Entries of a select. */
export const optionsOf = (words: Record<string, string>) => Object.entries(words).map(([value, label]) => ({ value, label }))
