import { t } from '@lingui/core/macro'
import { type PointerEvent, useRef } from 'react'

const WIDE = 600
const HIGH = 200
/** A finger that moved less draws no new line, in the field's own units. */
const LEAST_MOVE = 4
/** As long as a file takes. */
const MOST = 20_000

/** A field to sign in with a finger: moves and lines between whole places, as an SVG path. */
export function SignPad({ value, onChange }: { value: string; onChange: (path: string) => void }) {
  const last = useRef<[number, number] | null>(null)
  const place = (event: PointerEvent<SVGSVGElement>): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect()
    const within = (share: number, most: number) => Math.round(Math.min(1, Math.max(0, share)) * most)
    return [
      within((event.clientX - box.left) / box.width, WIDE),
      within((event.clientY - box.top) / box.height, HIGH),
    ]
  }
  const draw = (command: 'M' | 'L', [x, y]: [number, number]) => {
    const next = `${value} ${command}${x} ${y}`.trim()
    if (next.length > MOST) return
    last.current = [x, y]
    onChange(next)
  }
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label={t`Sign here with a finger`}
      className="border-base-content/40 bg-base-100 block w-full touch-none rounded-xl border-2"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        draw('M', place(event))
      }}
      onPointerMove={(event) => {
        if (!last.current || event.buttons === 0) return
        const [x, y] = place(event)
        if (Math.hypot(x - last.current[0], y - last.current[1]) >= LEAST_MOVE) draw('L', [x, y])
      }}
      onPointerUp={() => {
        last.current = null
      }}
    >
      <line x1="30" y1="160" x2="570" y2="160" className="stroke-base-300" strokeWidth="2" />
      <Signature path={value} />
    </svg>
  )
}

/** A signature as it was drawn. */
export const Signature = ({ path }: { path: string }) => (
  <path
    d={path}
    fill="none"
    className="stroke-base-content"
    strokeWidth="4"
    strokeLinecap="round"
    strokeLinejoin="round"
  />
)
