import { beforeEach, describe, expect, it, vi } from 'vitest'

const { again, drop, flush, held } = vi.hoisted(() => ({
  again: vi.fn(async () => ({ state: 'sent', answer: null })),
  drop: vi.fn(),
  flush: vi.fn(),
  held: { waiting: [] as unknown[], refused: [] as unknown[] },
}))
vi.mock('../api/queries', () => ({
  freshJob: async () => ({ version: 9, place: { version: 2 }, machine: { version: 3 } }),
  outbox: {
    again,
    drop,
    flush,
    subscribe: () => () => undefined,
    waiting: () => held.waiting,
    refused: () => held.refused,
  },
}))

import type { Problem } from '../api/types'
import { press, shown } from '../test/render'
import { differing, OutboxDialog } from './OutboxDialog'

HTMLDialogElement.prototype.showModal = vi.fn()

const refused = (problem: Partial<Problem>, body: unknown = { based_on: 3, complaints: ['squeals'] }) => ({
  id: 'w',
  person: 'ada',
  job: 'job',
  path: '/api/v1/jobs/job/readings/old',
  says: 'job at the kennels',
  body,
  problem: {
    title: 't',
    status: 409,
    code: 'changed_meanwhile',
    message: 'Someone changed it.',
    fields: [],
    ...problem,
  },
})
const dialog = () => shown(<OutboxDialog onClose={() => undefined} />)

beforeEach(() => {
  vi.clearAllMocks()
  held.waiting = []
  held.refused = []
})

describe('what is on the device', () => {
  it('says so when there is nothing', async () => {
    expect((await dialog()).textContent).toContain('Everything is with the server.')
  })

  it('lists what waits in order, and tries when asked', async () => {
    held.waiting = [
      { id: '1', says: 'first' },
      { id: '2', says: 'second' },
    ]
    const host = await dialog()
    expect([...host.querySelectorAll('ol li')].map((row) => row.textContent)).toEqual(['first', 'second'])
    await press(host, 'Try now')
    expect(flush).toHaveBeenCalledOnce()
  })

  it('puts two versions side by side, and mine on the version there is now', async () => {
    const versions = {
      recorded: { complaints: ['no_heat'], said: '' },
      offered: { complaints: ['squeals'], said: '' },
    }
    held.refused = [refused(versions)]
    const host = await dialog()
    expect([...host.querySelectorAll('td')].map((cell) => cell.textContent)).toEqual(['no heat', 'squeals'])
    await press(host, 'Put mine there')
    expect(again).toHaveBeenCalledWith(held.refused[0], { body: { based_on: 9, complaints: ['squeals'] } })
  })

  it.each([
    ['already_recorded', (path: string) => !path.endsWith('/old'), undefined],
    ['superseded_meanwhile', (path: string) => !path.endsWith('/old'), null],
  ])('mends %s under a new id', async (code, fresh, supersedes) => {
    held.refused = [refused({ code }, { typed: '96', supersedes: 'x' })]
    await press(await dialog(), 'Put mine there')
    const [, change] = again.mock.lastCall as unknown as [
      unknown,
      { path: string; body?: { supersedes: null } },
    ]
    expect(fresh(change.path)).toBe(true)
    expect(change.body?.supersedes).toBe(supersedes)
  })

  it('keeps what is there when told to', async () => {
    held.refused = [refused({})]
    await press(await dialog(), 'Keep what is there')
    expect(drop).toHaveBeenCalledWith('w')
  })

  it('offers no second try where a job is handed over', async () => {
    held.refused = [refused({ code: 'handed_over' })]
    expect((await dialog()).textContent).not.toContain('Put mine there')
  })

  it('puts mine there for a machine that somebody else changed, from the version there is now', async () => {
    held.refused = [refused({}, { based_on: 3, machine: { name: 'mine', version: 1 }, place: { name: 'p' } })]
    await press(await dialog(), 'Put mine there')
    expect(again).toHaveBeenCalledWith(held.refused[0], {
      body: { based_on: 9, machine: { name: 'mine', version: 3 }, place: { name: 'p', version: 2 } },
    })
  })

  it('says of what was set aside that it was tried, and why, and offers to save it', async () => {
    held.refused = [{ ...refused({ status: 500, code: 'stumbled', message: 'It stumbled.' }), tries: 5 }]
    const host = await dialog()
    expect(host.querySelector('[role=alert]')?.textContent).toBe(
      'It stumbled. Tried 5 times; what else waits goes on.',
    )
    expect([...host.querySelectorAll('button')].map((button) => button.textContent)).toEqual(
      expect.arrayContaining(['Try again', 'Give it up', 'Save to a file']),
    )
  })

  it('shows only what differs, in words', () => {
    expect(
      differing(
        { a: 1, b: [], c: { value: 4, unit: 'in' }, same: 'x' },
        { a: 2, b: ['no_heat'], c: null, same: 'x' },
      ),
    ).toEqual([
      { key: 'a', there: '1', yours: '2' },
      { key: 'b', there: '–', yours: 'no heat' },
      { key: 'c', there: 'value 4, unit in', yours: '–' },
    ])
  })
})
