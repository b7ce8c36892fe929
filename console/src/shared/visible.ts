// Marks that turn the direction of text, part lines, or take no room (Unicode Standard, 23.2 and 23.8), and control characters.
const unseen = /[\p{Cc}\u061C\u200B\u200E\u200F\u2028-\u202E\u2060\u2066-\u2069\uFEFF]/gu

/** A text of others, such as the name of a file, as people see it: what would move or turn what stands beside it is written as its number. */
export const visible = (text: string) => text.replace(unseen, (c) => `\\u${c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`)
