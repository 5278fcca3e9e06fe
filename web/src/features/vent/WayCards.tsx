import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Redrawn, WayOut } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { shown, unitFor, wayUnit } from '../../ui/numbers'

type Props = {
  found: Redrawn
  /** What was drawn last is not in it yet. */
  pending: boolean
  seen: string | null
  chosen: string | null
  onSee: (key: string) => void
  onChoose: (way: WayOut) => void
}

/** Ways out side by side, why others are none, and what there is today. */
export function WayCards({ found, pending, seen, chosen, onSee, onChoose }: Props) {
  const card = (way: WayOut) => (
    <Card
      key={way.key}
      way={way}
      seen={way.key === seen}
      chosen={way.key === chosen}
      onSee={() => onSee(way.key)}
      onChoose={() => onChoose(way)}
    />
  )
  return (
    <div aria-busy={pending}>
      <p className="mt-3">
        {found.today} {pending && <Trans>What was drawn last is not in it yet …</Trans>}
      </p>
      {found.none && <p className="text-error mt-2 font-bold">{found.none}</p>}
      <ol className="mt-2 grid gap-2">{found.side.map(card)}</ol>
      {found.more.length > 0 && (
        <details className="mt-2">
          <summary className="touch flex cursor-pointer items-center font-bold">
            <Trans>More ways ({found.more.length})</Trans>
          </summary>
          <ol className="grid gap-2">{found.more.map(card)}</ol>
        </details>
      )}
      <p className="mt-2 text-sm">{found.transition}</p>
      {found.closed.length > 0 && (
        <ul className="text-soft mt-2 grid gap-1 text-sm" aria-label={t`Where no way leads`}>
          {found.closed.map((row) => (
            <li key={`${row.outlet} ${row.face}`}>{row.text}</li>
          ))}
        </ul>
      )}
    </div>
  )
}

type CardProps = { way: WayOut; seen: boolean; chosen: boolean; onSee: () => void; onChoose: () => void }

function Card({ way, seen, chosen, onSee, onChoose }: CardProps) {
  const { me, vocabulary } = useSignedIn()
  const flow = unitFor('flow', me.units, vocabulary)
  const pressure = unitFor('pressure', me.units, vocabulary)
  const along = wayUnit(me.units, vocabulary)
  const [low, median, high] = way.flow
  return (
    <li
      data-way-card={way.key}
      className={`card-paper p-3 ${seen ? 'outline-accent outline-2' : ''} ${chosen ? 'bg-[var(--wash)]' : ''}`}
    >
      <button type="button" className="w-full text-left" aria-pressed={seen} onClick={onSee}>
        <span className="text-lg font-bold">{way.title}</span>
        <span className={`block ${way.fits ? '' : 'text-error font-bold'}`}>{way.text}</span>
      </button>
      <dl className="mt-1 grid grid-cols-3 gap-x-2 gap-y-1 text-sm">
        {(
          [
            [t`Lost`, shown(way.pressure_drop, pressure)],
            [t`Length, bends`, `${shown(way.length, along)}, ${way.elbows}`],
            [t`Allowed still`, shown(way.left, along)],
            [t`Gives`, median && low && high ? `${shown(median, flow)}` : ''],
            [t`A load`, way.minutes === null ? t`not dry in 4 h` : `${Math.round(way.minutes)} min`],
            [t`Cost`, way.cost ? `${way.cost} ${way.currency}` : t`no price yet`],
          ] as const
        ).map(([name, text]) => (
          <div key={name}>
            <dt className="text-soft">{name}</dt>
            <dd className="font-bold">{text}</dd>
          </div>
        ))}
      </dl>
      {seen && (
        <ul className="mt-2 grid gap-1 text-sm">
          {[way.promise, ...way.warnings.map((row) => `⚠ ${row}`), ...way.notes, ...way.cleaning].map(
            (text) => (
              <li key={text}>{text}</li>
            ),
          )}
          {way.unpriced.length > 0 && (
            <li className="text-soft">
              <Trans>Without a price in the catalogue: {way.unpriced.join(', ')}.</Trans>
            </li>
          )}
        </ul>
      )}
      {chosen ? (
        <p className="mt-2 font-bold">
          <Trans>Chosen: it stands in the list of works.</Trans>
        </p>
      ) : (
        <Button kind={seen ? 'primary' : 'outline'} className="mt-2 w-full" onClick={onChoose}>
          <Trans>Choose this way</Trans>
        </Button>
      )}
    </li>
  )
}
