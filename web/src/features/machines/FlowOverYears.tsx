import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { MachineStory } from '../../api/upkeep'
import { written } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { digits, inUnit, unitFor } from '../../ui/numbers'

const WIDE = 640
const HIGH = 260
const LEFT = 64
const RIGHT = 16
const TOP = 12
const BELOW = 44
const day = (iso: string): number => Date.parse(iso)

/** Its flow over the years: found (hollow) and left (full) at each visit, and how it is expected to fall until the next. */
export function FlowOverYears({ story }: { story: MachineStory }) {
  const { me, vocabulary } = useSignedIn()
  const unit = unitFor('flow', me.units, vocabulary)
  const visits = story.jobs.filter((job) => job.found !== null || job.left !== null).toReversed()
  const { upkeep, healthy } = story
  if (visits.length === 0 || !healthy || !upkeep) return null
  const ahead = upkeep.foreseen
  const days = [...visits.map((job) => day(job.day)), ...ahead.map((row) => day(row.at))]
  const first = Math.min(...days)
  const last = Math.max(...days, first + 1)
  const most = 1.1 * Math.max(healthy, ...visits.flatMap((job) => [job.found ?? 0, job.left ?? 0]))
  const x = (at: number) => LEFT + ((at - first) / (last - first)) * (WIDE - LEFT - RIGHT)
  const y = (flow: number) => TOP + (1 - flow / most) * (HIGH - TOP - BELOW)
  const points = (pick: (row: (typeof ahead)[number]) => number) =>
    ahead.map((row) => `${x(day(row.at)).toFixed(1)},${y(pick(row)).toFixed(1)}`)
  const band = [...points((row) => row.low.value), ...points((row) => row.high.value).toReversed()]
  const ticks = [0, healthy / 2, healthy]
  return (
    <figure className="mt-2">
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className="h-auto w-full"
        role="img"
        aria-label={t`Flow over the years`}
      >
        {ticks.map((flow) => (
          <g key={flow}>
            <line x1={LEFT} x2={WIDE - RIGHT} y1={y(flow)} y2={y(flow)} className="stroke-base-300" />
            <text
              x={LEFT - 8}
              y={y(flow) + 5}
              textAnchor="end"
              className="fill-base-content text-2xl sm:text-base"
            >
              {digits(inUnit(flow, unit), unit.digits)}
            </text>
          </g>
        ))}
        {story.limit !== null && (
          <line
            x1={LEFT}
            x2={WIDE - RIGHT}
            y1={y(story.limit)}
            y2={y(story.limit)}
            strokeDasharray="2 4"
            className="stroke-error"
          />
        )}
        <polygon points={band.join(' ')} className="fill-[var(--healthy-band)]" />
        <polyline
          points={points((row) => row.median.value).join(' ')}
          fill="none"
          strokeDasharray="6 5"
          strokeWidth="2"
          className="stroke-base-content"
        />
        <line
          x1={x(day(upkeep.service_by))}
          x2={x(day(upkeep.service_by))}
          y1={TOP}
          y2={HIGH - BELOW}
          strokeWidth="2"
          className="stroke-primary"
        />
        {visits.map((job, i) => {
          const next = visits[i + 1]
          const at = x(day(job.day))
          return (
            <g key={job.id}>
              {job.left !== null && next?.found != null && (
                <line
                  x1={at}
                  y1={y(job.left)}
                  x2={x(day(next.day))}
                  y2={y(next.found)}
                  strokeWidth="2"
                  className="stroke-base-content"
                />
              )}
              {job.found !== null && job.left !== null && (
                <line
                  x1={at}
                  x2={at}
                  y1={y(job.found)}
                  y2={y(job.left)}
                  className="stroke-success"
                  strokeWidth="3"
                />
              )}
              {job.found !== null && (
                <circle
                  cx={at}
                  cy={y(job.found)}
                  r="5"
                  strokeWidth="2"
                  className="fill-base-100 stroke-base-content"
                />
              )}
              {job.left !== null && <circle cx={at} cy={y(job.left)} r="6" className="fill-base-content" />}
            </g>
          )
        })}
        <text x={LEFT} y={HIGH - 14} className="fill-base-content text-2xl sm:text-base">
          {written(new Date(first).toISOString(), { month: 'short', year: 'numeric' })}
        </text>
        <text
          x={WIDE - RIGHT}
          y={HIGH - 14}
          textAnchor="end"
          className="fill-base-content text-2xl sm:text-base"
        >
          {written(new Date(last).toISOString(), { month: 'short', year: 'numeric' })}
        </text>
      </svg>
      <figcaption className="text-soft text-sm">
        <Trans>
          {unit.look} out of the machine: ○ found, ● left. Dashed: expected, if nobody cleans it, with nine in
          ten around it. Dotted: below that it is short of air. The line marks the next visit.
        </Trans>
      </figcaption>
    </figure>
  )
}
