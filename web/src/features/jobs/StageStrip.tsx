import { msg, t } from '@lingui/core/macro'
import { Link } from 'react-router'
import type { Job } from '../../api/types'
import { type Wording, worded } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'

const MARKS: Record<string, string> = { done: '✓', not_needed: '–', open: '' }
const SAID: Record<string, Wording> = { done: msg`, done`, not_needed: msg`, not needed`, open: '' }

/** The nine stages in one quiet strip; the current one inked. */
export function StageStrip({ job, stage }: { job: Job; stage: string }) {
  const { vocabulary } = useSignedIn()
  const states = new Map<string, Job['stages'][number]>(job.stages.map((row) => [row.stage, row]))
  return (
    <nav aria-label={t`Stages`} className="hidden md:block">
      <ol className="grid grid-cols-9 gap-1">
        {vocabulary.stages.map(({ code, text }, i) => {
          const state = states.get(code)?.state ?? 'open'
          const here = code === stage
          return (
            <li key={code}>
              <Link
                to={`/jobs/${job.id}/${code}`}
                aria-current={here ? 'step' : undefined}
                className={`touch flex items-center gap-1.5 rounded-xl px-2.5 whitespace-nowrap ${
                  here ? 'bg-base-content text-base-100 font-bold' : state === 'open' ? 'text-soft' : ''
                }`}
              >
                <span>{i + 1}</span> <span>{text}</span>
                <span className="sr-only">{worded(SAID[state] ?? '')}</span>
                <span aria-hidden="true" className={here ? '' : 'text-success'}>
                  {MARKS[state]}
                </span>
              </Link>
            </li>
          )
        })}
      </ol>
    </nav>
  )
}
