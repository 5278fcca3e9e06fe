import { act } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

const put = vi.hoisted(() => vi.fn())
vi.mock('../api/queries', () => ({
  outbox: {
    put,
    subscribe: () => () => undefined,
    stuck: () => [],
    waiting: () => [],
    kept: async () => undefined,
    flush: async () => undefined,
  },
  jobNow: () => undefined,
  useWaiting: () => [],
  useRecordAhead: () => ({ data: undefined }),
}))

import type { NextStep } from '../api/types'
import { useKeys } from '../app/useKeys'
import { aJob, me, step, vocabulary } from '../test/fixtures'
import { press, shown, submit, type } from '../test/render'
import { CausePanel } from './cause/CausePanel'
import { DraftLine } from './draft-line/DraftLine'
import { ElementCard } from './draft-line/ElementCard'
import { HandOverPanel } from './hand-over/HandOverPanel'
import { NextCard } from './jobs/NextCard'
import { useNext } from './jobs/useNext'
import { LookForm } from './measure/LookForm'
import { ReadingForm } from './measure/ReadingForm'
import { ProofTable } from './prove/ProvePanel'
import { ConfirmCause } from './steps/ConfirmCause'
import { StepsPanel } from './steps/StepsPanel'

const sent = () => put.mock.calls.map(([write]) => write.body)
const look = vocabulary.checks[0]

beforeEach(() => {
  put.mockReset().mockResolvedValue({ state: 'sent', answer: {} })
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      disconnect() {}
    },
  )
  vi.stubGlobal('matchMedia', () => ({ matches: true, addEventListener() {}, removeEventListener() {} }))
  Object.defineProperty(HTMLElement.prototype, 'clientWidth', { configurable: true, value: 1080 })
})

describe('the draft line', () => {
  const line = (onPick = vi.fn(), job = aJob()) => (
    <DraftLine job={job} units={me.units} vocabulary={vocabulary} picked={null} older={0} onPick={onPick} />
  )

  it('says what moves beside what should, and the lamps', async () => {
    const host = await shown(line())
    expect(host.textContent).toContain('106')
    expect(host.textContent).toContain('of 170')
    expect(host.textContent).toContain('118 of 240 V')
  })

  it('gives each element its share; all of them make a hundred', async () => {
    const host = await shown(line())
    const names = [...host.querySelectorAll('button')].map((button) => button.textContent ?? '')
    expect(names.find((name) => name.startsWith('Vent run'))).toContain('37 %')
    const shares = names.flatMap((name) => /(\d+) %/.exec(name)?.[1] ?? [])
    expect(shares.reduce((sum, share) => sum + Number(share), 0)).toBe(100)
    expect(names.filter((name) => name.includes('not suspect'))).toHaveLength(6)
  })

  it('has a name that tells its finding in words', async () => {
    const host = await shown(line())
    expect(host.querySelector('svg[role=img]')?.getAttribute('aria-label')).toContain(
      'at the outlet 1.15 inH2O',
    )
  })

  it('hands on the element that is pressed', async () => {
    const picked = vi.fn()
    await press(await shown(line(picked)), 'Hood')
    expect(picked).toHaveBeenCalledWith('hood')
  })

  it('knows nothing before anything is measured, and says so with a dash', async () => {
    const job = aJob()
    job.verdict.headline.code = 'nothing_measured'
    const host = await shown(line(vi.fn(), job))
    expect(host.textContent).toContain('–')
    expect(host.textContent).not.toContain('37 %')
  })

  it('explains an element: what it takes, what is suspected, what to check', async () => {
    const host = await shown(<ElementCard element="run" job={aJob()} onClose={vi.fn()} />)
    expect(host.textContent).toContain('Vent run packed, 37 %')
    expect(host.textContent).toContain('not known yet')
    expect(host.textContent).toContain('Look behind the machine, 2 min')
    const quiet = await shown(<ElementCard element="drum" job={aJob()} onClose={vi.fn()} />)
    expect(quiet.textContent).toContain('Nothing speaks for a fault here')
  })
})

