import { beforeEach, describe, expect, it, vi } from 'vitest'

const put = vi.hoisted(() => vi.fn())
vi.mock('../../api/queries', () => ({
  outbox: { put, subscribe: () => () => undefined, stuck: () => [], flush: async () => undefined },
  jobNow: () => undefined,
  useWaiting: () => [],
  useWays: () => ({ data: undefined }),
}))

import type { Discrepancy, Job } from '../../api/types'
import { undoLast } from '../../app/undo'
import { aBench, atTheBench, compartment, fastener } from '../../test/bench'
import { aJob, step } from '../../test/fixtures'
import { press, shown, submit, type } from '../../test/render'
import { BenchPanel } from './BenchPanel'
import { Cutaway } from './Cutaway'
import { GatePanel } from './GatePanel'
import { Tray } from './Tray'

const sent = () => put.mock.calls.map(([write]) => write.body)
const panel = (job: Job, stage: 'open' | 'close' = 'open') => (
  <BenchPanel
    job={job}
    stage={stage}
    asked={false}
    onAsk={() => undefined}
    trayOpen={false}
    onTray={() => undefined}
  />
)

beforeEach(() => {
  put.mockReset().mockResolvedValue({ state: 'sent', answer: {} })
  vi.stubGlobal('matchMedia', () => ({ matches: true, addEventListener() {}, removeEventListener() {} }))
})

describe('one operation at a time', () => {
  it('says what to do, counts by thumb, and asks at once for what differs', async () => {
    const host = await shown(panel(atTheBench()))
    expect(host.querySelector('p.text-2xl')?.textContent).toBe('Take off the blower cover')
    expect(host.textContent).toContain('How many came out?')
    expect(host.textContent).toContain('behind the wire clip')
    await press(host, '4')
    expect(sent()[0]).toMatchObject({
      step: 'open.cover',
      what: 'fastener',
      key: 'hex_head 18 mm',
      state: 'out',
      count: 4,
    })
    const short = fastener({ came: 4, counted: true, differs: true, left: 4 })
    const counted = await shown(
      panel(atTheBench({ compartments: [compartment('cover', { fasteners: [short] })] })),
    )
    expect(counted.querySelector('[role=status]')?.textContent).toContain('One is still in')
  })

  it('takes a count back to what was expected', async () => {
    const host = await shown(panel(atTheBench()))
    await press(host, '6')
    undoLast(atTheBench().id)
    expect(sent().map((body) => body.count)).toEqual([6, 5])
  })

  it('wants loosened ones and wires said on the way back', async () => {
    const loose = fastener({ state: 'loosened', key: 'keyhole', came: 2, expected: 2, left: 2, hidden: null })
    const place = compartment('cover', { state: 'open', fasteners: [loose] })
    const wires = place.wires.map((wire) => ({ ...wire, off: true }))
    const job = atTheBench({ compartments: [compartment('wheel', { fasteners: [] }), { ...place, wires }] })
    const closing = {
      ...job,
      settled: ['close.wheel'],
      marks: [{ id: 'm', step: 'close.wheel', state: 'done' as const, why: '', by: 'Ada', at: '' }],
    }
    const host = await shown(panel(closing, 'close'))
    expect(host.textContent).toContain('tight again: they never came out')
    expect([...host.querySelectorAll('fieldset [aria-pressed=true]')]).toHaveLength(0)
    await press(host, '2')
    await press(host, 'On')
    expect(sent()).toMatchObject([
      { state: 'tight', count: 2 },
      { what: 'wire', key: 'motor · plug', state: 'on' },
    ])
  })

  it('draws what is in hand, and the way of the air', async () => {
    const job = atTheBench()
    const host = await shown(<Cutaway job={job} step={job.open[0]} />)
    expect(host.querySelector('svg')?.getAttribute('aria-label')).toContain('Door screen, from the side')
    expect(host.textContent).toContain('one behind the wire clip')
    expect(await shown(<Cutaway job={aJob()} step={step('x')} />)).toHaveProperty('innerHTML', '')
  })
})

