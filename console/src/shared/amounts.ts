const units = ['B', 'kB', 'MB', 'GB', 'TB', 'PB']

/** 0 B, 48 kB, 6.1 GB: decimal units, at most one decimal. */
export function bytesText(bytes: number): string {
  let value = bytes
  let unit = 0
  for (; Math.abs(value) >= 999.5 && unit < units.length - 1; unit++) value /= 1000
  return `${unit === 0 || value >= 99.95 ? Math.round(value) : Math.round(value * 10) / 10} ${units[unit]}`
}

/** Blank instead of zero. */
export const countText = (count: number) => (count === 0 ? '' : count.toLocaleString('en-GB'))

export const filesText = (count: number) => (count === 1 ? '1 file' : `${count.toLocaleString('en-GB')} files`)

/** 8 s, 3 min, 1 h 20, 2 d. */
export function ageText(seconds: number): string {
  if (seconds < 90) return `${Math.max(0, Math.round(seconds))} s`
  if (seconds < 90 * 60) return `${Math.round(seconds / 60)} min`
  if (seconds < 36 * 3600) return `${Math.floor(seconds / 3600)} h ${String(Math.floor((seconds % 3600) / 60)).padStart(2, '0')}`
  return `${Math.round(seconds / 86400)} d`
}
