import { plural, t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import {
  type Behind,
  type CauseMove,
  giveCounts,
  type Learning,
  leaveOut,
  takeCountsAway,
  turnLearning,
  useBehind,
  useLearning,
} from '../../api/desk'
import { written } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { FileButton } from '../../ui/FileButton'
import { Failed, Waiting } from '../../ui/states'
import { Told, useAct } from '../../ui/useAct'

/** Moves that are shown before somebody asks for more. */
const FIRST = 12

/** What a workshop's own jobs made of our tables: every move, the jobs behind it, and how to take it back. */
export function LearnedPage() {
  const { me } = useSignedIn()
  const learning = useLearning()
  const [behind, setBehind] = useState<CauseMove | null>(null)
  const { trouble, run } = useAct()
  useEffect(() => {
    document.title = t`What our jobs taught · Warm Draft`
  }, [])
  if (learning.isError && !learning.data)
    return <Failed error={learning.error} again={() => void learning.refetch()} />
  if (!learning.data) return <Waiting what={t`what our jobs taught`} />
  const { on, own, left_out, lessons } = learning.data
  const may = me.may.includes('keep_the_workshop')
  return (
    <>
      <TopBar>
        <h1 className="truncate text-lg font-bold">
          <Trans>What our jobs taught</Trans>
        </h1>
      </TopBar>
      <main className="mx-auto grid max-w-[1280px] grid-cols-1 gap-4 px-3 pt-4 pb-16 sm:px-6 lg:grid-cols-2">
        <section className="card-paper p-4 lg:col-span-2">
          <p className="text-lg">
            <b>
              <Plural value={own} one="# job of ours counts" other="# jobs of ours count" />
            </b>
            {left_out > 0 && plural(left_out, { one: ', # is left out', other: ', # are left out' })}.{' '}
            <Trans>
              What we assume counts like {lessons.worth_jobs} jobs; what one job alone says moves nothing.
            </Trans>
          </p>
          <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
            <b className={on ? 'text-success' : 'text-warning'}>
              {on ? t`✓ Verdicts go by it` : t`Verdicts go by our own tables alone`}
            </b>
            {may && (
              <Button kind="outline" onClick={() => run(turnLearning(!on))}>
                {on ? t`Go by our own tables alone` : t`Go by what was learned`}
              </Button>
            )}
          </div>
          <Told trouble={trouble} />
        </section>
        <Moves
          title={t`Causes`}
          none={t`No cause came up more or less often than we assume, by more than one job.`}
          rows={lessons.causes.map((row) => ({
            key: `${row.holds} ${row.fault}`,
            text: row.text,
            times: row.times,
            open: () => setBehind(row),
          }))}
        />
        <Moves
          title={t`Looks`}
          none={t`No check gave anything more or less often than our tables say, by more than one job.`}
          rows={lessons.looks.map((row) => ({
            key: `${row.check} ${row.row} ${row.result}`,
            text: row.text,
            times: row.taught / row.ours,
          }))}
        />
        <Shared given={learning.data.given} may={may} />
      </main>
      {behind && <BehindDialog move={behind} may={may} onClose={() => setBehind(null)} />}
    </>
  )
}

type Move = { key: string; text: string; times: number; open?: () => void }

function Moves({ title, none, rows }: { title: string; none: string; rows: readonly Move[] }) {
  const [all, setAll] = useState(false)
  const shown = all ? rows : rows.slice(0, FIRST)
  return (
    <section className="card-paper p-4">
      <h2 className="text-xl font-bold">{title}</h2>
      {rows.length === 0 && <p className="text-soft mt-1">{none}</p>}
      <ul className="mt-1">
        {shown.map((row) => (
          <li key={row.key} className="border-base-300 border-t first:border-0">
            {row.open ? (
              <button
                type="button"
                className="touch flex w-full cursor-pointer items-center gap-3 py-1.5 text-left"
                onClick={row.open}
              >
                <Line row={row} />
              </button>
            ) : (
              <div className="flex items-center gap-3 py-1.5">
                <Line row={row} />
              </div>
            )}
          </li>
        ))}
      </ul>
      {shown.length < rows.length && (
        <Button kind="ghost" onClick={() => setAll(true)}>
          <Trans>All {rows.length}</Trans>
        </Button>
      )}
    </section>
  )
}

/** How far, on a scale where twice and half are equally far from nothing; both fill it. */
function Line({ row }: { row: Move }) {
  const far = Math.max(-1, Math.min(1, Math.log2(row.times)))
  return (
    <>
      <svg viewBox="0 0 80 16" className="h-4 w-20 shrink-0" aria-hidden="true">
        <line x1="40" x2="40" y1="0" y2="16" className="stroke-base-content" />
        <rect
          x={far < 0 ? 40 + 38 * far : 40}
          width={Math.max(38 * Math.abs(far), 1.5)}
          y="3"
          height="10"
          rx="3"
          className={far < 0 ? 'fill-[var(--suction)]' : 'fill-primary'}
        />
      </svg>
      <span className="flex-1">{row.text}</span>
    </>
  )
}

/** The jobs that a move comes from; each can be left out. */
function BehindDialog({ move, may, onClose }: { move: CauseMove; may: boolean; onClose: () => void }) {
  const jobs = useBehind(move.holds, move.fault)
  const { trouble, run } = useAct()
  return (
    <Dialog title={t`The jobs behind it`} onClose={onClose}>
      <p>{move.text}</p>
      <ul className="mt-2 max-h-[60vh] overflow-y-auto">
        {jobs.data?.map((job) => (
          <BehindLine key={job.id} job={job} may={may} onLeave={(out) => run(leaveOut(job.id, out))} />
        ))}
      </ul>
      {jobs.data?.length === 0 && (
        <p className="text-soft">
          <Trans>None of ours: it comes from counts that were given.</Trans>
        </p>
      )}
      <Told trouble={trouble} />
    </Dialog>
  )
}

function BehindLine({ job, may, onLeave }: { job: Behind; may: boolean; onLeave: (out: boolean) => void }) {
  return (
    <li className="border-base-300 flex flex-wrap items-center gap-x-3 border-t py-1 first:border-0">
      <Link
        to={`/jobs/${job.id}`}
        className={`touch flex min-w-40 flex-1 flex-col justify-center ${job.left_out ? 'line-through' : ''}`}
      >
        <b>{job.title}</b>
        <span className="text-soft text-sm">
          {job.place} · {written(job.at, { dateStyle: 'medium' })}
          {job.counts < 1 && !job.left_out && ` · ${counts(job.counts)}`}
        </span>
      </Link>
      {may && (
        <Button kind="ghost" onClick={() => onLeave(!job.left_out)}>
          {job.left_out ? t`Count it again` : t`Leave it out`}
          <span className="sr-only">: {job.title}</span>
        </Button>
      )}
    </li>
  )
}

const counts = (share: number): string =>
  share === 0 ? t`counts for nothing: the proof speaks against it` : t`counts half: nothing proves it`

/** Counts of other workshops, and ours for them: no people, no places, no days. */
function Shared({ given, may }: { given: Learning['given']; may: boolean }) {
  const { trouble, done, run } = useAct()
  const [wrong, setWrong] = useState<string | null>(null)
  const bring = async (chosen: File) => {
    setWrong(null)
    try {
      const counted = JSON.parse(await chosen.text()) as Record<string, unknown>
      const title = typeof counted.title === 'string' ? counted.title : chosen.name.replace(/\.json$/i, '')
      run(giveCounts(title.slice(0, 120) || t`Counts`, counted))
    } catch {
      setWrong(t`${chosen.name} is no JSON; give a file of counts as another workshop saved it.`)
    }
  }
  if (!may && given.length === 0) return null
  return (
    <section className="card-paper p-4 lg:col-span-2">
      <h2 className="text-xl font-bold">
        <Trans>Shared with other workshops</Trans>
      </h2>
      <p className="mt-1">
        <Trans>Counts hold no people, no places and no days: only how often what was found.</Trans>
      </p>
      <ul>
        {given.map((row) => (
          <li
            key={row.id}
            className="border-base-300 flex flex-wrap items-center gap-3 border-t py-1 first:border-0"
          >
            <span className="flex-1">
              <b>{row.title}</b> <Plural value={Math.round(row.jobs)} one="# job" other="# jobs" />
              <span className="text-soft block text-sm">
                {row.by} · {written(row.at, { dateStyle: 'medium' })}
              </span>
            </span>
            {may && (
              <Button kind="ghost" onClick={() => run(takeCountsAway(row.id))}>
                <Trans>
                  Take away<span className="sr-only"> {row.title}</span>
                </Trans>
              </Button>
            )}
          </li>
        ))}
      </ul>
      {may && (
        <div className="mt-2 flex flex-wrap gap-3">
          <a href="/api/v1/learning/counts" download className="btn btn-outline touch">
            <Trans>Ours, as a file</Trans>
          </a>
          <FileButton
            text={t`Learn from a file`}
            name={t`Counts file`}
            accept="application/json,.json"
            onFile={(chosen) => void bring(chosen)}
          />
        </div>
      )}
      <Told trouble={wrong ?? trouble} done={done && t`Done: it counts from now on.`} />
    </section>
  )
}
