import { act } from 'react'
import { beforeEach, describe, expect, it, vi } from 'vitest'

const put = vi.hoisted(() => vi.fn())
const heat = vi.hoisted(() => vi.fn())
vi.mock('../api/queries', () => ({
  outbox: { put, subscribe: () => () => undefined, stuck: () => [] },
  useHeat: heat,
}))
vi.mock('../api/instruments', () => ({ useInstruments: () => ({ data: [] }), useLiveReading: () => ({}) }))

import { aJob, me, vocabulary } from '../test/fixtures'
import { press, shown, submit, type } from '../test/render'
import { CausePanel } from './cause/CausePanel'
import { HeatPanel } from './heat/HeatPanel'
import { LogPanel } from './log/LogPanel'
import { viewOf } from './measure/MeasureTabs'
import { SpeedsForm } from './measure/SpeedsForm'
import { MeterBench } from './meter/MeterBench'
import { RunEditor } from './vent/RunEditor'

const sent = () => put.mock.calls.map(([write]) => write.body)
const said = (host: HTMLElement) => host.textContent ?? ''

beforeEach(() => {
  put.mockReset().mockResolvedValue({ state: 'sent', answer: {} })
  localStorage.clear()
  vi.stubGlobal('matchMedia', () => ({ matches: true, addEventListener() {}, removeEventListener() {} }))
})

describe('ways to find out', () => {
  it.each([
    [null, undefined, 'check'],
    [null, null, 'check'],
    [null, 'meter', 'meter'],
    [null, 'logs', 'log'],
    [null, 'sounds', 'sound'],
    ['heat', null, 'heat'],
    ['rubbish', undefined, 'check'],
  ] as const)('view %s with a check that is given under %s is %s', (view, given_under, wanted) => {
    const check = vocabulary.checks[0]
    expect(viewOf(view, check && given_under !== undefined ? { ...check, given_under } : undefined)).toBe(
      wanted,
    )
  })
})

describe('the meter bench', () => {
  const test = {
    id: 'a',
    phase: 'before' as const,
    heat_on: false,
    supersedes: null,
    withdrawn: false,
    in_force: true,
    by: 'Ada',
    at: '',
    part: 'thermal_fuse',
    typed: 'needle_at_infinity',
    instrument: 'analogue' as const,
    isolated: true,
    part_hot: false,
    between: null,
    verdict: {
      part: 'thermal_fuse',
      verdict: 'failed' as const,
      means: { code: 'open_one_shot', text: 'Infinity is open, not good.' },
      // biome-ignore lint/suspicious/noThenProperty: the format's own word
      then: { code: 'replace_find_cause', text: 'Find why it got hot.' },
      expected: null,
    },
  }

  it('begins with the circuit that is suspect, and says what was tested', async () => {
    const host = await shown(
      <MeterBench job={aJob({ circuit: 'motor', meter: [test] })} asked={null} phase="before" />,
    )
    expect(host.querySelector('h3')?.textContent).toContain('start here')
    expect(said(host)).toContain('✗ failed')
  })

  it('asks first whether one wire is off, then what the needle did', async () => {
    const host = await shown(<MeterBench job={aJob()} asked="thermal_fuse" phase="before" />)
    await press(host, 'with a needle')
    await press(host, 'it stayed at ∞')
    expect(host.querySelector('[role=alert]')?.textContent).toContain('one wire is off')
    expect(sent()).toEqual([])
    await press(host, 'yes, one side is off')
    await press(host, 'it stayed at ∞')
    expect(sent()).toMatchObject([
      { part: 'thermal_fuse', instrument: 'analogue', isolated: true, typed: 'needle_at_infinity' },
    ])
  })

  it('sends a number with the resistance of the leads beside it', async () => {
    const host = await shown(<MeterBench job={aJob()} asked="thermal_fuse" phase="before" />)
    await press(host, 'digital')
    await press(host, 'yes, one side is off')
    await type(host, '0.6')
    await submit(host)
    expect(sent()).toMatchObject([
      { typed: '0.6', unit: 'ohm', instrument: 'digital' as const, lead_ohm: null },
    ])
  })

  it('shows what a reading means and what to do then', async () => {
    const host = await shown(<MeterBench job={aJob({ meter: [test] })} asked="thermal_fuse" phase="before" />)
    expect(said(host)).toContain('Infinity is open, not good.')
    expect(said(host)).toContain('Find why it got hot.')
  })

  it('keeps live work to the qualified, and says so', async () => {
    const barred = await shown(<MeterBench job={aJob()} asked="receptacle" phase="before" />)
    expect(said(barred)).toContain('someone who is qualified records it')
    expect(barred.querySelector('form')).toBeNull()
    const host = await shown(<MeterBench job={aJob()} asked="receptacle" phase="before" />, {
      ...me,
      qualifications: ['live'],
    })
    await type(host, '118')
    await submit(host)
    expect(sent()).toMatchObject([{ part: 'receptacle', unit: 'V', isolated: null, between: 'leg_leg' }])
  })
})

