import type { MessageDescriptor } from '@lingui/core'
import { msg, t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { Suspense, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import type { Check, Job } from '../../api/types'
import { worded } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { fetched } from '../../ui/fetched'
import { whole } from '../../ui/numbers'
import { Waiting } from '../../ui/states'
import { needsWayIn, WayIn } from '../works/WayIn'
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

/** Where one stands, in the order that one goes about it. */
const PLACES = [
  ['outside', msg`In front`],
  ['hood', msg`At the hood`],
  ['behind', msg`Behind the machine`],
  ['inside', msg`With the machine open`],
] as const satisfies readonly (readonly [Job['verdict']['next_checks'][number]['place'], MessageDescriptor])[]

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
  const shut = check !== undefined && needsWayIn(job, check)
  const answer = check && (
    <div className="mt-2 grid gap-x-6 gap-y-2 md:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
      <div className="md:order-last">
        <ProbeDrawing check={check} />
      </div>
      <div className="min-w-0">
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
        <p className="mt-2 text-sm md:hidden">{check.how}</p>
        <CannotHere key={`cannot ${check.check}`} job={job} check={check} phase={phase} />
      </div>
    </div>
  )
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
          {shut ? (
            <>
              <WayIn job={job} check={check} />
              <details className="mt-2">
                <summary className="touch flex cursor-pointer items-center font-bold">
                  <Trans>It is open already</Trans>
                </summary>
                {answer}
              </details>
            </>
          ) : (
            answer
          )}
          <p role="status" className="text-primary min-h-7 font-bold">
            {phase === 'before' ? spoken : job.proof.code !== 'not_measured' && job.proof.text}
          </p>
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
  const gains = new Map(job.verdict.next_checks.map((entry) => [entry.check, entry]))
  // what was looked at before the work is looked at again after it, and what shows that its lines worked
  const toCompare = new Set(
    phase === 'before'
      ? job.proof.compares.before
      : [
          ...job.findings.filter((finding) => finding.in_force).map((finding) => finding.check),
          ...job.works.lines.filter((line) => line.wanted).flatMap((line) => line.shows),
          ...job.proof.compares.after,
        ],
  )
  // what is carried, allowed and not done yet; without a verdict's word for it a check is still there to be read again
  const others = vocabulary.checks
    .filter((check) => check.given_under === null || check.given_under === 'sounds')
    .filter((check) => check.check !== shown?.check)
    .filter(({ check, observes }) => gains.has(check) || observes || toCompare.has(check))
  const gainOf = (check: Check) => gains.get(check.check)?.gain ?? null
  const surer = (check: Check) => {
    const gain = gainOf(check)
    return gain ? gain.after - gain.now : 0
  }
  const compares = (check: Check) => toCompare.has(check.check)
  const telling = (check: Check) => gainOf(check) !== null || compares(check)
  const first = others.filter(telling)
  const rest = others.filter((check) => !telling(check))
  const row = (check: Check) => {
    const gain = gainOf(check)
    return (
      <li key={check.check}>
        <Link
          to={`/jobs/${job.id}/${stage}?check=${check.check}`}
          className="touch hover:bg-base-200 flex items-center gap-2 rounded-lg px-2 py-1"
        >
          <span className="flex-1 leading-tight">{check.do}</span>
          <span className="text-soft text-right text-sm whitespace-nowrap">
            <Trans>{check.minutes} min</Trans>
            <span className="block">
              {gain
                ? gain.of === 'place'
                  ? t`place: ${whole(gain.now)} → ${whole(gain.after)} %`
                  : t`cause: ${whole(gain.now)} → ${whole(gain.after)} %`
                : compares(check)
                  ? t`compares before and after`
                  : t`tells nothing new`}
            </span>
          </span>
        </Link>
      </li>
    )
  }
  return (
    <details className="mt-4" open={openAtFirst}>
      <summary className="touch flex cursor-pointer items-center font-bold">
        <Trans>Other checks, by where you stand</Trans>
      </summary>
      {PLACES.map(([place, text]) => {
        const here = first
          .filter((check) => (gains.get(check.check)?.place ?? 'outside') === place)
          .sort((a, b) => surer(b) - surer(a))
        return (
          here.length > 0 && (
            <section key={place} className="mt-2">
              <h3 className="text-soft px-2 text-sm font-bold">{worded(text)}</h3>
              <ul className="grid gap-x-4 sm:grid-cols-2">{here.map(row)}</ul>
            </section>
          )
        )
      })}
      {rest.length > 0 && (
        <details className="mt-1">
          <summary className="touch text-soft flex cursor-pointer items-center px-2 text-sm font-bold">
            <Plural
              value={rest.length}
              one="# more that tells nothing new"
              other="# more that tell nothing new"
            />
          </summary>
          <ul className="grid gap-x-4 sm:grid-cols-2">{rest.map(row)}</ul>
        </details>
      )}
    </details>
  )
}
