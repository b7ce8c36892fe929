const kept = new Map<string, Intl.DateTimeFormat>()

/** A formatter of times in a zone. Making one costs more than a thousand uses of it, so each is made once. */
export function formatter(zone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = zone + JSON.stringify(options)
  const found = kept.get(key) ?? new Intl.DateTimeFormat('en-GB', { ...options, timeZone: zone })
  kept.set(key, found)
  return found
}
