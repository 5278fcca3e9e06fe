import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react'
import { Link, useNavigate } from 'react-router'
import { sentence } from '../../api/client'
import { importJob, outbox, rowsOf, useJobs, useJobsAhead } from '../../api/queries'
import type { JobRow } from '../../api/types'
import { written } from '../../app/language'
import { textOf, useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { useKeys } from '../../app/useKeys'
import { Button } from '../../ui/Button'
import { FileButton } from '../../ui/FileButton'
import { Key } from '../../ui/Key'
import { TYPED, useSettled } from '../../ui/useSettled'

const clock = (iso: string) => written(iso, { hour: '2-digit', minute: '2-digit', hour12: false })
const short = (iso: string) => written(iso, { day: 'numeric', month: 'short' })
const day = (iso: string) => written(iso, { weekday: 'long', day: 'numeric', month: 'long' })

/** Rows that stand for those to come. */
const SHAPES = ['first', 'second', 'third', 'fourth'] as const

export function JobsPage() {
  const { me } = useSignedIn()
  const navigate = useNavigate()
  const [typed, setTyped] = useState('')
  const [done, setDone] = useState(false)
  const [trouble, setTrouble] = useState<string | null>(null)
  const find = useRef<HTMLInputElement>(null)
  const words = useSettled(typed.trim(), TYPED)
  useKeys({ '/': () => find.current?.focus(), n: () => navigate('/jobs/new') }, me.habits.single_keys)
  useEffect(() => {
    document.title = t`Jobs · Warm Draft`
  }, [])
  const bring = (chosen: File) => {
    setTrouble(null)
    importJob(chosen).then(
      (job) => navigate(`/jobs/${job.id}`),
      (error: unknown) => setTrouble(`${chosen.name}: ${sentence(error)}`),
    )
  }
  return (
    <>
      <TopBar>
        <label className="block">
          <span className="sr-only">
            <Trans>Find a job</Trans>
          </span>
          <input
            ref={find}
            type="search"
            className="field max-w-sm"
            placeholder={t`Find a place, a complaint, a cause`}
            value={typed}
            maxLength={200}
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
      </TopBar>
      <main className="mx-auto max-w-[1280px] px-3 pt-4 pb-28 sm:px-6">
        <div className="flex flex-wrap items-center gap-3">
          <h1 className="text-2xl font-bold">{me.workshop}</h1>
          {!words && (
            <fieldset className="join" aria-label={t`Which jobs`}>
              {[false, true].map((which) => (
                <Button
                  key={String(which)}
                  kind={which === done ? 'neutral' : 'outline'}
                  aria-pressed={which === done}
                  onClick={() => setDone(which)}
                >
                  {which ? t`Handed over` : t`Open`}
                </Button>
              ))}
            </fieldset>
          )}
          <div className="flex flex-wrap gap-2 sm:ml-auto">
            <FileButton
              text={t`From a file`}
              name={t`Job file`}
              accept="application/json,.json"
              disabled={!me.may.includes('import_a_job')}
              onFile={bring}
            />
            <Link to="/desk" className="btn btn-outline touch">
              <Trans>The workshop</Trans>
            </Link>
            <Link to="/jobs/new" className="btn btn-primary touch">
              <Trans>New job</Trans> <Key>n</Key>
            </Link>
          </div>
        </div>
        {trouble && (
          <p role="alert" className="card-paper border-error text-error mt-3 p-3">
            {trouble}
          </p>
        )}
        {words ? (
          <Rows which="any" words={words} none={t`No job says “${words}”.`} dated />
        ) : done ? (
          <Rows which="handed_over" none={t`Nothing is handed over yet.`} dated />
        ) : (
          <OpenJobs />
        )}
      </main>
    </>
  )
}

/** The day first, then what comes, then what is open from before. */
function OpenJobs() {
  const jobs = useJobs('open')
  const earlier = useJobs('earlier')
  const [rows, before] = [rowsOf(jobs.data), rowsOf(earlier.data)]
  const both = jobs.data && earlier.data
  useJobsAhead(
    useMemo(() => both && [...rowsOf(jobs.data), ...rowsOf(earlier.data)], [both, jobs.data, earlier.data]),
  )
  const days = [...new Set(rows.map((row) => day(row.booked_for)))]
  const nothing = jobs.data && earlier.data && rows.length + before.length === 0
  return (
    <>
      {nothing && (
        <p className="card-paper mt-4 p-6">
          <Trans>No open jobs. Open one with “New job”.</Trans>
        </p>
      )}
      {jobs.isPending && earlier.isPending && <ListShape />}
      <NotYetSent known={[...rows, ...before]} />
      <Trouble of={jobs} />
      {days.map((name) => (
        <Section key={name} title={name} rows={rows.filter((row) => day(row.booked_for) === name)} />
      ))}
      <More of={jobs} />
      {before.length > 0 && <Section title={t`Open from before`} rows={before} dated />}
      <More of={earlier} />
    </>
  )
}

/** A list as it is about to be. */
function ListShape() {
  return (
    <div className="mt-5 grid gap-2" aria-busy="true">
      <p className="sr-only" role="status">
        <Trans>Fetching the jobs …</Trans>
      </p>
      {SHAPES.map((shape) => (
        <div key={shape} className="card-paper h-[88px]" />
      ))}
    </div>
  )
}

/** One list, page by page. */
function Rows({ which, words, none, dated }: ListProps) {
  const jobs = useJobs(which, words)
  const rows = rowsOf(jobs.data)
  return (
    <>
      {jobs.data && rows.length === 0 && <p className="card-paper mt-4 p-6">{none}</p>}
      <Trouble of={jobs} />
      {rows.length > 0 && <Section title={t`The latest first`} rows={rows} dated={dated} />}
      <More of={jobs} />
    </>
  )
}
type ListProps = { which: 'any' | 'handed_over'; words?: string; none: string; dated: boolean }
type List = ReturnType<typeof useJobs>

function Section({ title, rows, dated = false }: { title: string; rows: JobRow[]; dated?: boolean }) {
  return (
    <section className="mt-5">
      <h2 className="text-soft text-sm font-bold">{title}</h2>
      <ul className="mt-1.5 grid gap-2">
        {rows.map((row) => (
          <JobCard key={row.id} row={row} dated={dated} />
        ))}
      </ul>
    </section>
  )
}

function More({ of }: { of: List }) {
  if (!of.hasNextPage) return null
  return (
    <Button
      kind="outline"
      className="mt-3 w-full"
      disabled={of.isFetchingNextPage}
      onClick={() => void of.fetchNextPage()}
    >
      <Trans>More</Trans>
    </Button>
  )
}

/** A list that could not be had; what is kept of it from before is shown below. */
function Trouble({ of }: { of: List }) {
  if (!of.isError) return null
  return (
    <p role="alert" className="card-paper border-warning mt-3 flex flex-wrap items-center gap-3 p-3">
      <span className="flex-1">
        {of.data ? t`No line: this is how the list was.` : t`No line: this list is not on the device.`}
      </span>
      <Button kind="outline" onClick={() => void of.refetch()}>
        <Trans>Try again</Trans>
      </Button>
    </p>
  )
}

/** Jobs opened here that the server has not got yet. */
function NotYetSent({ known }: { known: readonly JobRow[] }) {
  const waiting = useSyncExternalStore(outbox.subscribe, outbox.stuck)
  const there = new Set(known.map((row) => row.id))
  const fresh = waiting.filter((write) => write.path.endsWith(`/jobs/${write.job}`) && !there.has(write.job))
  return fresh.map((write) => (
    <p key={write.id} className="card-paper mt-3 p-3">
      <Trans>
        <span aria-hidden="true">⏳ </span>
        New {write.says}: kept on this device, sent when the line is back.
      </Trans>
    </p>
  ))
}

function JobCard({ row, dated }: { row: JobRow; dated: boolean }) {
  const { vocabulary } = useSignedIn()
  const complaints = row.complaints.map((code) => textOf(vocabulary.complaints, code)).join(' · ')
  return (
    <li>
      <Link
        to={`/jobs/${row.id}`}
        className="card-paper eased hover:bg-base-200 grid grid-cols-[3.4rem_1fr] gap-x-3 gap-y-1 p-3 sm:px-4 md:grid-cols-[3.4rem_minmax(0,1.15fr)_minmax(0,1.3fr)_minmax(0,15rem)] md:items-center"
      >
        <span className="leading-tight">
          <b className={dated ? 'block' : 'block text-lg'}>
            {dated ? short(row.booked_for) : clock(row.booked_for)}
          </b>
          {dated && <span className="text-soft block text-sm">{clock(row.booked_for)}</span>}
        </span>
        <span className="min-w-0">
          <span className="block truncate text-lg font-bold">{row.place}</span>
          <span className="text-soft block truncate text-sm">
            {row.machine} · {row.contact}
          </span>
        </span>
        <span className="col-start-2 min-w-0 md:col-start-auto">
          <span className="block">{complaints || row.title}</span>
          {row.trouble ? (
            <span className="text-error block text-sm">{row.trouble}</span>
          ) : (
            <span className="text-soft block text-sm">{row.headline}</span>
          )}
        </span>
        <span className="col-start-2 flex items-center gap-3 md:col-start-auto">
          <StageDots at={row.stage_number} done={row.handed_over} />
          <span className="min-w-0">
            <span className="text-soft block text-sm">{textOf(vocabulary.stages, row.stage)}</span>
            <span className="text-primary block font-bold">{row.next}</span>
          </span>
        </span>
      </Link>
    </li>
  )
}

/** How far along the nine stages, as a bar of nine: done ones filled. */
function StageDots({ at, done }: { at: number; done: boolean }) {
  return (
    <svg
      width="36"
      height="36"
      className="shrink-0"
      viewBox="0 0 36 36"
      role="img"
      aria-label={done ? t`handed over` : t`stage ${at} of 9`}
    >
      <circle cx="18" cy="18" r="15" className="stroke-base-300 fill-none" strokeWidth="4" />
      <circle
        cx="18"
        cy="18"
        r="15"
        className={`fill-none ${done ? 'stroke-success' : 'stroke-accent'}`}
        strokeWidth="4"
        pathLength={9}
        strokeDasharray={`${done ? 9 : at - 1} 9`}
        transform="rotate(-90 18 18)"
      />
      <text x="18" y="23" textAnchor="middle" fontSize="14" fontWeight="700" className="fill-base-content">
        {done ? '✓' : at}
      </text>
    </svg>
  )
}
