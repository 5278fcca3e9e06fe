import { plural, t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { type ReactNode, useEffect } from 'react'
import { Link } from 'react-router'
import { type Desk, useDesk } from '../../api/desk'
import { TopBar } from '../../app/TopBar'
import { whole } from '../../ui/numbers'
import { Failed, Waiting } from '../../ui/states'
import { Reliability } from './Reliability'

/** How a workshop's work stands, and how right its verdicts were. */
export function DeskPage() {
  const desk = useDesk()
  useEffect(() => {
    document.title = t`The workshop · Warm Draft`
  }, [])
  if (desk.isError && !desk.data) return <Failed error={desk.error} again={() => void desk.refetch()} />
  if (!desk.data) return <Waiting what={t`the workshop`} />
  const { stages, late, parts, right, checks } = desk.data
  return (
    <>
      <TopBar>
        <h1 className="text-lg font-bold">
          <Trans>The workshop</Trans>
        </h1>
      </TopBar>
      <main className="mx-auto grid max-w-[1280px] grid-cols-1 gap-4 px-3 pt-4 pb-16 sm:px-6 lg:grid-cols-2">
        <nav aria-label={t`The workshop`} className="flex flex-wrap gap-2 lg:col-span-2">
          <Link to="/day" className="btn btn-outline touch">
            <Trans>The day</Trans>
          </Link>
          <Link to="/drills" className="btn btn-outline touch">
            <Trans>Drills</Trans>
          </Link>
        </nav>
        <div className="grid grid-cols-1 content-start gap-4">
          <Stages stages={stages} />
          <Figures desk={desk.data} />
          <Waits
            title={t`Booked for a day that is over`}
            none={t`Nothing is late.`}
            jobs={late}
            says={(days) => plural(days, { one: '# day', other: '# days' })}
          />
          <Waits
            title={t`Waiting for a part`}
            none={t`No job waits for a part.`}
            jobs={parts}
            says={(days) =>
              days === 0 ? t`ordered today` : plural(days, { one: 'for # day', other: 'for # days' })
            }
          />
        </div>
        <div className="grid grid-cols-1 content-start gap-4">
          <section className="card-paper p-4">
            <h2 className="text-xl font-bold">
              <Trans>How right it was</Trans>
            </h2>
            {right ? (
              <Reliability right={right} />
            ) : (
              <p className="mt-1">
                <Trans>No job of the last year has a confirmed cause yet: hand one over with a proof.</Trans>
              </p>
            )}
            <p className="mt-2">
              <Link to="/desk/learned" className="touch inline-flex items-center underline">
                <Trans>What our jobs taught</Trans>
              </Link>
            </p>
          </section>
          {checks.length > 0 && <Checks checks={checks} />}
        </div>
      </main>
    </>
  )
}

/** Where the open jobs are, in the order of the work. */
function Stages({ stages }: { stages: Desk['stages'] }) {
  const most = Math.max(...stages.map((row) => row.jobs), 1)
  return (
    <section className="card-paper p-4">
      <h2 className="text-xl font-bold">
        <Trans>Open jobs by stage</Trans>
      </h2>
      <table className="mt-2 w-full">
        <tbody>
          {stages.map((row) => (
            <tr key={row.stage}>
              <th scope="row" className="w-32 py-0.5 text-left font-normal">
                {row.text}
              </th>
              <td className="w-8 pr-2 text-right font-bold tabular-nums">{row.jobs || '–'}</td>
              <td>
                <div
                  className="bg-primary h-3.5 rounded-full"
                  style={{ width: `${(100 * row.jobs) / most}%` }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function Waits({
  title,
  none,
  jobs,
  says,
}: {
  title: string
  none: string
  jobs: Desk['late']
  says: (days: number) => string
}) {
  return (
    <section className="card-paper p-4">
      <h2 className="text-xl font-bold">
        {title} {jobs.length > 0 && <span className="text-soft">({jobs.length})</span>}
      </h2>
      {jobs.length === 0 && <p className="text-soft mt-1">{none}</p>}
      <ul>
        {jobs.map((job) => (
          <li key={job.id} className="border-base-300 border-t first:border-0">
            <Link to={`/jobs/${job.id}`} className="touch flex items-center gap-3 py-1">
              <span className="min-w-0 flex-1">
                <b className="block truncate">{job.title}</b>
                <span className="text-soft block truncate text-sm">{job.place}</span>
              </span>
              <span className="whitespace-nowrap tabular-nums">{says(job.days)}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Figures({ desk }: { desk: Desk }) {
  const { minutes_estimated: estimated, minutes_taken: taken } = desk
  const more = estimated > 0 ? whole(taken / estimated - 1) : 0
  return (
    <section className="card-paper p-4">
      <h2 className="text-xl font-bold">
        <Trans>The last year</Trans>
      </h2>
      <dl className="mt-2 grid grid-cols-2 gap-x-6 gap-y-3 sm:grid-cols-3">
        <Figure of={t`handed over`}>{desk.handed_over}</Figure>
        <Figure of={t`mended at the first visit`}>
          {desk.fixed}
          <Of whole={desk.handed_over} />
        </Figure>
        <Figure of={t`proven by measuring`}>
          {desk.accepted}
          <Of whole={desk.handed_over} />
        </Figure>
        <Figure of={t`came back for the same`}>{desk.callbacks}</Figure>
        {estimated > 0 && (
          <>
            <Figure of={t`minutes of timed steps`}>{Math.round(taken)}</Figure>
            <Figure of={t`estimated for them`}>
              {Math.round(estimated)}
              <span className="text-soft text-base font-normal">
                {' '}
                {more > 0 ? t`+${more} % taken` : more < 0 ? t`−${-more} % taken` : t`as taken`}
              </span>
            </Figure>
          </>
        )}
      </dl>
    </section>
  )
}

function Of({ whole: all }: { whole: number }) {
  return (
    <span className="text-soft text-base font-normal">
      {' '}
      <Trans>of {all}</Trans>
    </span>
  )
}

function Figure({ of, children }: { of: string; children: ReactNode }) {
  return (
    <div className="flex flex-col-reverse">
      <dt className="text-soft text-sm">{of}</dt>
      <dd className="text-3xl font-bold tabular-nums">{children}</dd>
    </div>
  )
}

/** Checks that often moved no verdict: their minutes may be spent better. */
function Checks({ checks }: { checks: Desk['checks'] }) {
  return (
    <section className="card-paper p-4">
      <h2 className="text-xl font-bold">
        <Trans>Checks that told nothing new</Trans>
      </h2>
      <ul>
        {checks.map((row) => (
          <li
            key={row.check}
            className="border-base-300 flex items-baseline gap-3 border-t py-1.5 first:border-0"
          >
            <span className="flex-1">{row.text}</span>
            <span className="whitespace-nowrap tabular-nums">
              <Plural
                value={row.times}
                one={`${row.nothing} of # time`}
                other={`${row.nothing} of # times`}
              />
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
