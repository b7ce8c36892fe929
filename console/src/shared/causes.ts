/** Things of one cause, in the order in which the first of each came. */
export function byCause<T>(items: readonly T[], causeOf: (item: T) => string): [T, ...T[]][] {
  const groups = new Map<string, [T, ...T[]]>()
  for (const item of items) {
    const group = groups.get(causeOf(item))
    if (group) group.push(item)
    else groups.set(causeOf(item), [item])
  }
  return [...groups.values()]
}

/** Some names in a line, and how many more there are. */
export function someOf(names: readonly string[], most = 3) {
  const shown = [...new Set(names)]
  return shown.length <= most + 1 ? shown.join(', ') : `${shown.slice(0, most).join(', ')} and ${shown.length - most} more`
}
