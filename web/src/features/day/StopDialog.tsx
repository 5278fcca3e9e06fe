import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { Link } from 'react-router'
import { type Day, type DayStop, locate, type Move, moveStop, useMoves, wish } from '../../api/day'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { Field } from '../../ui/Field'
import { Told, useAct } from '../../ui/useAct'
import { ChoiceField } from './ChoiceField'
import { degreesIn, degreesOf, minuteOf } from './clock'

/** A stop: what it is about, when somebody is at home, where it lies, and what having it done otherwise costs. */
export function StopDialog({ day, stop: id, onClose }: { day: Day; stop: string; onClose: () => void }) {
  const { me } = useSignedIn()
  const stop = day.stops.find((row) => row.id === id)
  if (!stop) return null
  const planned = day.plan?.run && stop.planned ? day.plan.version : null
  const may = me.may.includes('plan_the_day')
  return (
    <Dialog title={stop.place} onClose={onClose}>
      <p>{[stop.address, stop.contact, stop.machine].filter(Boolean).join(' · ')}</p>
      <p className="mt-1 font-bold">{stop.headline}</p>
      {stop.bring.length > 0 && <p>{t`Bring along: ${stop.bring.join(', ')}`}</p>}
      <p className="mt-2">
        <Link to={`/jobs/${stop.id}`} className="link font-bold">
          <Trans>Open the job</Trans>
        </Link>
      </p>
      {planned !== null && may && <Moves day={day} version={planned} stop={stop} onClose={onClose} />}
      <When day={day} stop={stop} />
      {may && <Where stop={stop} />}
    </Dialog>
  )
}

function Moves({
  day,
  version,
  stop,
  onClose,
}: {
  day: Day
  version: number
  stop: DayStop
  onClose: () => void
}) {
  const moves = useMoves(day.day, version, stop.id)
  const { trouble, run } = useAct()
  const says = (move: Move) =>
    move.van === null
      ? t`Leave it out`
      : t`${day.vans.find((van) => van.id === move.van)?.name ?? ''}, as stop ${move.position + 1}`
  const costs = (move: Move) => {
    const minutes = Math.round(move.costs_minutes)
    return minutes > 0
      ? t`${minutes} min dearer`
      : minutes < 0
        ? t`${-minutes} min cheaper`
        : t`costs nothing`
  }
  const make = async (move: Move) => {
    await moveStop(day.day, version, stop.id, move.van, move.position)
    onClose()
  }
  return (
    <section className="mt-3">
      <h3 className="font-bold">
        <Trans>Done otherwise</Trans>
      </h3>
      {moves.isError && (
        <p role="alert" className="text-error">
          <Trans>What it costs could not be asked; close this and try again.</Trans>
        </p>
      )}
      <ul className="mt-1 grid gap-1.5" aria-busy={moves.isPending}>
        {moves.data?.map((move) => (
          <li key={move.van ?? ''}>
            <Button
              kind="outline"
              className="h-auto min-h-11 w-full justify-between gap-3 py-1 text-left"
              onClick={() => run(make(move))}
            >
              <span>{says(move)}</span>
              <span className={move.costs_minutes > 0 ? '' : 'text-success'}>
                {costs(move)}
                {move.late.length > 0 && <b className="text-error">{t`, ${move.late.length} late`}</b>}
              </span>
            </Button>
          </li>
        ))}
      </ul>
      {trouble && <Told trouble={trouble} />}
    </section>
  )
}

function When({ day, stop }: { day: Day; stop: DayStop }) {
  const [first] = stop.windows
  const [early, setEarly] = useState(first?.early ?? '')
  const [late, setLate] = useState(first?.late ?? '')
  const [van, setVan] = useState(stop.van ?? '')
  const { trouble, done, run } = useAct()
  const [from, to] = [minuteOf(early), minuteOf(late)]
  return (
    <form
      className="mt-4"
      onSubmit={(event) => {
        event.preventDefault()
        if (from !== undefined && to !== undefined)
          run(wish(stop.id, [{ early: from, late: to }], van || null))
      }}
    >
      <h3 className="font-bold">{stop.wished ? t`When somebody is at home` : t`When: as it was booked`}</h3>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <div className="w-24">
          <Field title={t`from`} value={early} onChange={setEarly} maxLength={80} />
        </div>
        <div className="w-24">
          <Field title={t`begun by`} value={late} onChange={setLate} maxLength={80} />
        </div>
        <ChoiceField title={t`van`} none={t`any`} value={van} among={day.vans} onChange={setVan} />
        <Button type="submit" kind="outline" disabled={from === undefined || to === undefined}>
          <Trans>Keep</Trans>
        </Button>
      </div>
      <Told trouble={trouble} done={done && t`Kept; the next plan goes by it.`} />
    </form>
  )
}

function Where({ stop }: { stop: DayStop }) {
  const [typed, setTyped] = useState(degreesIn(stop))
  const { trouble, done, run } = useAct()
  const at = degreesOf(typed)
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        if (at) run(locate(stop.place_id, at.latitude, at.longitude))
      }}
    >
      <label className="block">
        <span className="font-bold">
          <Trans>Where: latitude, longitude</Trans>
        </span>
        <span className="mt-1 flex gap-2">
          <input
            className="field min-w-0 flex-1"
            value={typed}
            placeholder="54.40, -3.02"
            onChange={(event) => setTyped(event.target.value)}
          />
          <Button type="submit" kind="outline" disabled={!at}>
            <Trans>Keep</Trans>
          </Button>
        </span>
      </label>
      <Told trouble={trouble} done={done && t`Kept; the next plan goes by it.`} />
    </form>
  )
}
