import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Log } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { digits, inUnit, unitFor } from '../../ui/numbers'
import { useWide } from '../../ui/useWide'

const [H, LEFT, BOTTOM] = [200, 52, 26]

/** A log over a run: the points, and the line of the shape that was found in them. */
export function LogPlot({
  log,
  dimension,
}: {
  log: Pick<Log, 'minutes' | 'values' | 'fitted' | 'fitted_minutes' | 'text'>
  dimension: string
}) {
  const { me, vocabulary } = useSignedIn()
  const W = useWide() ? 640 : 360
  const unit = unitFor(dimension, me.units, vocabulary)
  const values = log.values.map((value) => inUnit(value, unit))
  const fitted = log.fitted.map((value) => inUnit(value, unit))
  const last = Math.max(...log.minutes, 1)
  const low = Math.min(0, ...values)
  const top = Math.max(...values) * 1.1 || 1
  const x = (minute: number) => LEFT + (minute / last) * (W - LEFT - 8)
  const y = (value: number) => H - BOTTOM - ((value - low) / (top - low)) * (H - BOTTOM - 10)
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="h-auto w-full"
      role="img"
      aria-label={log.text || t`the run so far`}
    >
      {[0, 0.25, 0.5, 0.75, 1].map((share) => {
        const value = low + share * (top - low)
        return (
          <g key={share}>
            <line x1={LEFT} x2={W - 8} y1={y(value)} y2={y(value)} className="stroke-base-300" />
            <text
              x={LEFT - 6}
              y={y(value) + 4}
              fontSize="13"
              textAnchor="end"
              style={{ fill: 'var(--soft)' }}
            >
              {digits(value, unit.digits)}
            </text>
          </g>
        )
      })}
      {[0, 0.25, 0.5, 0.75, 1].map((share) => (
        <text
          key={share}
          x={x(share * last)}
          y={H - 8}
          fontSize="13"
          textAnchor="middle"
          style={{ fill: 'var(--soft)' }}
        >
          {(share * last).toFixed(last < 8 ? 1 : 0)}
        </text>
      ))}
      {values.map((value, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the log
        <circle key={i} cx={x(log.minutes[i] ?? 0)} cy={y(value)} r="2.5" className="fill-base-content" />
      ))}
      <path
        d={fitted
          .map(
            (value, i) =>
              `${i ? 'L' : 'M'}${x(log.fitted_minutes[i] ?? 0).toFixed(1)} ${y(value).toFixed(1)}`,
          )
          .join(' ')}
        stroke="var(--now)"
        strokeWidth="3"
        fill="none"
      />
      <text x={LEFT} y={10} fontSize="12" style={{ fill: 'var(--soft)' }}>
        <Trans>{unit.look}, over minutes</Trans>
      </text>
    </svg>
  )
}
