import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { Suspense, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import type { Check, Job } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { fetched } from '../../ui/fetched'
import { Waiting } from '../../ui/states'
import { WayIn } from '../works/WayIn'
import { CannotHere } from './CannotHere'
import { FactList } from './FactList'
import { LookForm } from './LookForm'
import { MeasureTabs, viewOf } from './MeasureTabs'
import { ProbeDrawing } from './ProbeDrawing'
import { ReadingForm } from './ReadingForm'
import { useSpoken } from './useSpoken'

// each is asked for only when its tab is opened
const MeterBench = fetched(() => import('../meter/MeterBench').then((m) => m.MeterBench))
const RunEditor = fetched(() => import('../vent/RunEditor').then((m) => m.RunEditor))
const HeatPanel = fetched(() => import('../heat/HeatPanel').then((m) => m.HeatPanel))
const SoundPanel = fetched(() => import('../sound/SoundPanel').then((m) => m.SoundPanel))
const LogPanel = fetched(() => import('../log/LogPanel').then((m) => m.LogPanel))

/** Ways to find out; first of them one check at a time: what to do, where the probe goes, the answer. */
export function MeasurePanel({
  job,
  check: asked,
  phase,
}: {
  job: Job
  check: string | null
  phase: 'before' | 'after'
}) {
  const [search] = useSearchParams()
  const { vocabulary } = useSignedIn()
  const view = viewOf(
    search.get('view'),
    vocabulary.checks.find((entry) => entry.check === asked),
  )
  return (
    <div>
      <MeasureTabs job={job} view={view} phase={phase} />
      {view !== 'log' && phase === 'before' && <LongRunFirst job={job} />}
      <Suspense fallback={<Waiting what={t`this part`} />}>
        {view === 'check' && <OneCheck job={job} check={asked} phase={phase} />}
        {view === 'meter' && (
          <MeterBench
            key={asked}
            job={job}
            asked={asked?.startsWith('meter_') ? asked.slice(6) : null}
            phase={phase}
          />
        )}
        {view === 'run' && <RunEditor job={job} />}
        {view === 'heat' && <HeatPanel job={job} />}
        {view === 'log' && <LogPanel job={job} phase={phase} />}
        {view === 'sound' && <SoundPanel job={job} phase={phase} />}
      </Suspense>
    </div>
  )
}

/** Fine at first: the clock is started before anything else, and the rest is done meanwhile. */
function LongRunFirst({ job }: { job: Job }) {
  const asked = job.circumstances.includes('slow_after_an_hour') && !job.logs.some((log) => log.in_force)
  if (!asked || !job.verdict.next_checks.some((entry) => entry.check === 'log_flow')) return null
  return (
    <p className="border-accent mb-3 rounded-xl border-2 p-3">
      <Trans>
        Fine at first, slow after an hour:{' '}
        <Link className="link font-bold" to={`/jobs/${job.id}/measure?view=log`}>
          start a long run now
        </Link>{' '}
        and do the rest meanwhile.
      </Trans>
    </p>
  )
}

function OneCheck({
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
            <Trans>
              {check.access} · {check.instrument} · {check.minutes} min
              {check.wait_minutes > 0 && t` and ${check.wait_minutes} min waiting`}
            </Trans>
          </p>
          {check.hazard && (
            <p className="mt-1 flex gap-2 font-bold">
              <span aria-hidden="true">⚠</span> {check.hazard}
            </p>
          )}
          <WayIn job={job} check={check} />
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
            {phase === 'before' ? spoken : job.proof.code !== 'not_measured' && job.proof.text}
          </p>
          {!isNext && <ProbeDrawing check={check} />}
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
  // what is carried, allowed and not done yet; without a verdict's word for it a check is still there to be read again
  // what was looked at before the work is looked at again after it, and what shows that its lines worked
  const again = new Set([
    ...job.findings.filter((finding) => finding.in_force).map((finding) => finding.check),
    ...job.works.lines.filter((line) => line.wanted).flatMap((line) => line.shows),
  ])
  const others = vocabulary.checks
    .filter((check) => check.given_under === null || check.given_under === 'sounds')
    .filter((check) => check.check !== shown?.check)
    .filter(
      (check) =>
        ranked.includes(check.check) || check.observes || (phase === 'after' && again.has(check.check)),
    )
    .sort((a, b) => (ranked.includes(a.check) ? rank(a) : 99) - (ranked.includes(b.check) ? rank(b) : 99))
  return (
    <details className="mt-4" open={openAtFirst}>
      <summary className="touch flex cursor-pointer items-center font-bold">
        <Trans>Other checks, the most telling first</Trans>
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
                  <Trans>
                    {check.minutes} min{gain ? t` · ${gain.bits.toFixed(1)} bit` : ''}
                  </Trans>
                </span>
              </Link>
            </li>
          )
        })}
      </ul>
    </details>
  )
}
