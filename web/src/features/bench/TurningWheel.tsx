import type { TURNS } from './wheel'

const VANES = 12
const RADIUS = 34

/** A wheel as one looks at it, and an arrow round it: the way it turns, by its shape and not by its motion alone. */
export function TurningWheel({
  turn,
  strong = false,
  className = '',
}: {
  turn: (typeof TURNS)[number]
  strong?: boolean
  className?: string
}) {
  const vanes = Array.from({ length: VANES }, (_, i) => (360 * i) / VANES)
  return (
    <svg viewBox="-50 -50 100 100" className={className} aria-hidden="true">
      {/* drawn clockwise; the other way is its mirror image */}
      <g transform={turn === 'clockwise' ? undefined : 'scale(-1 1)'}>
        <g className={strong ? 'turning' : undefined}>
          <circle r={RADIUS} className="fill-base-100 stroke-base-content" strokeWidth="2" />
          {vanes.map((angle) => (
            <path
              key={angle}
              d={`M0 -${RADIUS - 3}Q6 -${RADIUS - 8} 3 -${RADIUS - 14}`}
              transform={`rotate(${angle})`}
              className="fill-none stroke-base-content"
              strokeWidth="1.6"
            />
          ))}
          <rect
            x="-5"
            y="-5"
            width="10"
            height="10"
            className="fill-none stroke-base-content"
            strokeWidth="2"
          />
        </g>
        <path
          d="M-31 -31A44 44 0 0 1 31 -31"
          className={`fill-none ${strong ? 'stroke-primary' : 'stroke-[var(--soft)]'}`}
          strokeWidth="5"
        />
        <path d="M40 -21L20 -29L36 -43Z" className={strong ? 'fill-primary' : 'fill-[var(--soft)]'} />
      </g>
    </svg>
  )
}
