import { msg, t } from '@lingui/core/macro'
import { Link } from 'react-router'
import type { Check, Job } from '../../api/types'
import { worded } from '../../app/language'

const TABS = [
  ['check', msg`Checks`],
  ['meter', msg`Meter`],
  ['run', msg`Vent run`],
  ['heat', msg`Heat`],
  ['log', msg`Long run`],
  ['sound', msg`Sound`],
] as const

export type MeasureView = (typeof TABS)[number][0]
/** What is found out once more after the work. */
const AFTER: readonly MeasureView[] = ['check', 'meter', 'log', 'sound']

/** Where a check is done whose result is judged from what was read. */
const WHERE = { meter: 'meter', logs: 'log', sounds: 'sound' } as const

export const viewOf = (asked: string | null, check: Check | undefined): MeasureView =>
  TABS.find(([name]) => name === asked)?.[0] ?? (check?.given_under ? WHERE[check.given_under] : 'check')

/** Ways to find out: one check at a time, the meter, the run, the heat, a log. */
export function MeasureTabs({
  job,
  view,
  phase,
}: {
  job: Job
  view: MeasureView
  phase: 'before' | 'after'
}) {
  const stage = phase === 'before' ? 'measure' : 'prove'
  return (
    <nav aria-label={t`Ways to find out`} className="-mx-1 mb-3 flex flex-wrap sm:gap-1">
      {TABS.filter(([name]) => phase === 'before' || AFTER.includes(name)).map(([name, text]) => (
        <Link
          key={name}
          to={`/jobs/${job.id}/${stage}?view=${name}`}
          aria-current={view === name ? 'page' : undefined}
          className="touch aria-[current=page]:bg-base-200 aria-[current=page]:border-accent flex items-center border-b-2 border-transparent px-1 text-sm font-bold sm:px-3 sm:text-base"
        >
          {worded(text)}
        </Link>
      ))}
    </nav>
  )
}