describe('the tray', () => {
  it('shows what lies in it, and says loosened ones in words', async () => {
    const out = compartment('cover', { state: 'open', fasteners: [fastener({ came: 5, left: 5 })] })
    const loose = compartment('keyholes', {
      state: 'open',
      fasteners: [fastener({ state: 'loosened', came: 2, left: 2 })],
    })
    const host = await shown(<Tray job={atTheBench({ compartments: [out, loose] })} />)
    expect(host.textContent).toContain('7 fasteners out or loose')
    expect(host.querySelectorAll('svg')).toHaveLength(5)
    expect(host.textContent).toContain('2 loose, still in: tighten')
    expect((await shown(<Tray job={atTheBench()} />)).textContent).toContain('Fills as you open')
  })
})

describe('the gate', () => {
  const problem = (code: Discrepancy['code'], changes: Partial<Discrepancy> = {}): Discrepancy => ({
    code,
    step: 'open.cover',
    subject: 'hex_head 18 mm',
    expected: 5,
    counted: 4,
    text: `It stands on ${code}`,
    ...changes,
  })
  const gate = (discrepancies: Discrepancy[], changes = {}) =>
    atTheBench({
      compartments: [
        compartment('cover', {
          state: 'closed',
          fasteners: [fastener({ came: 5, back: 4, left: 1 })],
          parts: [{ part: 'tie', text: 'tie', carried_over: false, settled: false, why: '', said: null }],
          wires: compartment('x').wires.map((wire) => ({
            ...wire,
            off: true,
            contradicts: true,
            notes: [
              { colour: 'red', text: 'red', by: 'Ada' },
              { colour: 'blue', text: 'blue', by: 'Wren' },
            ],
          })),
        }),
      ],
      gate: { ...aBench().gate, discrepancies, ...changes },
    })

  it.each<[Discrepancy['code'], string, object]>([
    ['still_loose', 'All 5 tight now', { state: 'tight', count: 5 }],
    ['left_over', 'Found its hole', { state: 'back', count: 5 }],
    ['left_over', 'Moved to the new part', { state: 'moved', count: 1 }],
    ['left_over', 'Replaced by a new one', { state: 'replaced', count: 1 }],
    ['more_than_came', '4 had come out', { state: 'out', count: 4 }],
    ['tools', 'All 5 are in the bag', { what: 'tool', state: 'counted', count: 5, step: '' }],
  ])('settles %s by one press', async (code, button, body) => {
    const at = code === 'tools' ? { step: '' } : {}
    const host = await shown(<GatePanel job={gate([problem(code, at)])} older={false} />)
    expect(host.textContent).toContain(`It stands on ${code}`)
    await press(host, button)
    expect(sent()[0]).toMatchObject(body)
  })

  it.each<[Discrepancy['code'], string, object]>([
    ['wire_off', 'On its terminal', { what: 'wire', state: 'on' }],
    ['wire_contradicts', 'blue', { what: 'wire', state: 'noted', count: 0, note: 'blue' }],
  ])('settles %s at its wire', async (code, button, body) => {
    const host = await shown(
      <GatePanel job={gate([problem(code, { subject: 'motor · plug' })])} older={false} />,
    )
    await press(host, button)
    expect(sent()[0]).toMatchObject(body)
  })

  it('takes a part as new, and a missing screw only with a reason', async () => {
    const host = await shown(<GatePanel job={gate([problem('used_up', { subject: 'tie' })])} older={false} />)
    await press(host, 'a new one is in')
    const missing = await shown(<GatePanel job={gate([problem('missing')])} older={false} />)
    expect(missing.querySelector<HTMLButtonElement>('form button')?.disabled ?? false).toBe(false)
    await submit(missing)
    expect(sent()).toHaveLength(1)
    await type(missing, 'fell behind the wall')
    await submit(missing)
    expect(sent()).toMatchObject([{ state: 'renewed' }, { state: 'missing', note: 'fell behind the wall' }])
  })

  it('says what was accepted, what to order, and that nothing is left over', async () => {
    const accepted = [problem('missing', { text: '1 screw missing: ordered' })]
    const host = await shown(
      <GatePanel job={gate([], { clear: true, accepted, orders: ['1 hex head screw'] })} older={true} />,
    )
    expect(host.textContent).toContain('✓ Closed: nothing left over')
    expect(host.textContent).toContain('1 screw missing: ordered')
    expect(host.textContent).toContain('To order: 1 hex head screw')
    expect(host.textContent).toContain('what waits here is not in it yet')
  })
})
