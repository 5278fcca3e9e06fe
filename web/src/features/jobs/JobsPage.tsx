import { useEffect, useRef, useState, useSyncExternalStore } from 'react'
import { Link, useNavigate } from 'react-router'
import { sentence } from '../../api/client'
import { importJob, outbox, useJobs, useJobsAhead } from '../../api/queries'
import type { JobRow } from '../../api/types'
import { textOf, useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { useKeys } from '../../app/useKeys'
import { Key } from '../../ui/Key'
import { Failed } from '../../ui/states'
import { matches } from './search'

const clock = (iso: string) =>
  new Date(iso).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })
const day = (iso: string) =>
  new Date(iso).toLocaleDateString([], { weekday: 'long', day: 'numeric', month: 'long' })

export function JobsPage() {
  const { me, vocabulary } = useSignedIn()
  const jobs = useJobs()
  useJobsAhead(jobs.data)
  const navigate = useNavigate()
  const [words, setWords] = useState('')
  const [trouble, setTrouble] = useState<string | null>(null)
  const find = useRef<HTMLInputElement>(null)
  const file = useRef<HTMLInputElement>(null)
  useKeys({ '/': () => find.current?.focus(), n: () => navigate('/jobs/new') }, me.habits.single_keys)
  useEffect(() => {
    document.title = 'Jobs · Warm Draft'
  }, [])
  if (jobs.isError && !jobs.data) return <Failed error={jobs.error} again={() => void jobs.refetch()} />
  const complaintsOf = (row: JobRow) =>
    row.complaints.map((code) => textOf(vocabulary.complaints, code)).join(' · ')
  const rows = (jobs.data ?? []).filter((row) => matches(row, complaintsOf(row), words))
  const open = rows.filter((row) => !row.handed_over)
  const done = rows.filter((row) => row.handed_over)
  const days = [...new Set(open.map((row) => day(row.booked_for)))]
  const bring = (chosen: File | undefined) => {
    if (!chosen) return
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
          <span className="sr-only">Find a job</span>
          <input
            ref={find}
            type="search"
            className="field max-w-sm"
            placeholder="Find a place, a complaint, a cause"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
      </TopBar>
      <main className="mx-auto max-w-[1280px] px-3 pt-4 pb-28 sm:px-6">
        <div className="flex flex-wrap items-center justify-between gap-3">
          <h1 className="text-2xl font-bold">{me.workshop}</h1>
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-outline touch"
              onClick={() => file.current?.click()}
              disabled={!me.may.includes('import_a_job')}
            >
              From a file
            </button>
            <input
              ref={file}
              type="file"
              accept="application/json,.json"
              className="sr-only"
              tabIndex={-1}
              aria-label="Job file"
              onChange={(event) => {
                bring(event.target.files?.[0])
                event.target.value = ''
              }}
            />
            <Link to="/jobs/new" className="btn btn-primary touch">
              New job <Key>n</Key>
            </Link>
          </div>
        </div>
        {trouble && (
          <p role="alert" className="card-paper border-error text-error mt-3 p-3">
            {trouble}
          </p>
        )}
        {jobs.data && rows.length === 0 && (
          <p className="card-paper mt-4 p-6">
            {words ? `Nothing here says “${words}”.` : 'No jobs yet. Open the first with “New job”.'}
          </p>
        )}
        <NotYetSent known={jobs.data ?? []} />
        {days.map((name) => (
          <section key={name} className="mt-5">
            <h2 className="text-soft text-sm font-bold">{name}</h2>
            <ul className="mt-1.5 grid gap-2">
              {open
                .filter((row) => day(row.booked_for) === name)
                .map((row) => (
                  <JobCard key={row.id} row={row} complaints={complaintsOf(row)} />
                ))}
            </ul>
          </section>
        ))}
        {done.length > 0 && (
          <section className="mt-6">
            <h2 className="text-soft text-sm font-bold">Handed over</h2>
            <ul className="mt-1.5 grid gap-2">
              {done.map((row) => (
                <JobCard key={row.id} row={row} complaints={complaintsOf(row)} />
              ))}
            </ul>
          </section>
        )}
      </main>
    </>
  )
}

/** Jobs opened here that the server has not got yet. */
function NotYetSent({ known }: { known: readonly JobRow[] }) {
  const waiting = useSyncExternalStore(outbox.subscribe, outbox.stuck)
  const there = new Set(known.map((row) => row.id))
  const fresh = waiting.filter((write) => write.path.endsWith(`/jobs/${write.job}`) && !there.has(write.job))
  return fresh.map((write) => (
    <p key={write.id} className="card-paper mt-3 p-3">
      <span aria-hidden="true">⏳ </span>
      New {write.says}: kept on this device, sent when the line is back.
    </p>
  ))
}

function JobCard({ row, complaints }: { row: JobRow; complaints: string }) {
  const { vocabulary } = useSignedIn()
  return (
    <li>
      <Link
        to={`/jobs/${row.id}`}
        className="card-paper eased hover:bg-base-200 grid grid-cols-[3.4rem_1fr] gap-x-3 gap-y-1 p-3 sm:px-4 md:grid-cols-[3.4rem_minmax(0,1.15fr)_minmax(0,1.3fr)_minmax(0,15rem)] md:items-center"
      >
        <span className="text-lg font-bold">{clock(row.booked_for)}</span>
        <span className="min-w-0">
          <span className="block truncate text-lg font-bold">{row.place}</span>
          <span className="text-soft block truncate text-sm">
            {row.machine} · {row.contact}
          </span>
        </span>
        <span className="col-start-2 min-w-0 md:col-start-auto">
          <span className="block">{complaints || row.title}</span>
          <span className="text-soft block text-sm">{row.headline}</span>
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
      aria-label={done ? 'handed over' : `stage ${at} of 9`}
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
