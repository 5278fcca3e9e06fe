import { type ScaleLinear, scaleLinear } from 'd3-scale'

/** Where numbers lie in a plot: x to the right, y upwards, and room for the words of both. */
export type Plane = { x: ScaleLinear<number, number>; y: ScaleLinear<number, number> }
type Span = readonly [number, number]

const LEFT = 52
const RIGHT = 16
const TOP = 10
const BOTTOM = 26
/** Between two numbers along a side, at least. */
const LINE = 24

export const planeOf = (width: number, height: number, x: Span, y: Span): Plane => ({
  x: scaleLinear(x, [LEFT, width - RIGHT]),
  y: scaleLinear(y, [height - BOTTOM, TOP]),
})

/** A line through points, as a path. */
export const pathOf = ({ x, y }: Plane, points: readonly Span[]): string =>
  points.map(([at, value], i) => `${i ? 'L' : 'M'}${x(at).toFixed(1)} ${y(value).toFixed(1)}`).join(' ')

/** Round numbers along both, with a line across for each height. */
export function Axes({ plane: { x, y }, heightIn }: { plane: Plane; heightIn: (value: number) => string }) {
  const [left = 0, right = 0] = x.range()
  const [foot = 0, top = 0] = y.range()
  const heights = Math.min(6, Math.floor((foot - top) / LINE))
  return (
    <g fontSize="13">
      {y.ticks(heights).map((value) => (
        <g key={value}>
          <line x1={left} x2={right} y1={y(value)} y2={y(value)} className="stroke-base-300" />
          <text x={left - 6} y={y(value) + 4} textAnchor="end" style={{ fill: 'var(--soft)' }}>
            {heightIn(value)}
          </text>
        </g>
      ))}
      {x.ticks(right < 500 ? 5 : 9).map((value) => (
        <text key={value} x={x(value)} y={foot + 18} textAnchor="middle" style={{ fill: 'var(--soft)' }}>
          {value}
        </text>
      ))}
    </g>
  )
}
