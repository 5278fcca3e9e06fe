import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import type { Check, Job } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { CannotHere } from './CannotHere'
import { FactList } from './FactList'
import { LookForm } from './LookForm'
import { ProbeDrawing } from './ProbeDrawing'
import { ReadingForm } from './ReadingForm'
import { useSpoken } from './useSpoken'

/** One check at a time: what to do, where the probe goes, the answer; below it what is known so far. */
export function MeasurePanel({
  job,
  check: asked,
  phase,
}: {
  job: Job
  check: string | null
  phase: 'before' | 'after'
}) {
  const { vocabulary } = useSignedIn()
  const [search] = useSearchParams()
  const spoken = useSpoken(job)
  const best = job.next.code === 'check' ? job.next.subject : job.verdict.next_checks[0]?.check
  const name = asked ?? best
  const check = vocabulary.checks.find((entry) => entry.check === name)
  const replaces = job.readings.find((reading) => reading.id === search.get('again') && reading.in_force)
  const isNext = job.next.code === 'check' && job.next.subject === name
  return (
    <div>
      {check && (
        <>
          <h2 className="text-xl font-bold">{check.do}</h2>
          <p className="text-soft text-sm">
            {check.access} · {check.instrument} · {check.minutes} min
            {check.wait_minutes > 0 && ` and ${check.wait_minutes} min waiting`}
          </p>
          {check.hazard && (
            <p className="mt-1 flex gap-2 font-bold">
              <span aria-hidden="true">⚠</span> {check.hazard}
            </p>
          )}
          {check.observes ? (
            <ReadingForm
              key={`${check.check}${replaces?.id ?? ''}${phase}`}
              job={job}
              check={check}
              phase={phase}
              replaces={replaces}
            />
          ) : (
            <LookForm key={check.check} job={job} check={check} phase={phase} />
          )}
          <CannotHere key={`cannot ${check.check}`} job={job} check={check} phase={phase} />
          <p role="status" className="text-primary min-h-7 font-bold">
            {spoken}
          </p>
          {!isNext && <ProbeDrawing node={check.node} caption={check.how} />}
        </>
      )}
      <OtherChecks job={job} shown={check} phase={phase} />
      {/* last, so that what was saved moves nothing above it */}
      <FactList job={job} phase={phase} />
    </div>
  )
}

function OtherChecks({
  job,
  shown,
  phase,
}: {
  job: Job
  shown: Check | undefined
  phase: 'before' | 'after'
}) {
  const { vocabulary } = useSignedIn()
  const [openAtFirst] = useState(job.readings.length + job.findings.length === 0)
  const stage = phase === 'before' ? 'measure' : 'prove'
  const ranked = job.verdict.next_checks.map((entry) => entry.check)
  const rank = (check: Check) => (ranked.indexOf(check.check) + ranked.length + 1) % (ranked.length + 1)
  const others = vocabulary.checks
    .filter((check) => check.check !== shown?.check)
    .sort((a, b) => (ranked.includes(a.check) ? rank(a) : 99) - (ranked.includes(b.check) ? rank(b) : 99))
  return (
    <details className="mt-4" open={openAtFirst}>
      <summary className="touch flex cursor-pointer items-center font-bold">
        Other checks, the most telling first
      </summary>
      <ul className="grid gap-x-4 sm:grid-cols-2">
        {others.map((check) => {
          const gain = job.verdict.next_checks.find((entry) => entry.check === check.check)
          return (
            <li key={check.check}>
              <Link
                to={`/jobs/${job.id}/${stage}?check=${check.check}`}
                className="touch hover:bg-base-200 flex items-center gap-2 rounded-lg px-2 py-1"
              >
                <span className="flex-1 leading-tight">{check.do}</span>
                <span className="text-soft text-sm whitespace-nowrap">
                  {check.minutes} min{gain ? ` · ${gain.bits.toFixed(1)} bit` : ''}
                </span>
              </Link>
            </li>
          )
        })}
      </ul>
    </details>
  )
}
