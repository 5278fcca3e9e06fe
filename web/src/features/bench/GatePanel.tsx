import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useRef } from 'react'
import type { Discrepancy, Job } from '../../api/types'
import { useAnswering } from '../../app/answering'
import { AskWhy } from '../../ui/AskWhy'
import { Button } from '../../ui/Button'
import { Contradiction, PartWords, type Said, say, Tag } from './Counting'

const GATE = ['gate'] as const

/** Before a machine counts as closed: what is left over, where it belongs, and the one press that settles it. */
export function GatePanel({ job, older }: { job: Job; older: boolean }) {
  const bench = job.bench
  const panel = useRef<HTMLElement>(null)
  useAnswering(GATE, () => {
    const first = panel.current?.querySelector<HTMLElement>('button, input')
    first?.scrollIntoView({ block: 'center' })
    first?.focus()
  })
  if (!bench) return null
  const { gate } = bench
  return (
    <section
      ref={panel}
      aria-label={t`Gate`}
      className={`rounded-xl border-2 p-4 ${gate.clear ? 'border-success' : 'border-primary'}`}
    >
      <h2 className="text-xl font-bold">
        {gate.clear
          ? t`✓ Closed: nothing left over`
          : t`Not closed yet: ${gate.discrepancies.length} to settle`}
      </h2>
      {older && (
        <p className="text-soft text-sm">
          <Trans>As the server last judged it; what waits here is not in it yet.</Trans>
        </p>
      )}
      <ul className="mt-2 grid gap-3">
        {gate.discrepancies.map((problem) => (
          <li
            key={`${problem.code}${problem.step}${problem.subject}`}
            className="border-base-300 border-t pt-3"
          >
            <p className="font-bold">{problem.text}</p>
            <Settle job={job} problem={problem} />
          </li>
        ))}
      </ul>
      {gate.accepted.length > 0 && (
        <div className="mt-3">
          <h3 className="font-bold">
            <Trans>Accepted, and on the record</Trans>
          </h3>
          <ul className="list-disc pl-5">
            {gate.accepted.map((row) => (
              <li key={row.text}>{row.text}</li>
            ))}
          </ul>
          {gate.orders.length > 0 && (
            <p className="mt-1">
              <b>
                <Trans>To order:</Trans>
              </b>{' '}
              {gate.orders.join('; ')}
            </p>
          )}
        </div>
      )}
      {!gate.clear && <LeftOver job={job} />}
    </section>
  )
}

function Settle({ job, problem }: { job: Job; problem: Discrepancy }) {
  const at = problem.step
  const place = job.bench?.compartments.find((row) => row.step === problem.step)
  const row = place?.fasteners.find((fastener) => fastener.key === problem.subject)
  const wire = place?.wires.find((candidate) => candidate.key === problem.subject)
  const part = place?.parts.find((candidate) => candidate.part === problem.subject)
  const ask = (state: string, count: number, rest: Partial<Said> = {}) =>
    ({ step: at, what: 'fastener', key: problem.subject, state, count, ...rest }) satisfies Said
  const press = (text: string, run: () => void) => (
    <Button kind="outline" onClick={run}>
      {text}
    </Button>
  )
  const left = problem.expected - problem.counted
  switch (problem.code) {
    case 'still_loose':
      return press(problem.expected === 1 ? t`Tight now` : t`All ${problem.expected} tight now`, () =>
        say(job.id, ask('tight', problem.expected), {
          says: problem.text,
          state: 'tight',
          count: problem.counted,
        }),
      )
    case 'left_over':
      return (
        <div className="mt-1 flex flex-wrap gap-2">
          {press(t`Found its hole: all back`, () =>
            say(job.id, ask('back', (row?.back ?? 0) + left), {
              says: problem.text,
              state: 'back',
              count: row?.back ?? 0,
            }),
          )}
          {press(t`Moved to the new part`, () => say(job.id, ask('moved', (row?.moved ?? 0) + left)))}
          {press(t`Replaced by a new one`, () => say(job.id, ask('replaced', (row?.replaced ?? 0) + left)))}
          <AskWhy
            most={300}
            ask={t`Missing: why?`}
            says={t`Accept ${left} missing`}
            onSay={(note) => say(job.id, ask('missing', (row?.missing ?? 0) + left, { note }))}
          />
        </div>
      )
    case 'missing':
      return (
        <AskWhy
          most={300}
          ask={t`Missing: why?`}
          says={t`Accept it`}
          onSay={(note) => say(job.id, ask('missing', row?.missing ?? 1, { note }))}
        />
      )
    case 'more_than_came':
      return press(t`${problem.counted} had come out`, () =>
        say(job.id, ask(row?.state ?? 'out', problem.counted)),
      )
    case 'wire_off':
    case 'ground_off':
      return (
        <div className="mt-1 flex flex-wrap items-center gap-3">
          {wire && <Tag wire={wire} />}
          {press(t`On its terminal, tugged`, () =>
            say(job.id, { ...ask('on', 1), what: 'wire' }, { says: problem.text, state: 'off' }),
          )}
        </div>
      )
    case 'wire_contradicts':
      return wire ? <Contradiction job={job} at={at} wire={wire} /> : null
    case 'used_up':
    case 'carried_over':
      return part ? (
        <div className="mt-1 flex flex-wrap gap-2">
          <PartWords job={job.id} at={at} part={part} />
        </div>
      ) : null
    case 'tools':
      return (
        <div className="mt-1">
          <p className="text-soft text-sm">{job.bench?.gate.tools.join(', ')}</p>
          {press(t`All ${problem.expected} are in the bag`, () =>
            say(
              job.id,
              { ...ask('counted', problem.expected), what: 'tool' },
              { says: problem.text, state: 'counted', count: 0 },
            ),
          )}
        </div>
      )
    case 'nowhere':
      return (
        <AskWhy
          most={300}
          ask={t`Why may it stay out?`}
          says={t`Accept it`}
          onSay={(note) => say(job.id, ask('left_over', problem.counted, { note }))}
        />
      )
    default:
      return null
  }
}

/** A screw in the hand that no compartment knows. */
function LeftOver({ job }: { job: Job }) {
  return (
    <p className="mt-3">
      <Button
        kind="ghost"
        onClick={() =>
          say(
            job.id,
            { step: '', what: 'fastener', key: 'screw', state: 'left_over', count: 1 },
            { says: t`one is left`, state: 'left_over', count: 0 },
          )
        }
      >
        <Trans>One is left that belongs nowhere</Trans>
      </Button>
    </p>
  )
}
