import { Trans } from '@lingui/react/macro'
import type { Drying, Heat, Units, Vocabulary } from '../../api/types'
import { digits, inUnit, unitFor } from '../../ui/numbers'
import { useWide } from '../../ui/useWide'

const [H, LEFT, BOTTOM] = [260, 46, 26]

/** Temperature in the heater box over time: healthy a green line, now a copper one, the high limit's mark across. */
export function HeatPlot({ heat, units, vocabulary }: { heat: Heat; units: Units; vocabulary: Vocabulary }) {
  const W = useWide() ? 640 : 360
  const unit = unitFor('temperature', units, vocabulary)
  const runs = [heat.healthy, heat.now].filter((run) => run !== null)
  const last = Math.max(...runs.flatMap((run) => run.trace.map((row) => row.minute)), 10)
  const top = Math.max(heat.high_limit_c + 15, ...runs.flatMap((run) => run.trace.map((row) => row.box_c)))
  const x = (minute: number) => LEFT + (minute / last) * (W - LEFT - 8)
  const y = (celsius: number) => H - BOTTOM - ((celsius - 15) / (top - 15)) * (H - BOTTOM - 10)
  const line = (run: Drying, of: 'box_c' | 'exhaust_c') =>
    run.trace
      .map((row, i) => `${i ? 'L' : 'M'}${x(row.minute).toFixed(1)} ${y(row[of]).toFixed(1)}`)
      .join(' ')
  const step = last > 90 ? 30 : last > 40 || W < 500 ? 10 : 5
  const trips = heat.now?.trips.filter((trip) => trip.limit === 'high_limit') ?? []
  return (
    <figure className="mt-2">
      <svg viewBox={`0 0 ${W} ${H}`} className="h-auto w-full" role="img" aria-label={heat.text}>
        {[25, 50, 75, 100, 125, 150]
          .filter((c) => c < top)
          .map((celsius) => (
            <g key={celsius}>
              <line x1={LEFT} x2={W - 8} y1={y(celsius)} y2={y(celsius)} className="stroke-base-300" />
              <text
                x={LEFT - 6}
                y={y(celsius) + 4}
                fontSize="13"
                textAnchor="end"
                style={{ fill: 'var(--soft)' }}
              >
                {digits(inUnit(celsius, unit), 0)}
              </text>
            </g>
          ))}
        {Array.from({ length: Math.floor(last / step) + 1 }, (_, i) => i * step).map((minute) => (
          <text
            key={minute}
            x={x(minute)}
            y={H - 8}
            fontSize="13"
            textAnchor="middle"
            style={{ fill: 'var(--soft)' }}
          >
            {minute}
          </text>
        ))}
        <line
          x1={LEFT}
          x2={W - 8}
          y1={y(heat.high_limit_c)}
          y2={y(heat.high_limit_c)}
          stroke="var(--now)"
          strokeDasharray="3 5"
        />
        <path d={line(heat.healthy, 'box_c')} stroke="var(--healthy)" strokeWidth="3" fill="none" />
        {heat.now && <path d={line(heat.now, 'box_c')} stroke="var(--now)" strokeWidth="2.5" fill="none" />}
        {trips.map((trip) => (
          <path key={trip.minute} d={`M${x(trip.minute) - 4} ${y(top) + 2} h8 l-4 7 Z`} fill="var(--now)" />
        ))}
      </svg>
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
