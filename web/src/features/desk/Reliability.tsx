import { t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import type { Desk } from '../../api/desk'
import { whole } from '../../ui/numbers'

const SIDE = 300
const LEFT = 52
const BELOW = 44
const TOP = 10
const x = (share: number) => LEFT + share * SIDE
const y = (share: number) => TOP + (1 - share) * SIDE

/** What was said of the likeliest cause, beside how often it was so: on the line it is what it says. */
export function Reliability({ right }: { right: NonNullable<Desk['right']> }) {
  const most = Math.max(...right.stretches.map((row) => row.jobs))
  const first = Math.round(right.first * right.jobs)
  return (
    <figure className="mt-2 flex flex-wrap items-start gap-x-6">
      <svg
        viewBox={`0 0 ${LEFT + SIDE + 22} ${TOP + SIDE + BELOW}`}
        className="h-auto w-full max-w-[20rem] sm:w-[20rem]"
        role="img"
        aria-label={t`What was said beside how often it was so`}
      >
        {[0, 0.25, 0.5, 0.75, 1].map((share) => (
          <g key={share}>
            <line x1={x(0)} x2={x(1)} y1={y(share)} y2={y(share)} className="stroke-base-300" />
            <text x={x(0) - 8} y={y(share) + 5} textAnchor="end" className="fill-base-content text-base">
              {whole(share)}
            </text>
            <text x={x(share)} y={y(0) + 20} textAnchor="middle" className="fill-base-content text-base">
              {whole(share)}
            </text>
          </g>
        ))}
        <line
          x1={x(0)}
          y1={y(0)}
          x2={x(1)}
          y2={y(1)}
          className="stroke-base-content"
          strokeWidth="1.5"
          strokeDasharray="5 5"
        />
        {right.stretches.map((row) => (
          <g key={row.low}>
            <line
              x1={x(row.said)}
              x2={x(row.said)}
              y1={y(row.right_low)}
              y2={y(row.right_high)}
              className="stroke-primary"
              strokeWidth="4"
              strokeOpacity="0.45"
            />
            <circle
              cx={x(row.said)}
              cy={y(row.right)}
              r={5 + 7 * Math.sqrt(row.jobs / most)}
              className="fill-primary"
            />
          </g>
        ))}
        <text
          x={x(0.5)}
          y={TOP + SIDE + BELOW - 4}
          textAnchor="middle"
          className="fill-base-content text-base"
        >
          {t`said of the likeliest cause, %`}
        </text>
      </svg>
      <figcaption className="min-w-52 flex-1">
        <p>
          <span className="text-3xl font-bold tabular-nums">
            <Trans>
              {first} of {right.jobs}
            </Trans>
          </span>{' '}
          <Trans>causes stood first before anything was opened.</Trans>
        </p>
        <ul className="mt-2">
          {right.stretches.map((row) => (
            <li key={row.low} className="border-base-300 border-t py-1 tabular-nums">
              <Plural
                value={row.jobs}
                one={`Said ${whole(row.said)} %: so in ${Math.round(row.right * row.jobs)} of # job`}
                other={`Said ${whole(row.said)} %: so in ${Math.round(row.right * row.jobs)} of # jobs`}
              />
              <span className="text-soft block text-sm">
                <Trans>
                  truly {whole(row.right_low)} to {whole(row.right_high)} %, nine in ten
                </Trans>
              </span>
            </li>
          ))}
        </ul>
      </figcaption>
    </figure>
  )
}