describe('the cause', () => {
  it('ranks, says what looks alike, and what speaks for and against', async () => {
    const host = await shown(<CausePanel job={aJob()} />)
    expect(host.textContent).toContain('Look alike so far')
    expect(host.textContent).toContain('over 1000 times likelier with it')
    expect(host.textContent).toContain('2.0 times likelier without it')
  })

  it('goes with the cause that is pressed', async () => {
    await press(await shown(<CausePanel job={aJob()} />), 'Transition crushed')
    expect(sent()).toMatchObject([{ kind: 'working', fault: 'transition_crushed' }])
  })

  it('shows a reading that fits nothing with what it should be', async () => {
    const job = aJob()
    const pa = (value: number) => ({ value, unit: 'Pa' })
    job.verdict.misfits = [
      {
        reading: 'outlet_static_pressure', ids: [], expected_low: pa(75), expected_high: pa(100),
        slip: 'hose_off', slip_text: 'The hose may be off.',
      },
    ] // biome-ignore format: one line reads better
    const host = await shown(<CausePanel job={job} />)
    const said = host.querySelector('[role=alert]')?.textContent
    expect(said).toContain('should be 0.30 inH2O to 0.40 inH2O')
    expect(said).toContain('The hose may be off.')
  })

  it('says why the server refused', async () => {
    put.mockResolvedValue({ state: 'refused', problem: { message: 'handed over already' } })
    const host = await shown(<CausePanel job={aJob()} />)
    await press(host, 'Hood blocked')
    expect(host.querySelector('[role=alert]')?.textContent).toBe('handed over already')
  })
})

describe('steps', () => {
  const steps = [step('open.a', { cautions: ['Sharp edges.'], driver: 'hex-1/4' }), step('open.b')]

  it('show the first that is open, with its caution and driver', async () => {
    const host = await shown(<StepsPanel job={aJob()} title="Open" steps={steps} nothing="" />)
    expect(host.textContent).toContain('Sharp edges.')
    expect(host.textContent).toContain('hex-1/4')
    await press(host, 'Done')
    expect(sent()).toMatchObject([{ step: 'open.a', state: 'done' }])
  })

  it('can be said to be impossible here, with why', async () => {
    const host = await shown(<StepsPanel job={aJob()} title="Open" steps={steps} nothing="" />)
    await press(host, "Can't do this here")
    await submit(host)
    expect(sent()).toEqual([]) // without a why nothing is said
    await type(host, 'screw is round')
    await submit(host)
    expect(sent()).toMatchObject([{ step: 'open.a', state: 'not_possible', why: 'screw is round' }])
  })

  it('are undone one by one', async () => {
    const mark = { id: '1', step: 'open.a', state: 'done' as const, why: '', by: 'Ada', at: '' }
    const host = await shown(
      <StepsPanel job={aJob({ marks: [mark] })} title="Open" steps={steps} nothing="" />,
    )
    expect(host.textContent).toContain('1 of 2')
    await press(host, 'Undo')
    expect(sent()).toMatchObject([{ step: 'open.a', state: 'undone' }])
  })

  it('say so when there are none, and when all are done', async () => {
    const empty = await shown(<StepsPanel job={aJob()} title="Open" steps={[]} nothing="Nothing to open." />)
    expect(empty.textContent).toContain('Nothing to open.')
    const marks = steps.map(({ id }) => ({
      id,
      step: id,
      state: 'done' as const,
      why: '',
      by: 'Ada',
      at: '',
    }))
    const done = await shown(<StepsPanel job={aJob({ marks })} title="Open" steps={steps} nothing="" />)
    expect(done.textContent).toContain('All of it is done')
  })
})

