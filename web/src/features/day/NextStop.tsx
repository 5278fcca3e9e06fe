import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { Link } from 'react-router'
import type { Day } from '../../api/day'

/** For whoever drives: where next, when, why, and what to bring. */
export function NextStop({
  day,
  stop: id,
  onPick,
}: {
  day: Day
  stop: string
  onPick: (stop: string) => void
}) {
  const stop = day.stops.find((row) => row.id === id)
  const tour = day.plan?.run?.tours.find((row) => row.van === day.mine)
  const call = tour?.calls.find((row) => row.stop === id)
  if (!stop || !call || !tour) return null
  const left = tour.calls.filter((row) => !day.stops.find((other) => other.id === row.stop)?.done).length
  return (
    <section className="card-paper border-accent mt-3 border-2 p-4 md:mt-0" aria-label={t`Next stop`}>
      <p className="text-primary font-bold">
        <Trans>Next stop · {left} to go</Trans>
      </p>
      <h2 className="mt-0.5 text-2xl leading-tight font-bold">{stop.place}</h2>
      <p className="text-lg">{[stop.address, stop.contact].filter(Boolean).join(' · ')}</p>
      <p className="mt-1 text-lg">
        <b className="text-3xl tabular-nums">{call.begin}</b>{' '}
        <Trans>
          {Math.round(call.travel_minutes)} min to drive · about {Math.round(stop.minutes ?? 0)} min there
        </Trans>
      </p>
      <p className="mt-2 text-lg">{stop.headline}</p>
      {stop.bring.length > 0 && (
        <>
          <h3 className="mt-3 font-bold">
            <Trans>Bring along</Trans>
          </h3>
          <ul className="list-disc pl-6 text-lg">
            {stop.bring.map((part) => (
              <li key={part}>{part}</li>
            ))}
          </ul>
          {call.lacks.length > 0 && (
            <p className="text-error font-bold">{t`Not in the van: ${call.lacks.join(', ')}`}</p>
          )}
        </>
      )}
      <p className="mt-3 flex flex-wrap gap-2">
        <Link to={`/jobs/${stop.id}`} className="btn btn-primary touch text-lg">
          <Trans>Open the job</Trans>
        </Link>
        <button type="button" className="btn btn-outline touch" onClick={() => onPick(stop.id)}>
          <Trans>Times and changes</Trans>
        </button>
      </p>
    </section>
  )
}
