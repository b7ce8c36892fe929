import { cleanup, render, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { Around, userOfTest } from '../../test-page'
import { service } from '../../test-service'
import { FolderPicker, treeOf } from './FolderPicker'

const node = (path: string, bytes: number, newest = '2026-01-01T00:00:00Z'): Schemas['FolderNode'] => ({
  path,
  files: { files: 3, bytes },
  newest,
  smaller: 0,
})
const nodes = [node('ida', 9e9), node('ida/Films', 8e9, '2020-01-01T00:00:00Z'), node('ida/Films/Old', 7e9), node('ida/Tides', 1e9)]
const list = {
  lines: [{ path: 'ida/Tides', choice: 'leave-out', reason: 'x', by: 'kit' }],
  whole: [],
  first: [],
} as unknown as Schemas['CarryListSeen']

beforeEach(() => service.reset())
afterEach(() => cleanup())

describe('folders to pick from', () => {
  it('stand in a tree, also where one in between was cut away', () => {
    expect(treeOf(nodes).map((t) => [t.path, t.inside.map((i) => [i.name, i.inside.length])])).toEqual([
      [
        'ida',
        [
          ['Films', 1],
          ['Tides', 0],
        ],
      ],
    ])
    expect(treeOf([node('a', 1), node('a/b/c', 1)]).map((t) => t.path)).toEqual(['a', 'a/b/c'])
  })

  it('are looked at when asked, and what is picked is decided in one go', async () => {
    service.answers['POST /api/swaps/s-1/orders'] = { id: 'o', madeAt: '2026-11-26T10:00:00Z' }
    service.answers['GET /api/swaps/s-1/folders'] = { at: '2026-11-26T10:00:02Z', folders: nodes, deeper: 0 }
    service.answers['PUT /api/swaps/s-1/carry-list'] = list
    const user = userOfTest()
    let closed = false
    render(
      <Around>
        <FolderPicker swap="s-1" list={list} close={() => (closed = true)} />
      </Around>,
    )
    await user.click(screen.getByRole('button', { name: 'Look at the folders' }))
    const tides = await screen.findByRole('checkbox', { name: 'ida/Tides stays' })
    expect((tides as HTMLInputElement).checked).toBe(true)
    await user.click(tides)
    await user.click(screen.getByRole('button', { name: /Films/ }))
    await user.click(screen.getByRole('checkbox', { name: 'ida/Films/Old stays' }))
    // The whole folder takes the place of what is in it.
    await user.click(screen.getByRole('checkbox', { name: 'ida/Films stays' }))
    expect(screen.getByRole('checkbox', { name: 'ida/Films/Old stays' }).hasAttribute('disabled')).toBe(true)
    const save = screen.getByRole('button', { name: 'Save' })
    expect(save.hasAttribute('disabled')).toBe(true)
    await user.type(screen.getByRole('textbox'), 'on the film server')
    await user.click(save)
    expect(service.changes().at(-1)).toMatchObject({
      path: '/api/swaps/s-1/carry-list',
      body: {
        decisions: [
          { path: 'ida/Films', choice: 'leave-out', reason: 'on the film server' },
          { path: 'ida/Tides', choice: 'carry' },
        ],
      },
    })
    await expect.poll(() => closed).toBe(true)
  })
})
