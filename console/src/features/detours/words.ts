import type { Detour } from './queries'

/** What happened, in the words of whoever stands at the desk, and what it leads to. */
export const detours: Record<Detour, [what: string, leads: string]> = {
  noShow: ['Nobody is there', 'The time is free again, and another one is found.'],
  late: ['They come later', 'A later time that day, without moving anybody else.'],
  later: ['They want all of it another day', 'The time is free again, and another one is found from the day they name.'],
  wrongPerson: ['Somebody else came', 'When theirs is; the two can have each other’s time.'],
  personGone: ['They do not come any more', 'Somebody else receives the files, or the swap is called off.'],
  wrongComputer: ['Another new computer was delivered', 'It is exchanged or taken; what was prepared is prepared again.'],
  deadOnArrival: ['The new computer does not work', 'A spare takes its place.'],
  oldDiskDied: ['The old disk died', 'The swap goes on from the last good trip, and says what is missing.'],
  stolen: ['The old computer was stolen', 'It is shut out at once, the swap goes on without it, and it is said who must hear of it.'],
  lost: ['The old computer is lost', 'The same: whoever has it gets nothing more of ours.'],
  found: ['The old computer is here again', 'Where nothing was restored yet, all goes on as it was planned.'],
  filesMissed: ['They miss files', 'Where copies are; parcel and old computer are kept until it is answered.'],
  calledOff: ['Call the swap off', 'It waits for nothing any more; what was carried is held.'],
  resumed: ['It takes place after all', 'The next plan finds it a time.'],
}

/** In the order in which they are offered: the person, the computers, the files, the swap. */
export const inOrder = Object.keys(detours) as Detour[]

/** What only a coordinator decides. */
export const decides: Detour[] = ['personGone', 'calledOff', 'resumed']

export const needsReason: Detour[] = ['personGone', 'deadOnArrival', 'calledOff', 'filesMissed']

/** What to ask for, where a reason is asked. */
export const reasonLabel = (kind: Detour) =>
  kind === 'filesMissed' ? 'Which files, and where were they?' : needsReason.includes(kind) ? 'Why?' : 'What is there to say about it?'