describe('an answer', () => {
  const pressureCheck = {
    ...(look as NonNullable<typeof look>),
    check: 'outlet_static_pressure',
    observes: 'outlet_static_pressure',
  }

  it('is sent as it was typed, with the unit a bare number is taken in', async () => {
    const host = await shown(
      <ReadingForm job={aJob()} check={pressureCheck} phase="before" replaces={undefined} />,
    )
    expect(host.textContent).toContain('healthy: 0.38 inH2O')
    await type(host, '150 pa')
    await submit(host)
    expect(sent()).toMatchObject([
      {
        kind: 'outlet_static_pressure',
        typed: '150 pa',
        unit: 'inH2O',
        instrument: 'manometer',
        phase: 'before' as const,
      },
    ])
    expect(host.querySelector('input')?.value).toBe('')
  })

  it('that is refused stays in its field with the reason', async () => {
    put.mockResolvedValue({ state: 'refused', problem: { message: 'no machine has that' } })
    const host = await shown(
      <ReadingForm job={aJob()} check={pressureCheck} phase="before" replaces={undefined} />,
    )
    await type(host, '9000')
    await submit(host)
    expect(host.querySelector('input')?.value).toBe('9000')
    expect(host.querySelector('[role=alert]')?.textContent).toBe('no machine has that')
  })

  it('of a look is one press, and replaces the one before', async () => {
    const before = {
      id: 'old', check: 'behind_look', result: 'round', why: '', phase: 'before' as const, heat_on: false, supersedes: null,
      withdrawn: false, in_force: true, by: 'Ada', at: '',
    } // biome-ignore format: one line reads better
    const host = await shown(
      <LookForm job={aJob({ findings: [before] })} check={look as NonNullable<typeof look>} phase="before" />,
    )
    await press(host, 'pressed flat')
    expect(sent()).toMatchObject([{ check: 'behind_look', result: 'flat', supersedes: 'old' }])
  })
})

describe('what comes next', () => {
  function Card({ job, stage }: { job: ReturnType<typeof aJob>; stage: string }) {
    return <NextCard job={job} next={useNext(job, stage, null, new Map())} undo={undefined} />
  }

  it('is a check with its minutes and its gain', async () => {
    const host = await shown(<Card job={aJob()} stage="cause" />)
    expect(host.textContent).toContain('2 min')
    expect(host.textContent).toContain('37 → 62 %')
    expect(host.textContent).toContain('Tells apart: the transition, the vent run.')
  })

  it('is the step in hand where one stands at it', async () => {
    const next: NextStep = {
      code: 'make_safe',
      stage: 'make_safe',
      subject: 'make_safe.unplug',
      text: 'Make it safe',
    }
    const host = await shown(<Card job={aJob({ next })} stage="make_safe" />)
    await press(host, 'Done: Do make_safe.unplug')
    expect(sent()).toMatchObject([{ step: 'make_safe.unplug', state: 'done' }])
  })

  it('is the cause to go with', async () => {
    const next: NextStep = {
      code: 'choose_cause',
      stage: 'cause',
      subject: 'hood_blocked',
      text: 'Go with: hood blocked',
    }
    await press(await shown(<Card job={aJob({ next })} stage="cause" />), 'Go with')
    await vi.waitFor(() => expect(sent()).toMatchObject([{ kind: 'working', fault: 'hood_blocked' }]))
  })
})

