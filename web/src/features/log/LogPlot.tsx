import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Log } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { digits, inUnit, unitFor } from '../../ui/numbers'
import { Axes, pathOf, planeOf } from '../../ui/plane'
import { TableBehind } from '../../ui/TableBehind'
import { useWide } from '../../ui/useWide'

const H = 200

/** A log over a run: the points, and the line of the shape that was found in them. */
export function LogPlot({
  log,
  dimension,
}: {
  log: Pick<Log, 'minutes' | 'values' | 'fitted' | 'fitted_minutes' | 'text'>
  dimension: string
}) {
  const { me, vocabulary } = useSignedIn()
  const width = useWide() ? 640 : 360
  const unit = unitFor(dimension, me.units, vocabulary)
  const values = log.values.map((value) => inUnit(value, unit))
  const fitted = log.fitted.map((value) => inUnit(value, unit))
  const low = Math.min(0, ...values)
  const top = Math.max(...values) * 1.1 || 1
  const plane = planeOf(width, H, [0, Math.max(...log.minutes, 1)], [low, top])
  const { x, y } = plane
  return (
    <>
      <svg
        viewBox={`0 0 ${width} ${H}`}
        className="h-auto w-full"
        role="img"
        aria-label={log.text || t`the run so far`}
      >
        <Axes plane={plane} heightIn={(value) => digits(value, unit.digits)} />
        {values.map((value, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the log
          <circle key={i} cx={x(log.minutes[i] ?? 0)} cy={y(value)} r="2.5" className="fill-base-content" />
        ))}
        <path
          d={pathOf(
            plane,
            fitted.map((value, i) => [log.fitted_minutes[i] ?? 0, value]),
          )}
          stroke="var(--now)"
          strokeWidth="3"
          fill="none"
        />
        <text x={x(0)} y={10} fontSize="12" style={{ fill: 'var(--soft)' }}>
          <Trans>{unit.look}, over minutes</Trans>
        </text>
      </svg>
      <TableBehind
        caption={t`The run, ${unit.look}`}
        head={[t`minute`, t`read`]}
        rows={values.map((value, i) => [digits(log.minutes[i] ?? 0, 1), digits(value, unit.digits)])}
      />
    </>
  )
}
