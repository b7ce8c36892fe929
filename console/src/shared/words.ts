/** What pages are for that somebody has open all day. */
export const purposes = {
  today: 'what needs you now, and what goes on by itself',
  round: 'what you do now, and what comes then',
  yard: 'where every swap is, and what is stuck',
}

/** Our words, as somebody would say them who explains the work to a new colleague. */
export const words = {
  swap: 'One person’s change of computer, from the first word to the old computer’s hand-in.',
  hand: 'A small program at a person’s computer that looks at its files and carries them. It asks this service for its orders.',
  parcel: 'All that was carried of one person’s files, as it lies in a depot, with lists and digests that prove it.',
  trip: 'One run of a hand that brings files from the old computer into the parcel: a first one, top-ups, and a closing one at the swap.',
  depot: 'A place where parcels lie on their way: this service’s own room, a share, a cloud, a disk.',
  bench: 'A place at a site where one swap, or one preparation of a new computer, can go on at a time.',
  snag: 'A file that could not be carried or restored as it is. Somebody tries again, or gives it up by name and reason.',
  waiver: 'A person’s decision, with a reason that stays, that a file is given up. Without it the account does not close.',
  hold: 'How long something is kept after its swap was signed off: a parcel in its depot, an old computer on its shelf.',
  round: 'A technician’s day in order: what to do now, what comes then, and what goes on by itself meanwhile.',
  yard: 'The whole refresh seen from above: how many swaps wait before each station, what is stuck, and how far it is.',
  'follow-up': 'What the desk could not settle: with an owner, a time, and what it holds up.',
} as const
