import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Job, Step } from '../../api/types'
import { boundsOf, drawingOf, type Point, placeOf, type Shape, screwsOn } from './bench'

const line = (points: readonly Point[]) =>
  points.map(([x, y], i) => `${i ? 'L' : 'M'}${x * 4} ${y * 3}`).join('')

/** The machine cut open from the side, front at the left: the way of the air, what is off, what is in hand now. */
export function Cutaway({ job, step }: { job: Job; step: Step | undefined }) {
  const drawing = drawingOf(job)
  if (!drawing || !job.bench) return null
  const place = placeOf(job, step)
  const off = new Set(
    job.bench.compartments.filter((row) => row.state === 'open').flatMap((row) => row.shows),
  )
  const lit = new Set(place?.shows ?? [])
  const hidden = place?.fasteners.find((row) => row.hidden)?.hidden
  const screws = (place?.fasteners ?? []).reduce((sum, row) => sum + row.expected, 0)
  const shape = place?.shows[0] ? drawing.shapes[place.shows[0]] : undefined
  const dots = shape ? screwsOn(shape, screws) : []
  const called = hidden ? dots.at(-1) : undefined
  const entries = Object.entries(drawing.shapes)
  return (
    <figure className="m-0">
      <svg
        viewBox="0 0 400 300"
        className="block h-auto max-h-[286px] w-full"
        role="img"
        aria-label={t`${job.bench.layout_title}, from the side${place ? `: ${place.title}` : ''}`}
      >
        {entries.map(([name, form]) => (
          <Drawn key={name} shape={form} lit={lit.has(name)} off={off.has(name)} />
        ))}
        <path
          d={line(drawing.air_in)}
          fill="none"
          className="stroke-[var(--suction)]"
          strokeWidth={2.5}
          strokeDasharray="1 6"
          strokeLinecap="round"
        />
        <path
          d={line(drawing.air_out)}
          fill="none"
          className="stroke-[var(--pressure)]"
          strokeWidth={2.5}
          strokeDasharray="1 6"
          strokeLinecap="round"
        />
        {dots.map(([x, y], i) => {
          const out = place?.state === 'open'
          const odd = called && i === dots.length - 1
          return (
            <circle
              key={`${x},${y}`}
              cx={x * 4}
              cy={y * 3}
              r={odd ? 6 : 3.6}
              className={
                odd
                  ? 'fill-base-100 stroke-primary'
                  : out
                    ? 'fill-none stroke-base-content'
                    : 'fill-base-content'
              }
              strokeWidth={odd ? 2.5 : 1.2}
            />
          )
        })}
        {entries.map(([name, form]) => (
          <Label key={name} shape={form} lit={lit.has(name)} off={off.has(name)} />
        ))}
        {called && hidden && (
          <text
            x={Math.min(392, Math.max(8, called[0] * 4 + (called[0] > 55 ? -12 : 12)))}
            y={Math.max(16, called[1] * 3 - 10)}
            textAnchor={called[0] > 55 ? 'end' : 'start'}
            className="fill-primary font-bold"
            stroke="var(--color-base-100)"
            strokeWidth={4}
            paintOrder="stroke"
            fontSize={14}
          >
            {hidden.length > 44 ? `${hidden.slice(0, 42)}…` : hidden}
          </text>
        )}
      </svg>
      <figcaption className="text-soft flex justify-between gap-3 text-sm">
        <span>{job.bench.layout_title}</span>
        <span>
          <Trans>front at the left</Trans>
        </span>
      </figcaption>
    </figure>
  )
}

const FILL: Record<string, string> = {
  cabinet: 'fill-none',
  drum: 'fill-base-200',
  duct: 'fill-base-200',
  heater: 'fill-[var(--wash)]',
  wheel: 'fill-base-200',
}

function Drawn({ shape, lit, off }: { shape: Shape; lit: boolean; off: boolean }) {
  const cabinet = shape.kind === 'cabinet'
  const look = lit
    ? 'fill-[var(--suspect)]/40 stroke-primary'
    : off
      ? 'fill-none stroke-[var(--soft)]'
      : t`${FILL[shape.kind] ?? 'fill-base-100'} stroke-base-content`
  const stroke = {
    strokeWidth: lit ? 3 : cabinet ? 2 : 1.2,
    strokeDasharray: off && !lit ? '4 4' : undefined,
  }
  if (shape.circle) {
    const [x, y, r] = shape.circle
    return (
      <g className={look} {...stroke}>
        <circle cx={x * 4} cy={y * 3} r={r * 3.4} />
        {shape.kind === 'wheel' && <circle cx={x * 4} cy={y * 3} r={r * 2.4} strokeDasharray="2 3" />}
      </g>
    )
  }
  if (shape.path) return <path d={`${line(shape.path)}Z`} className={look} {...stroke} />
  const [left, top, right, bottom] = boundsOf(shape)
  return (
    <rect
      x={left * 4}
      y={top * 3}
      width={(right - left) * 4}
      height={(bottom - top) * 3}
      rx={shape.kind === 'drum' ? 14 : cabinet ? 8 : 2}
      className={look}
      {...stroke}
    />
  )
}

/** Names of large shapes, and of what is lit. */
function Label({ shape, lit, off }: { shape: Shape; lit: boolean; off: boolean }) {
  if (!shape.label || !(lit || ['drum', 'heater', 'motor', 'pipe'].includes(shape.kind))) return null
  const [left, top, right, bottom] = boundsOf(shape)
  const wide = right - left
  // a name that does not fit is worse than none
  if (!lit && (wide < 12 || bottom - top < 5)) return null
  const x = ((left + right) / 2) * 4
  const near = wide < 14
  const anchor = near ? (x > 200 ? 'end' : 'start') : 'middle'
  return (
    <text
      x={near ? (x > 200 ? left * 4 - 6 : right * 4 + 6) : x}
      y={((top + bottom) / 2) * 3 + 5}
      textAnchor={anchor}
      fontSize={14}
      className={lit ? 'fill-primary font-bold' : 'fill-[var(--soft)]'}
      stroke="var(--color-base-100)"
      strokeWidth={3}
      paintOrder="stroke"
    >
      {shape.label}
      {off && !lit ? t`, off` : ''}
    </text>
  )
}