describe('the run editor', () => {
  it('puts a new piece before the hood, and saves the run as it is then', async () => {
    vi.useFakeTimers()
    const host = await shown(<RunEditor job={aJob()} />)
    for (const piece of ['+ hood', '+ straight', '+ bend']) await press(host, piece)
    await act(async () => vi.advanceTimersByTimeAsync(600))
    vi.useRealTimers()
    const last = sent().at(-1)
    expect(last.vent.pieces.map((piece: { piece: string }) => piece.piece)).toEqual([
      'straight',
      'elbow',
      'hood',
    ])
    expect(last.based_on).toBe(aJob().version)
  })

  it('draws another bore, of the run and of one piece of it', async () => {
    vi.useFakeTimers()
    const host = await shown(<RunEditor job={aJob()} />)
    await press(host, '5 in')
    await press(host, '+ straight')
    const ofThePiece = host.querySelector<HTMLElement>('li [role=group], li fieldset')
    await press(ofThePiece ?? host, '3 in')
    await act(async () => vi.advanceTimersByTimeAsync(600))
    vi.useRealTimers()
    expect(sent().at(-1).vent).toMatchObject({
      diameter: { value: 5, unit: 'in' },
      pieces: [{ piece: 'straight', diameter: { value: 3, unit: 'in' } }],
    })
  })

  it('shows what was refused', async () => {
    vi.useFakeTimers()
    put.mockResolvedValue({ state: 'refused', problem: { message: 'Someone changed this job meanwhile.' } })
    const host = await shown(<RunEditor job={aJob()} />)
    await press(host, '+ hood')
    await act(async () => vi.advanceTimersByTimeAsync(600))
    vi.useRealTimers()
    expect(host.querySelector('[role=alert]')?.textContent).toContain('meanwhile')
  })
})

describe('heat', () => {
  const trace = [0, 10, 20].map((minute) => ({
    minute,
    box_c: 60 + minute,
    exhaust_c: 40,
    moisture: 0.5,
    heat_on: true,
  }))
  const run = (minutes: number | null, trips: { limit: string; minute: number }[] = []) => ({
    minutes,
    stopped_by: minutes === null ? 'thermal_fuse' : null,
    energy: { value: 2.5, unit: 'kWh' },
    trips,
    trace,
  })
  const data = {
    load: { value: 3.833, unit: 'kg' },
    healthy: run(26),
    now: run(47, [{ limit: 'high_limit', minute: 4 }]),
    story: ['hood_blocked'],
    high_limit_c: 121,
    cycling_c: 68,
    extra_minutes: 21,
    extra_kwh_a_year: 20,
    extra_cost_a_year: 6,
    currency: 'EUR',
    text: 'This load takes 47 minutes instead of 26.',
  }

  it('sets healthy beside now and counts what trips', async () => {
    heat.mockReturnValue({ data })
    const host = await shown(<HeatPanel job={aJob()} />)
    expect(said(host)).toContain('47 minutes instead of 26')
    expect(said(host)).toContain('The high limit opens 1 times')
    expect(host.querySelectorAll('svg path').length).toBeGreaterThanOrEqual(3)
  })

  it('says never, not 0, for a load that does not get dry, and a dash for what is not known', async () => {
    heat.mockReturnValue({ data: { ...data, now: run(null) } })
    expect(said(await shown(<HeatPanel job={aJob()} />))).toContain('never')
    heat.mockReturnValue({ data: { ...data, now: null, story: [] } })
    expect(said(await shown(<HeatPanel job={aJob()} />))).toContain('–')
  })
})

describe('a long run', () => {
  it('is noted by hand, and saved only when there is enough of it', async () => {
    const host = await shown(<LogPanel job={aJob()} phase="before" />)
    await press(host, 'Start the clock')
    for (const flow of ['98', '97', '97', '80', '70']) {
      await type(host, flow)
      await submit(host)
    }
    expect(said(host)).toContain('1 more before it can be saved')
    await press(host, 'Save the run')
    expect(sent()).toEqual([])
    await type(host, '66')
    await submit(host)
    await press(host, 'Save the run')
    expect(sent()).toMatchObject([{ kind: 'hood_flow', unit: 'cfm', values: [98, 97, 97, 80, 70, 66] }])
    expect(said(host)).toContain('Start the clock')
  })

  it('keeps what was noted when the server refuses it', async () => {
    put.mockResolvedValue({ state: 'refused', problem: { message: 'do not rise' } })
    const host = await shown(<LogPanel job={aJob()} phase="before" />)
    await press(host, 'Start the clock')
    for (const flow of ['98', '97', '97', '80', '70', '66']) {
      await type(host, flow)
      await submit(host)
    }
    await press(host, 'Save the run')
    expect(said(host)).toContain('6 noted')
    expect(host.querySelector('[role=alert]')?.textContent).toContain('do not rise')
  })
})

describe('a flow from air speeds', () => {
  it('asks for every point of a traverse before it saves', async () => {
    const save = vi.fn()
    const host = await shown(<SpeedsForm byBag={false} onSave={save} />)
    await press(host, 'a traverse of 12 points')
    expect(host.querySelectorAll('[aria-label^="speed at point"]')).toHaveLength(12)
    expect(host.querySelector<HTMLButtonElement>('button[type=submit]')?.disabled).toBe(true)
  })
})

describe('the cause', () => {
  it('hangs what got hot under it, and offers the sentence where nothing explains it', async () => {
    const job = aJob({ opened: ['thermal_fuse_open'] })
    job.verdict.consequences = [{ part: 'thermal_fuse_open', of: null, text: 'Thermal fuse blown: a victim' }]
    const host = await shown(<CausePanel job={job} />)
    expect(said(host)).toContain('never instead of it')
    await press(host, 'cause of the heat not found')
    expect(sent()).toMatchObject([{ kind: 'working', heat_unexplained: true }])
  })

  it('tells two at once only where they are likely', async () => {
    const job = aJob()
    expect(said(await shown(<CausePanel job={job} />))).not.toContain('Two at once')
    Object.assign(job.verdict, { pair_share: 0.8, pairs_told: true })
    expect(said(await shown(<CausePanel job={job} />))).toContain('Two at once, 80 %')
  })
})
