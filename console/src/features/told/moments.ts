/** What people are told when, in the words of the trade. */
export const moments: Record<string, string> = {
  announced: 'announced',
  booked: 'their time',
  moved: 'another time',
  unbooked: 'time taken back',
  'exchange-asked': 'an exchange asked for',
  answered: 'an answer',
  'new-link': 'a new link',
  'called-off': 'called off',
  'comes-along': 'what comes along',
  reminder: 'what is theirs to do',
  'day-before': 'the day before',
  'urgent-ready': 'first folders are there',
  'please-accept': 'asked to accept',
  'wipe-ahead': 'wipe ahead',
  'held-ends': 'files removed soon',
}
