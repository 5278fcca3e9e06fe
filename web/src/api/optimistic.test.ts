import { describe, expect, it } from 'vitest'
import { atTheBench } from '../test/bench'
import { aJob } from '../test/fixtures'
import { unheard, withWaiting } from './optimistic'

const waits = (path: string, body: unknown = {}) => ({
  id: path,
  person: 'ada',
  job: 'job',
  path: `/api/v1/jobs/job/${path}`,
  body,
  says: path,
})
const mark = (id: string, step: string, state: string) => waits(`marks/${id}`, { step, state, at: '' })

describe('what waits on the device', () => {
  it('shows marks at once, the latest of a step', () => {
    const job = withWaiting(
      aJob(),
      [mark('1', 'unplug', 'done'), mark('2', 'gas', 'done'), mark('3', 'gas', 'undone')],
      undefined,
    )
    expect(job.marks.map((row) => [row.step, row.state])).toEqual([['unplug', 'done']])
  })

  it('leaves the job as it is where nothing of the kind waits', () => {
    const job = aJob()
    expect(withWaiting(job, [waits('readings/1')], undefined)).toBe(job)
  })

  it('counts what a verdict would hear', () => {
    const facts = ['readings/1', 'findings/2', 'meter/3', 'logs/4', 'vent', 'facts/5/withdrawn']
    expect(unheard([...facts, 'marks/6', 'causes/7', 'record/8'].map((path) => waits(path)))).toBe(
      facts.length,
    )
  })

  const count = (body: object) =>
    waits('counts/1', { step: 'open.cover', what: 'fastener', key: 'hex_head 18 mm', ...body })
  const cover = (writes: ReturnType<typeof waits>[]) => {
    const found = withWaiting(atTheBench(), writes, undefined).bench?.compartments[0]
    if (!found) throw new Error('no compartment')
    return found
  }

  it('fills the tray as steps are marked, and empties it on the way back', () => {
    const off = cover([mark('1', 'open.cover', 'done')])
    expect([off.state, off.fasteners[0]?.came, off.fasteners[0]?.left, off.wires[0]?.off]).toEqual([
      'open',
      5,
      5,
      true,
    ])
    const back = cover([mark('1', 'open.cover', 'done'), mark('2', 'close.cover', 'done')])
    expect([back.state, back.fasteners[0]?.back, back.fasteners[0]?.left]).toEqual(['closed', 5, 0])
  })

  it('shows what was counted and said ahead of the line', () => {
    const row = cover([mark('1', 'open.cover', 'done'), count({ state: 'out', count: 6 })]).fasteners[0]
    expect([row?.came, row?.counted, row?.differs, row?.left]).toEqual([6, true, true, 6])
    const missing = cover([mark('1', 'open.cover', 'done'), count({ state: 'missing', count: 1 })])
      .fasteners[0]
    expect([missing?.missing, missing?.left]).toEqual([1, 4])
    const wire = cover([
      mark('1', 'open.cover', 'done'),
      count({ what: 'wire', key: 'motor · plug', state: 'on' }),
    ])
    expect(wire.wires[0]?.off).toBe(false)
  })
})