describe('the end of a job', () => {
  const trainee = {
    ...me,
    role: 'trainee',
    may: ['work_on_a_job'],
    may_not: { hand_over: 'ask a technician' },
  }

  it('names what is still open', async () => {
    const host = await shown(<HandOverPanel job={aJob()} />)
    expect(host.textContent).toContain('Still open: Measure, Cause')
    await submit(host)
    expect(sent()).toMatchObject([{ note: '' }])
  })

  it('explains to a trainee who may', async () => {
    expect((await shown(<HandOverPanel job={aJob()} />, trainee)).textContent).toContain('ask a technician')
  })

  it('lets a trainee propose what it was, and a technician see who proposed what', async () => {
    const proposed_cause = {
      fault: 'hood_blocked',
      severity: null,
      text: 'Hood blocked',
      by: 'Wren',
      at: '',
      heat_unexplained: false,
    }
    const host = await shown(<ConfirmCause job={aJob({ proposed_cause })} />, trainee)
    await press(host, 'Propose')
    expect(sent()).toMatchObject([{ kind: 'proposed', fault: 'hood_blocked' }])
    expect((await shown(<ConfirmCause job={aJob({ proposed_cause })} />)).textContent).toContain(
      'Wren takes it to have been',
    )
  })

  it('confirms what it was, not what was thought', async () => {
    const working_cause = {
      fault: 'hood_blocked',
      severity: null,
      text: 'Hood blocked',
      by: 'Ada',
      at: '',
      heat_unexplained: false,
    }
    const host = await shown(<ConfirmCause job={aJob({ working_cause })} />)
    await press(host, 'Transition crushed')
    await submit(host)
    expect(sent()).toMatchObject([{ kind: 'confirmed', fault: 'transition_crushed' }])
  })

  it('sets before, after and healthy side by side', async () => {
    const q = (value: number) => ({ value, unit: 'm3/s' })
    const host = await shown(
      <ProofTable
        rows={[
          {
            kind: 'outlet_flow', heat_on: false, healthy: q(0.0804), healthy_low: q(0.067), healthy_high: q(0.094),
            before: q(0.05), after: q(0.079), standing: 'as_healthy', text: '167 cfm, as healthy', was: '106 cfm, 64 short of healthy',
            expected: q(0.08), keeps: 'as_promised', change: q(0.029), change_low: q(0.02), change_high: q(0.038),
          },
        ]}
      />,
    ) // biome-ignore format: one line reads better
    expect([...host.querySelectorAll('td')].slice(0, 3).map((cell) => cell.textContent)).toEqual([
      '106',
      '167',
      '170',
    ])
  })
})

describe('single keys', () => {
  // what the last key asked for is drawn, or the next test's keys wait for it
  afterEach(() => new Promise((resolve) => setTimeout(resolve, 60)))

  function Keys({ on, enabled = true }: { on: Record<string, () => void>; enabled?: boolean }) {
    useKeys(on, enabled)
    return (
      <>
        <input aria-label="field" />
        <button type="button">a button</button>
      </>
    )
  }
  const strike = (target: Element | Window, key: string, more: KeyboardEventInit = {}) =>
    act(async () => void target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...more })))

  it('act, but not while someone types, with a modifier, or when they are off', async () => {
    const n = vi.fn()
    const host = await shown(<Keys on={{ n }} />)
    await strike(window, 'n')
    expect(n).toHaveBeenCalledTimes(1)
    await strike(host.querySelector('input') as Element, 'n')
    await strike(window, 'n', { ctrlKey: true })
    expect(n).toHaveBeenCalledTimes(1)
    await shown(<Keys on={{ n }} enabled={false} />)
    const before = n.mock.calls.length
    await strike(window, 'x')
    expect(n.mock.calls.length).toBe(before)
  })

  it('leave Space to the control that has the focus; Escape first leaves the field', async () => {
    const space = vi.fn()
    const back = vi.fn()
    const host = await shown(<Keys on={{ ' ': space, Escape: back }} />)
    document.body.append(host)
    const button = host.querySelector('button') as HTMLElement
    button.focus()
    await strike(button, ' ')
    expect(space).not.toHaveBeenCalled()
    button.blur()
    await strike(window, ' ')
    await vi.waitFor(() => expect(space).toHaveBeenCalledOnce()) // after what an earlier key asked for
    const field = host.querySelector('input') as HTMLInputElement
    field.focus()
    await strike(field, 'Escape')
    expect([document.activeElement === field, back.mock.calls.length]).toEqual([false, 0])
    await strike(window, 'Escape')
    await vi.waitFor(() => expect(back).toHaveBeenCalledOnce())
  })

  it('wait their turn while what an earlier one asked for is on its way, in their order', async () => {
    const heard: string[] = []
    let there: () => void = () => undefined
    const asked = new Promise<void>((resolve) => {
      there = resolve
    })
    const say = (key: string) => () => void heard.push(key)
    const host = await shown(<Keys on={{ n: () => asked, a: say('a'), b: say('b') }} />)
    document.body.append(host)
    for (const key of ['n', 'a', 'b']) await strike(document.body, key)
    expect(heard).toEqual([])
    there()
    await vi.waitFor(() => expect(heard).toEqual(['a', 'b']))
  })
})
