import { beforeEach, describe, expect, it, vi } from 'vitest'

const { put, drawn } = vi.hoisted(() => ({ put: vi.fn(), drawn: { data: undefined as unknown } }))
vi.mock('../../api/queries', () => ({
  outbox: { put, subscribe: () => () => undefined, stuck: () => [] },
  useDrawn: () => drawn,
}))

import { act } from 'react'
import { undoLast } from '../../app/undo'
import { aJob, workLine } from '../../test/fixtures'
import { later, press, shown, type } from '../../test/render'
import { WorksPanel } from './WorksPanel'

const sent = () => put.mock.calls.map(([write]) => write.body)
const withLines = (...lines: ReturnType<typeof workLine>[]) =>
  aJob({ works: { lines, waiting: [], unreached: [], brings: [], minutes: 0 } })

beforeEach(() => {
  put.mockReset().mockResolvedValue({ state: 'sent', answer: {} })
})

describe('the list of works', () => {
  it('says what is offered and why, and takes it on by one press', async () => {
    const job = withLines(workLine())
    const host = await shown(<WorksPanel job={job} />)
    expect(host.textContent).toContain('9 min more now, 52 spared')
    expect(host.textContent).toContain('new: drum felt')
    await press(host, 'Take on')
    expect(sent()[0]).toMatchObject({ step: 'line.drum_seal.replace', state: 'taken' })
    undoLast(job.id)
    expect(sent()[1]).toMatchObject({ step: 'line.drum_seal.replace', state: 'undone' })
  })

  it('declines only with a reason', async () => {
    const host = await shown(<WorksPanel job={withLines(workLine())} />)
    await press(host, 'No')
    await press(host, 'Declined')
    expect(sent()).toEqual([])
    await type(host, 'customer says no')
    await press(host, 'Declined')
    expect(sent()[0]).toMatchObject({ state: 'declined', why: 'customer says no' })
  })

  it('keeps what was declined in sight, by whom and why, to be undone', async () => {
    const line = workLine({ became: 'declined', why: 'customer says no', by: 'Ines' })
    const host = await shown(<WorksPanel job={withLines(line)} />)
    expect(host.textContent).toContain('declined: customer says no (Ines)')
    await press(host, 'Undo')
    expect(sent()[0]).toMatchObject({ state: 'undone' })
  })

  it('says what no way leads to, and what waits for its cause', async () => {
    const far = workLine({ stands: 'must', wanted: true, unreached: ['outlet to the side'] })
    const fuse = workLine({ name: 'line.thermal_fuse.replace', text: 'Replace the thermal fuse' })
    const job = aJob({
      known_layout: true,
      works: { lines: [far], waiting: [fuse], unreached: ['side_outlet'], brings: [], minutes: 45 },
    })
    const host = await shown(<WorksPanel job={job} />)
    expect(host.textContent).toContain('has no way to: outlet to the side')
    expect(host.textContent).toContain('never alone')
  })

  it('is added to by hand', async () => {
    const host = await shown(<WorksPanel job={withLines()} />)
    await press(host, '+ Add to the list')
    await type(host, 'felt')
    await press(host, 'Replace the drum’s felt')
    expect(sent()[0]).toMatchObject({ part: 'drum_seal', act: 'replace' })
  })

  it('takes the first that is found by Enter, and leaves by Escape', async () => {
    const host = await shown(<WorksPanel job={withLines()} />)
    const key = (name: string) =>
      act(async () => {
        host.querySelector('input')?.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, key: name }))
      })
    await press(host, '+ Add to the list')
    await key('Enter')
    expect(sent()).toEqual([])
    await type(host, 'felt')
    await key('Enter')
    expect(sent()[0]).toMatchObject({ part: 'drum_seal', act: 'replace' })
    await press(host, '+ Add to the list')
    await key('Escape')
    expect(host.querySelector('input')).toBeNull()
  })

  it('is added to by touching the part on the cut-away', async () => {
    const shapes = {
      felt: { box: [66, 22, 68, 66], kind: 'seal', label: 'felt' },
      drum: { box: [16, 20, 66, 68], kind: 'drum' },
    }
    drawn.data = {
      title: 'a machine',
      drawing: { air_in: [[0, 0]], air_out: [[1, 1]], shapes },
      shapes: [{ shape: 'felt', parts: ['drum_seal'], text: 'drum’s felt' }],
    }
    const host = await shown(<WorksPanel job={withLines()} />)
    await press(host, '+ Add to the list')
    await later(() => host.querySelector('g[role=button]'))
    const touched = [...host.querySelectorAll<SVGElement>('g[role=button]')]
    expect(touched.map((shape) => shape.getAttribute('aria-label'))).toEqual(['drum’s felt'])
    await act(async () => {
      touched[0]?.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, key: 'Enter' }))
    })
    const offered = [...host.querySelectorAll('[aria-label="What can be done"] li')]
    expect(offered.map((row) => row.textContent)).toEqual(['Replace the drum’s feltdrum felt'])
    await press(host, 'Replace the drum’s felt')
    expect(sent()[0]).toMatchObject({ part: 'drum_seal', act: 'replace' })
    drawn.data = undefined
  })
})
