/** A key for machines from a name for people: small letters, digits and '-', at most 40; turn 2 and on have their number behind. */
export function keyOf(name: string, turn = 1) {
  const plain = name
    .normalize('NFKD')
    .replace(/ß/g, 'ss')
    .replace(/[̀-ͯ]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
  const end = turn > 1 ? `-${turn}` : ''
  return `${(plain || 'r').slice(0, 40 - end.length).replace(/-+$/, '')}${end}`
}
