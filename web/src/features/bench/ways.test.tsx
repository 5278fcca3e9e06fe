import { beforeEach, describe, expect, it, vi } from 'vitest'

const put = vi.hoisted(() => vi.fn())
const found = vi.hoisted(() => ({ data: undefined as unknown }))
vi.mock('../../api/queries', () => ({
  outbox: { put, subscribe: () => () => undefined, stuck: () => [] },
  useWays: () => found,
}))

import type { Way, Ways } from '../../api/types'
import { undoLast } from '../../app/undo'
import { atTheBench } from '../../test/bench'
import { press, shown } from '../../test/render'
import { WaysPanel } from './WaysPanel'

const way = (by: string, changes: Partial<Way> = {}): Way => ({
  by,
  why: `why ${by}`,
  operations: [],
  total_minutes: 41.2,
  open_minutes: 18,
  close_minutes: 21,
  driver_changes: 6,
  screws: 23,
  loosened: 2,
  wires: 1,
  people: 1,
  drivers: ['1/4 in hex driver'],
  takes: [],
  spares: [],
  also_reaches: [],
  longer: 0,
  optimal: true,
  gap_minutes: 0,
  avoid: ['drum'],
  through: ['panel'],
  chosen: false,
  ...changes,
})

const ways = (changes: Partial<Ways> = {}): Ways => ({
  ways: [
    way('by the back', { chosen: true }),
    way('by the front', { longer: 22, avoid: [], through: ['drum'] }),
  ],
  tools: [{ text: '5/16 in hex driver', fits_also: ['8 mm hex driver'], operations: ['panel', 'front'] }],
  to_mend: ['vacuum'],
  used_up: ['cable tie'],
  gear: ['gloves'],
  schools: ['Some always take the drum out.'],
  for_two: ['chassis'],
  avoided: [],
  no_way: null,
  ...changes,
})

const sent = () => put.mock.calls.map(([write]) => write.body)

beforeEach(() => {
  put.mockReset().mockResolvedValue({ state: 'sent', answer: {} })
  found.data = ways()
})

describe('ways in', () => {
  it('stand side by side with what they cost and why; our pick is marked', async () => {
    const host = await shown(<WaysPanel job={atTheBench()} open />)
    expect(host.textContent).toContain('2 ways in, and the kit')
    expect(host.textContent).toContain('41 min')
    expect(host.textContent).toContain('23 out, 2 loosened, 1 wire · 1 drivers, 6 changes')
    expect(host.textContent).toContain('✓ our pick')
    expect(host.textContent).toContain('Some always take the drum out.')
    expect(host.textContent).toContain('(or 8 mm hex driver)')
    expect(host.textContent).toContain('cable tie')
  })

  it('are chosen by one press, and given back', async () => {
    const host = await shown(<WaysPanel job={atTheBench()} open />)
    await press(host, 'Go this way')
    expect(sent()[0]).toMatchObject({ also: null, avoid: [], through: ['drum'] })
    undoLast(atTheBench().id)
    expect(sent()[1]).toMatchObject({ also: null, avoid: ['drum'], through: ['panel'] })
  })

  it('go round what one person or this bag cannot do, until they are allowed again', async () => {
    const host = await shown(<WaysPanel job={atTheBench()} open />)
    await press(host, 'not in the bag')
    await press(host, 'Alone today')
    found.data = ways({ avoided: ['chassis', 'panel'] })
    const round = await shown(<WaysPanel job={atTheBench()} open />)
    expect(round.textContent).toContain('Going round 2 operations.')
    await press(round, 'Alone today')
    await press(round, 'Allow them again')
    expect(sent().map((body) => body.avoid)).toEqual([['panel', 'front'], ['chassis'], ['panel'], []])
  })

  it('say when nothing goes as wanted, and nothing where there is none', async () => {
    found.data = ways({ no_way: 'nothing reaches it' })
    expect((await shown(<WaysPanel job={atTheBench()} open />)).textContent).toContain(
      'As wanted it does not go: nothing reaches it',
    )
    found.data = ways({ ways: [] })
    expect(await shown(<WaysPanel job={atTheBench()} open />)).toHaveProperty('innerHTML', '')
  })
})
