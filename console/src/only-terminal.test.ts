import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { onlyTerminal } from './only-terminal'

const sources = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name)
    if (entry.isDirectory()) return sources(path)
    return /\.tsx?$/.test(entry.name) && !/\.test\.|generated|only-terminal/.test(entry.name) ? [readFileSync(path, 'utf8')] : []
  })

describe('what the service can do', () => {
  const text = sources(join(__dirname)).join('\n')
  const called = new Set([...text.matchAll(/api\.(GET|POST|PUT|DELETE)\(\s*'([^']+)'/g)].map(([, method, path]) => `${method} ${path}`))
  // Files are sent and fetched by addresses that are put together: the method is not seen there.
  const put = [...text.matchAll(/["'`](\/api\/[^"'`\s]*)/g)].map(([, path]) => path?.replace(/\$\{[^}]*\}/g, '*').split('?')[0])
  const { paths } = JSON.parse(readFileSync(join(__dirname, '../../src/Service/openapi.json'), 'utf8')) as {
    paths: Record<string, Record<string, unknown>>
  }
  const all = Object.entries(paths).flatMap(([path, methods]) => Object.keys(methods).map((m) => `${m.toUpperCase()} ${path}`))
  const isReached = (call: string) => called.has(call) || put.includes(call.split(' ')[1]?.replace(/\{[^}]+\}/g, '*'))

  it('a page can, but for what only a terminal needs', () => {
    expect(all.filter((call) => !isReached(call) && !(call in onlyTerminal))).toEqual([])
  })

  it('and that list names nothing that is not there, or that a page can', () => {
    expect(Object.keys(onlyTerminal).filter((call) => !all.includes(call) || called.has(call))).toEqual([])
  })
})
