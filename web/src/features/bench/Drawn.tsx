import { t } from '@lingui/core/macro'
import { boundsOf, type Drawing, type Point, type Shape } from './bench'

const line = (points: readonly Point[]) =>
  points.map(([x, y], i) => `${i ? 'L' : 'M'}${x * 4} ${y * 3}`).join('')

/** The way of the air: what is sucked in, and what is blown out. */
export function Air({ drawing }: { drawing: Drawing }) {
  const look = { fill: 'none', strokeWidth: 2.5, strokeDasharray: '1 6', strokeLinecap: 'round' } as const
  return (
    <>
      <path d={line(drawing.air_in)} className="stroke-[var(--suction)]" {...look} />
      <path d={line(drawing.air_out)} className="stroke-[var(--pressure)]" {...look} />
    </>
  )
}

const FILL: Record<string, string> = {
  cabinet: 'fill-none',
  drum: 'fill-base-200',
  duct: 'fill-base-200',
  heater: 'fill-[var(--wash)]',
  wheel: 'fill-base-200',
}

/** A shape of the cut-away: lit where the eye belongs, dashed where it is off; wide: with an edge a finger meets. */
export function Drawn({
  shape,
  lit,
  off,
  wide = false,
}: {
  shape: Shape
  lit: boolean
  off: boolean
  wide?: boolean
}) {
  const cabinet = shape.kind === 'cabinet'
  const look = lit
    ? 'fill-[var(--suspect)]/40 stroke-primary'
    : off
      ? 'fill-none stroke-[var(--soft)]'
      : t`${FILL[shape.kind] ?? 'fill-base-100'} stroke-base-content`
  const stroke = {
    strokeWidth: wide ? 18 : lit ? 3 : cabinet ? 2 : 1.2,
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
export function Label({ shape, lit, off }: { shape: Shape; lit: boolean; off: boolean }) {
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
