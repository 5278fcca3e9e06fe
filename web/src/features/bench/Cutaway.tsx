import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Job, Step } from '../../api/types'
import { drawingOf, placeOf, screwsOn } from './bench'
import { Air, Drawn, Label } from './Drawn'

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
    <figure data-act className="m-0">
      <svg
        viewBox="0 0 400 300"
        className="block h-auto max-h-[286px] w-full"
        role="img"
        aria-label={t`${job.bench.layout_title}, from the side${place ? `: ${place.title}` : ''}`}
      >
        {entries.map(([name, form]) => (
          <Drawn key={name} shape={form} lit={lit.has(name)} off={off.has(name)} />
        ))}
        <Air drawing={drawing} />
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
