import { t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { type Call, type Day, type DayStop, planDay, type Tour, undoMove, useDay } from '../../api/day'
import { dayOf } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { whole } from '../../ui/numbers'
import { Failed, Waiting } from '../../ui/states'
import { Told, useAct } from '../../ui/useAct'
import { useWide } from '../../ui/useWide'
import { dayAfter } from './clock'
import { DayMap } from './DayMap'
import { GroundCard } from './GroundCard'
import { looksOf, numbersOf } from './looks'
import { NextStop } from './NextStop'
import { StopDialog } from './StopDialog'

/** A day: the next stop of whoever drives, each van's tour, the map, and what a change would cost. */
export function DayPage() {
  const [search, setSearch] = useSearchParams()
  const day = search.get('day') ?? dayAfter(null, 0)
  const found = useDay(day)
  const [picked, setPicked] = useState<string | null>(null)
  useEffect(() => {
    document.title = t`The day · Warm Draft`
  }, [])
  if (found.isError && !found.data) return <Failed error={found.error} again={() => void found.refetch()} />
  const go = (days: number) => setSearch({ day: dayAfter(day, days) })
  return (
    <>
      <TopBar>
        <h1 className="text-lg font-bold">
          <Trans>The day</Trans>
        </h1>
      </TopBar>
      <main className="mx-auto max-w-[1280px] px-3 pt-4 pb-16 sm:px-6">
        <div className="flex items-center gap-2">
          <Button kind="outline" aria-label={t`The day before`} onClick={() => go(-1)}>
            ‹
          </Button>
          <h2 className="min-w-0 flex-1 text-center text-xl font-bold sm:flex-none">{dayOf(day)}</h2>
          <Button kind="outline" aria-label={t`The day after`} onClick={() => go(1)}>
            ›
          </Button>
        </div>
        {found.data ? <OneDay day={found.data} onPick={setPicked} /> : <Waiting what={t`the day`} />}
      </main>
      {picked && found.data && <StopDialog day={found.data} stop={picked} onClose={() => setPicked(null)} />}
    </>
  )
}

function OneDay({ day, onPick }: { day: Day; onPick: (stop: string) => void }) {
  const { me } = useSignedIn()
  const may = me.may.includes('plan_the_day')
  const wide = useWide()
  const next = day.next && <NextStop day={day} stop={day.next} onPick={onPick} />
  const run = day.plan?.run
  const missing = day.plan?.missing ?? []
  const numbers = numbersOf(day)
  const stops = new Map(day.stops.map((stop) => [stop.id, stop]))
  const unplanned = run ? day.stops.filter((stop) => missing.includes(stop.id)) : day.stops
  return (
    <>
      {!wide && next}
      {may && <Planning day={day} />}
      <div className="mt-4 grid grid-cols-1 gap-4 lg:grid-cols-2 lg:items-start">
        <div className="grid grid-cols-1 gap-4">
          {wide && next}
          {run && run.missed.length > 0 && (
            <Stops
              title={t`Nobody goes there`}
              stops={run.missed.flatMap((row) => stops.get(row.stop) ?? [])}
              says={(stop) =>
                run.missed.find((row) => row.stop === stop.id)?.why === 'nobody_qualified'
                  ? t`nobody that day may do it`
                  : t`nobody has the time`
              }
              onPick={onPick}
            />
          )}
          {unplanned.length > 0 && (
            <Stops
              title={run ? t`Not in the plan` : t`Booked`}
              stops={unplanned}
              says={(stop) => (stop.latitude === null ? t`nobody has said where it is` : times(stop))}
              onPick={onPick}
            />
          )}
          {day.stops.length === 0 && (
            <p className="text-lg">
              <Trans>
                No open job is booked for this day.{' '}
                <Link to="/jobs" className="link">
                  To the jobs
                </Link>
              </Trans>
            </p>
          )}
          {run?.tours
            .filter((tour) => tour.calls.length > 0)
            .sort((a, b) => Number(b.van === day.mine) - Number(a.van === day.mine))
            .map((tour) => (
              <TourCard key={tour.van} day={day} tour={tour} onPick={onPick} />
            ))}
        </div>
        <div className="grid grid-cols-1 gap-4">
          <section className="card-paper p-3 empty:hidden">
            <DayMap day={day} numbers={numbers} onPick={onPick} />
          </section>
          {may && <GroundCard day={day} />}
        </div>
      </div>
    </>
  )
}

const times = (stop: DayStop) => stop.windows.map(({ early, late }) => `${early}–${late}`).join(', ')

/** Have it planned; what it costs beside the best there is; the last change back. */
function Planning({ day }: { day: Day }) {
  const { plan } = day
  const { trouble, run } = useAct()
  const more = plan?.run ? plan.run.cost_minutes - (plan.run.best_minutes ?? plan.run.cost_minutes) : 0
  const driven = plan?.run?.tours.reduce((sum, tour) => sum + tour.travel_minutes, 0) ?? 0
  const late =
    plan?.run?.tours.flatMap((tour) => tour.calls).filter((call) => call.late_chance >= 0.2).length ?? 0
  return (
    <section aria-label={t`Plan`} className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <Button
        kind={plan?.run ? 'outline' : 'primary'}
        disabled={plan?.waiting}
        onClick={() => run(planDay(day.day))}
      >
        {plan?.waiting ? t`Being planned …` : plan?.run ? t`Plan it anew` : t`Plan the day`}
      </Button>
      {plan && plan.undo > 0 && (
        <Button kind="outline" onClick={() => run(undoMove(day.day, plan.version))}>
          <Trans>Undo</Trans>
        </Button>
      )}
      <p role="status" className="min-w-0 flex-1 text-lg">
        {plan?.run && (
          <>
            <b>{t`${Math.round(driven)} min of driving`}</b>
            {more >= 0.5 && ` · ${t`costs ${Math.round(more)} min more than the best`}`}
            {late > 0 && (
              <b className="text-error">
                {' '}
                · <Plural value={late} one="# stop may be late" other="# stops may be late" />
              </b>
            )}
          </>
        )}
      </p>
      {plan?.trouble && (
        <p role="alert" className="text-error w-full font-bold">
          {plan.trouble}
        </p>
      )}
      {trouble && <Told trouble={trouble} />}
    </section>
  )
}

function Stops({
  title,
  stops,
  says,
  onPick,
}: {
  title: string
  stops: DayStop[]
  says: (stop: DayStop) => string
  onPick: (stop: string) => void
}) {
  return (
    <section className="card-paper p-4">
      <h2 className="text-xl font-bold">{title}</h2>
      <ul>
        {stops.map((stop) => (
          <li key={stop.id} className="border-base-300 border-t first:border-0">
            <button
              type="button"
              className="touch flex w-full items-center gap-3 py-1 text-left"
              onClick={() => onPick(stop.id)}
            >
              <b className="min-w-0 flex-1 truncate">{stop.place}</b>
              <span className="text-soft text-right">{says(stop)}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** A van's stops in their order: when, how long, how likely late, what is not in the van. */
function TourCard({ day, tour, onPick }: { day: Day; tour: Tour; onPick: (stop: string) => void }) {
  const van = day.vans.find((row) => row.id === tour.van)
  const look = looksOf(day.vans).get(tour.van)
  const stops = new Map(day.stops.map((stop) => [stop.id, stop]))
  return (
    <section className="card-paper p-4" aria-label={van?.name}>
      <h2 className="flex flex-wrap items-center gap-x-3 text-xl font-bold">
        <svg viewBox="0 0 34 12" className="h-3 w-9" aria-hidden="true">
          <line
            x1="1"
            x2="33"
            y1="6"
            y2="6"
            className={look?.stroke}
            strokeDasharray={look?.dash}
            strokeWidth="4"
          />
        </svg>
        {van?.name}
        <span className="text-soft text-base font-normal">
          {van?.driver_name && `${van.driver_name} · `}
          {tour.start}–{tour.end} · {t`${Math.round(tour.travel_minutes)} min driving`}
          {tour.overtime_minutes >= 1 && ` · ${t`${Math.round(tour.overtime_minutes)} min after hours`}`}
        </span>
      </h2>
      <ol className="mt-1">
        {tour.calls.map((call, i) => {
          const stop = stops.get(call.stop)
          return (
            <li key={call.stop} className="border-base-300 border-t first:border-0">
              <button
                type="button"
                className={`touch flex w-full items-center gap-3 py-1.5 text-left ${stop?.done ? 'opacity-60' : ''}`}
                onClick={() => onPick(call.stop)}
              >
                <svg viewBox="0 0 28 28" className="h-7 w-7 shrink-0" aria-hidden="true">
                  <circle cx="14" cy="14" r="13" className={look?.fill} />
                  <text x="14" y="19" textAnchor="middle" className="fill-base-100 text-[14px] font-bold">
                    {i + 1}
                  </text>
                </svg>
                <span className="w-14 text-lg font-bold tabular-nums">{call.begin}</span>
                <span className="min-w-0 flex-1">
                  <b className="block leading-tight">
                    {stop?.place}
                    {stop?.done && ` · ${t`handed over`}`}
                  </b>
                  <span className="text-soft line-clamp-2 text-sm leading-tight">{stop?.headline}</span>
                  <Lacks call={call} />
                </span>
                <span className="text-right text-sm whitespace-nowrap tabular-nums">
                  <span className="block">
                    {t`${Math.round(stop?.minutes ?? 0)} ± ${Math.round(stop?.sd_minutes ?? 0)} min`}
                  </span>
                  <Late call={call} />
                </span>
              </button>
            </li>
          )
        })}
      </ol>
      <p className="mt-2">
        <a className="link" href={`/api/v1/day/${day.day}/vans/${tour.van}/calendar`} download>
          <Trans>As a calendar</Trans>
        </a>
      </p>
    </section>
  )
}

function Late({ call }: { call: Call }) {
  if (call.late_minutes >= 1)
    return <b className="text-error block">{t`${Math.round(call.late_minutes)} min late`}</b>
  if (call.late_chance < 0.05) return <span className="text-soft block">{t`in time`}</span>
  return (
    <span className={`block ${call.late_chance >= 0.2 ? 'text-error font-bold' : 'text-soft'}`}>
      {t`late: ${whole(call.late_chance)} %`}
    </span>
  )
}

function Lacks({ call }: { call: Call }) {
  if (call.lacks.length === 0) return null
  return <span className="text-error block text-sm">{t`not in the van: ${call.lacks.join(', ')}`}</span>
}
