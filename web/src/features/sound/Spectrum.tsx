import { t } from '@lingui/core/macro'
import type { PartRate } from '../../api/types'
import { Axes, pathOf, planeOf } from '../../ui/plane'
import { useWide } from '../../ui/useWide'

const H = 190
const FOOT = 26
/** Marks nearer to one another than this, in the drawing, share a line of words. */
const APART = 46

export type Line = {
  name: string
  db: readonly number[]
  step: number
  look: 'now' | 'was'
}

const LOOK = {
  now: { stroke: 'var(--now)', strokeWidth: 2 },
  was: { stroke: 'var(--soft)', strokeWidth: 1.5, strokeDasharray: '5 3' },
} as const

/** Parts whose turns are slow enough to be heard come and go. */
export const knocking = (marks: readonly PartRate[]) =>
  marks.filter((mark) => mark.part !== 'motor' && mark.part !== 'blade_pass')

/** Power over pitch, with a mark where each part of the machine turns; those that stand out are bold. */
export function Spectrum({
  title,
  lines,
  marks,
  heard,
}: {
  title: string
  lines: readonly Line[]
  marks: readonly PartRate[]
  heard: Readonly<Record<string, number | null>>
}) {
  const width = useWide() ? 640 : 360
  // what hums below 4 Hz is wind on the microphone
  const shown = lines.map((line) =>
    line.db.flatMap((db, i): [number, number][] => (i * line.step >= 0.4 ? [[i * line.step, db]] : [])),
  )
  const all = shown.flat()
  if (all.length === 0) return null
  const top = Math.max(...all.map(([hz]) => hz))
  const heights = all.map(([, db]) => db)
  const low = Math.max(Math.min(...heights), Math.max(...heights) - 70)
  const plane = planeOf(width, H, [0, top], [low, Math.max(...heights) + 14])
  const { x } = plane
  return (
    <figure className="m-0">
      <svg viewBox={`0 0 ${width} ${H}`} className="h-auto w-full" role="img" aria-label={title}>
        <Axes plane={plane} heightIn={(db) => db.toFixed(0)} />
        {stacked(marks, x).map(({ mark, row }) => {
          const stands = heard[mark.part] != null
          return (
            <g key={mark.part} style={{ fill: stands ? 'var(--now)' : 'var(--soft)' }}>
              <line
                x1={x(mark.hz)}
                x2={x(mark.hz)}
                y1={24 + 14 * row}
                y2={H - FOOT}
                className={stands ? 'stroke-base-content' : 'stroke-base-300'}
                strokeWidth={stands ? 1.5 : 1}
              />
              <text
                x={Math.min(x(mark.hz) + 3, width - 50)}
                y={22 + 14 * row}
                fontSize="12"
                fontWeight={stands ? 700 : 400}
              >
                {mark.text}
              </text>
            </g>
          )
        })}
        {lines.map((line, i) => (
          <path
            key={line.name}
            d={pathOf(
              plane,
              (shown[i] ?? []).map(([hz, db]) => [hz, Math.max(db, low)]),
            )}
            fill="none"
            {...LOOK[line.look]}
          />
        ))}
      </svg>
      <figcaption className="text-soft text-sm">
        {title}
        {t`, over Hz`}
        {lines.length > 1 &&
          lines.map((line) => ` · ${line.look === 'was' ? '- - ' : '—— '}${line.name}`).join('')}
      </figcaption>
    </figure>
  )
}

/** Each mark on the first line of words where it has room. */
export function stacked<Mark extends { hz: number }>(
  marks: readonly Mark[],
  x: (hz: number) => number,
): { mark: Mark; row: number }[] {
  const ends: number[] = []
  return [...marks]
    .sort((a, b) => a.hz - b.hz)
    .map((mark) => {
      const at = x(mark.hz)
      let row = ends.findIndex((end) => end <= at)
      if (row < 0) row = ends.length
      ends[row] = at + APART
      return { mark, row }
    })
}

/** How loud one band is, moment by moment: a thump stands up. */
export function Trace({ title, db, step }: { title: string; db: readonly number[]; step: number }) {
  const width = useWide() ? 640 : 360
  const plane = planeOf(width, 110, [0, db.length * step], [Math.min(...db, -3), Math.max(...db, 3)])
  return (
    <figure className="m-0">
      <svg viewBox={`0 0 ${width} 110`} className="h-auto w-full" role="img" aria-label={title}>
        <Axes plane={plane} heightIn={(value) => value.toFixed(0)} />
        <path
          d={pathOf(
            plane,
            db.map((value, i) => [i * step, value]),
          )}
          fill="none"
          stroke="var(--now)"
          strokeWidth="1.2"
        />
      </svg>
      <figcaption className="text-soft text-sm">
        {title}
        {t`, over seconds`}
      </figcaption>
    </figure>
  )
}
