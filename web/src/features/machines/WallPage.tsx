import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { useWall, type Wall } from '../../api/upkeep'
import { dayOf } from '../../app/language'
import { TopBar } from '../../app/TopBar'
import { whole } from '../../ui/numbers'
import { Failed, Waiting } from '../../ui/states'

const TONE = { short: 'fill-error', nearly: 'fill-warning', well: 'fill-success' } as const

/** All machines of a place, worst first, each with its next date. */
export function WallPage() {
  const { placeId = '' } = useParams()
  const wall = useWall(placeId)
  useEffect(() => {
    document.title = t`Machines · Warm Draft`
  }, [])
  if (wall.isError && !wall.data) return <Failed error={wall.error} again={() => void wall.refetch()} />
  if (!wall.data) return <Waiting what={t`the machines`} />
  const { place, machines, limit } = wall.data
  return (
    <>
      <TopBar>
        <h1 className="truncate text-lg font-bold">{place.name}</h1>
      </TopBar>
      <main className="mx-auto max-w-5xl px-3 pt-4 pb-16 sm:px-6">
        <p className="text-soft">
          {place.address} {place.contact && `· ${place.contact}`}
        </p>
        <ul className="mt-3 grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          {machines.map((machine) => (
            <li key={machine.id}>
              <Tile machine={machine} limit={limit} />
            </li>
          ))}
        </ul>
      </main>
    </>
  )
}

function Tile({ machine, limit }: { machine: Wall['machines'][number]; limit: number }) {
  const { share } = machine
  return (
    <Link to={`/machines/${machine.id}`} className="card-paper block h-full p-4">
      <p className="flex items-baseline justify-between gap-3">
        <b className="text-lg">{machine.name || machine.profile_title}</b>
        {share !== null && <span className="text-2xl font-bold">{whole(share)} %</span>}
      </p>
      <svg viewBox="0 0 200 14" preserveAspectRatio="none" className="mt-1 h-3.5 w-full" aria-hidden="true">
        <rect width="200" height="14" rx="7" className="fill-base-300" />
        <rect
          width={200 * Math.min(share ?? 0, 1)}
          height="14"
          rx="7"
          className={machine.standing ? TONE[machine.standing] : ''}
        />
        <line
          x1={200 * limit}
          x2={200 * limit}
          y1="0"
          y2="14"
          className="stroke-base-content"
          strokeWidth="2"
        />
      </svg>
      <p className="mt-1">
        {share === null ? (
          <Trans>Never measured here.</Trans>
        ) : (
          <Trans>of a healthy flow, expected today</Trans>
        )}
      </p>
      {machine.service_by && (
        <p className={machine.overdue ? 'text-error font-bold' : ''}>
          {machine.overdue ? (
            <Trans>Overdue since {dayOf(machine.service_by, 'short')}</Trans>
          ) : (
            <Trans>Due by {dayOf(machine.service_by, 'short')}</Trans>
          )}
        </p>
      )}
      {machine.callbacks > 0 && (
        <p className="text-error">
          <Trans>Came back for the same: {machine.callbacks}</Trans>
        </p>
      )}
      {machine.open_job && (
        <p className="font-bold">
          <Trans>A job is open</Trans>
        </p>
      )}
    </Link>
  )
}
