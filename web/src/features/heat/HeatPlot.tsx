import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Drying, Heat, Units, Vocabulary } from '../../api/types'
import { digits, inUnit, unitFor } from '../../ui/numbers'
import { Axes, pathOf, planeOf } from '../../ui/plane'
import { TableBehind } from '../../ui/TableBehind'
import { useWide } from '../../ui/useWide'

const H = 260
/** The foot of the plot. */
const COLDEST_C = 15

/** Temperature in the heater box over time: healthy a green line, now a copper one, the high limit's mark across. */
export function HeatPlot({ heat, units, vocabulary }: { heat: Heat; units: Units; vocabulary: Vocabulary }) {
  const width = useWide() ? 640 : 360
  const unit = unitFor('temperature', units, vocabulary)
  const runs = [heat.healthy, heat.now].filter((run) => run !== null)
  const last = Math.max(...runs.flatMap((run) => run.trace.map((row) => row.minute)), 10)
  const least = inUnit(COLDEST_C, unit)
  const limit = inUnit(heat.high_limit_c, unit)
  const top = Math.max(
    inUnit(heat.high_limit_c + 15, unit),
    ...runs.flatMap((run) => run.trace.map((row) => inUnit(row.box_c, unit))),
  )
  const plane = planeOf(width, H, [0, last], [least, top])
  const { x, y } = plane
  const line = (run: Drying) =>
    pathOf(
      plane,
      run.trace.map((row) => [row.minute, inUnit(row.box_c, unit)]),
    )
  const trips = heat.now?.trips.filter((trip) => trip.limit === 'high_limit') ?? []
  const at = (run: Drying | null, minute: number) => {
    const row = run?.trace.findLast((candidate) => candidate.minute <= minute)
    return row ? digits(inUnit(row.box_c, unit), 0) : '–'
  }
  return (
    <figure className="mt-2">
      <svg viewBox={`0 0 ${width} ${H}`} className="h-auto w-full" role="img" aria-label={heat.text}>
        <Axes plane={plane} heightIn={(value) => digits(value, 0)} />
        <line x1={x(0)} x2={x(last)} y1={y(limit)} y2={y(limit)} stroke="var(--now)" strokeDasharray="3 5" />
        <path d={line(heat.healthy)} stroke="var(--healthy)" strokeWidth="3" fill="none" />
        {heat.now && <path d={line(heat.now)} stroke="var(--now)" strokeWidth="2.5" fill="none" />}
        {trips.map((trip) => (
          <path key={trip.minute} d={`M${x(trip.minute) - 4} ${y(top) + 2} h8 l-4 7 Z`} fill="var(--now)" />
        ))}
      </svg>
      <TableBehind
        caption={t`Heater box, ${unit.look}`}
        head={[t`minute`, t`healthy`, t`now`]}
        rows={x.ticks(9).map((minute) => [String(minute), at(heat.healthy, minute), at(heat.now, minute)])}
      />
      <figcaption className="text-soft flex flex-wrap gap-x-4 text-sm">
        <span>
          <Trans>Heater box, {unit.look}, over minutes:</Trans>
        </span>
        <span style={{ color: 'var(--healthy)' }}>
          <Trans>━ healthy</Trans>
        </span>
        {heat.now && (
          <span style={{ color: 'var(--now)' }}>
            <Trans>━ now</Trans>
          </span>
        )}
        <span>
          <Trans>┄ the high limit's mark</Trans>
        </span>
        {trips.length > 0 && (
          <span>
            <Trans>▼ it opens</Trans>
          </span>
        )}
      </figcaption>
    </figure>
  )
}
