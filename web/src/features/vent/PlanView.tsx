import type { MessageDescriptor } from '@lingui/core'
import { msg, t } from '@lingui/core/macro'
import { type CSSProperties, type KeyboardEvent, type PointerEvent, useState } from 'react'
import type { Redrawn, WayOut } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import {
  across,
  type Flat,
  flat,
  type Heading,
  lengthsOf,
  lineOf,
  type Plan,
  type Underlay,
  type View,
} from './plan'
import type { Quantity } from './run'

const SIDE = 20 // of a cell, in the drawing's own units
const FINGER = 28 // of a cell under a finger at the least, px
const EDGE = 12 // room for the walls outdoors

/** The two views, by what they show. */
export const VIEWS: readonly (readonly [View, MessageDescriptor])[] = [
  ['above', msg`From above, the wall behind at the top`],
  ['facing', msg`Facing the wall behind`],
]

type Box = Redrawn['boxes'][number]
type Props = {
  plan: Plan
  view: View
  title: string
  boxes: readonly Box[]
  /** The way in sight. */
  way: WayOut | undefined
  /** The run there is now, as corners in cells. */
  today: readonly (readonly number[])[]
  /** The first of two corners. */
  corner: Flat | null
  onTap: (at: Flat) => void
  /** Instead of cells, where exactly the finger was, in cells. */
  onPoint?: ((at: Flat) => void) | undefined
  /** A photo that lies under it. */
  photo?: { url: string; lies: Underlay } | undefined
  /** Whether lengths stand on the way, as on paper. */
  measured?: boolean
}

/** One view of the plan, to scale: tapped with a finger, or gone over with the arrow keys. */
export function PlanView({
  plan,
  view,
  title,
  boxes,
  way,
  today,
  corner,
  onTap,
  onPoint,
  photo,
  measured = false,
}: Props) {
  const { vocabulary } = useSignedIn()
  const { columns, rows } = across(plan, view)
  const [cursor, setCursor] = useState<Flat | null>(null)
  const left = (x: number) => x * SIDE
  const top = (y: number) => (rows - 1 - y) * SIDE
  const centre = ({ x, y }: Flat) => `${left(x) + SIDE / 2},${top(y) + SIDE / 2}`
  // what hangs over the machine is seen through
  const machine = boxes.find((box) => box.kind === 'machine')
  const overhead = (box: Box) =>
    view === 'above' && machine !== undefined && (box.low[2] ?? 0) > (machine.high[2] ?? 0)
  const named = (kind: string) => vocabulary.plan_things.find((row) => row.code === kind)?.text ?? t`machine`

  const tapped = (event: PointerEvent<SVGRectElement>) => {
    const area = event.currentTarget.getBoundingClientRect()
    if (onPoint) {
      const x = ((event.clientX - area.left) / area.width) * columns
      onPoint({ x, y: rows - ((event.clientY - area.top) / area.height) * rows })
      return
    }
    const x = Math.floor(((event.clientX - area.left) / area.width) * columns)
    const y = rows - 1 - Math.floor(((event.clientY - area.top) / area.height) * rows)
    const at = { x: Math.min(Math.max(x, 0), columns - 1), y: Math.min(Math.max(y, 0), rows - 1) }
    setCursor(at)
    onTap(at)
  }
  const pressed = (event: KeyboardEvent) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key]
    const at = cursor ?? { x: 0, y: 0 }
    if (step) {
      const [dx = 0, dy = 0] = step
      setCursor({
        x: Math.min(Math.max(at.x + dx, 0), columns - 1),
        y: Math.min(Math.max(at.y + dy, 0), rows - 1),
      })
    } else if (event.key === 'Enter' || event.key === ' ') onTap(at)
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  return (
    <figure className="overflow-x-auto">
      <figcaption className="text-soft text-sm">{title}</figcaption>
      <svg
        viewBox={`${-EDGE} ${-EDGE} ${columns * SIDE + 2 * EDGE} ${rows * SIDE + 2 * EDGE}`}
        className="bg-base-200 focus-visible:outline-accent h-auto max-h-[60vh] w-full touch-manipulation rounded-lg focus-visible:outline-2 pointer-coarse:max-h-none pointer-coarse:min-w-(--fingers) print:min-w-0"
        style={{ '--fingers': `${columns * FINGER}px` } as CSSProperties}
        role="application"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is gone over with the arrow keys
        tabIndex={0}
        aria-label={t`${title}: ${columns} by ${rows} cells; arrow keys, Enter`}
        data-view={view}
        onKeyDown={pressed}
      >
        <Grid columns={columns} rows={rows} />
        {photo && (
          <image
            href={photo.url}
            x={photo.lies.left * SIDE}
            y={(rows - photo.lies.bottom - photo.lies.height) * SIDE}
            width={photo.lies.width * SIDE}
            height={photo.lies.height * SIDE}
            preserveAspectRatio="none"
            opacity="0.75"
          />
        )}
        <Outdoors plan={plan} view={view} columns={columns} rows={rows} />
        {boxes.map((box, i) => {
          const [low, high] = [flat(box.low, view), flat(box.high, view)]
          const width = (high.x - low.x + 1) * SIDE
          const height = (high.y - low.y + 1) * SIDE
          const opening = vocabulary.plan_things.find((row) => row.code === box.kind)?.opening
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: a thing is its place in the plan
            <g key={i}>
              <rect
                x={left(low.x)}
                y={top(high.y)}
                width={width}
                height={height}
                rx="2"
                className={
                  box.kind === 'machine'
                    ? 'fill-base-content'
                    : opening
                      ? 'fill-info/30 stroke-info'
                      : 'fill-base-300 stroke-base-content'
                }
                fillOpacity={overhead(box) ? 0.25 : box.kind === 'machine' ? 0.75 : undefined}
                strokeDasharray={overhead(box) ? '4 3' : undefined}
                strokeWidth="1"
              />
              <title>{named(box.kind)}</title>
              {width >= 2 * SIDE && height >= 0.9 * SIDE && (
                <text
                  x={left(low.x) + width / 2}
                  y={top(high.y) + height / 2 + 3.5}
                  textAnchor="middle"
                  fontSize="9"
                  className={box.kind === 'machine' ? 'fill-base-100' : 'fill-base-content'}
                >
                  {named(box.kind).split(' ')[0]}
                </text>
              )}
            </g>
          )
        })}
        {today.length > 1 && (
          <polyline
            points={today.map((point) => centre(flat(point, view))).join(' ')}
            fill="none"
            stroke="var(--soft)"
            strokeWidth="3"
            strokeDasharray="3 5"
            strokeLinecap="round"
          />
        )}
        {plan.holes.map((hole) => {
          const at = flat(hole.cell, view)
          return (
            <circle
              key={`${hole.heading} ${hole.cell.join(' ')}`}
              cx={left(at.x) + SIDE / 2}
              cy={top(at.y) + SIDE / 2}
              r={SIDE / 3}
              className="fill-base-100 stroke-base-content"
              strokeWidth="2"
            />
          )
        })}
        {way && <WayLine way={way} view={view} centre={centre} side={measured ? plan.cell : null} />}
        {[corner, cursor].map(
          (at, i) =>
            at && (
              <rect
                // biome-ignore lint/suspicious/noArrayIndexKey: the corner, then the cursor
                key={i}
                x={left(at.x)}
                y={top(at.y)}
                width={SIDE}
                height={SIDE}
                fill={i === 0 ? 'var(--now)' : 'none'}
                fillOpacity="0.5"
                stroke="var(--now)"
                strokeWidth={i === 0 ? 2 : 1.5}
              />
            ),
        )}
        <rect
          data-cells
          width={columns * SIDE}
          height={rows * SIDE}
          fill="transparent"
          className="cursor-crosshair"
          onPointerUp={tapped}
        />
      </svg>
    </figure>
  )
}

function Grid({ columns, rows }: { columns: number; rows: number }) {
  const lines = [
    ...Array.from({ length: columns + 1 }, (_, i) => `M${i * SIDE} 0V${rows * SIDE}`),
    ...Array.from({ length: rows + 1 }, (_, i) => `M0 ${i * SIDE}H${columns * SIDE}`),
  ]
  return (
    <>
      <rect width={columns * SIDE} height={rows * SIDE} className="fill-base-100" />
      <path d={lines.join('')} className="stroke-base-300" strokeWidth="0.6" />
    </>
  )
}

/** Walls that are outdoors on their other side. */
function Outdoors({ plan, view, columns, rows }: { plan: Plan; view: View; columns: number; rows: number }) {
  const [width, height] = [columns * SIDE, rows * SIDE]
  const edges: [Heading, string][] = [
    [view === 'above' ? '+y' : '+z', `M0 -4H${width}`],
    ['-x', `M-4 0V${height}`],
    ['+x', `M${width + 4} 0V${height}`],
    ...(view === 'above' ? ([['-y', `M0 ${height + 4}H${width}`]] as [Heading, string][]) : []),
  ]
  return (
    <>
      {edges.map(
        ([face, d]) =>
          plan.outdoors.includes(face) && <path key={face} d={d} stroke="var(--healthy)" strokeWidth="5" />,
      )}
      {view === 'facing' && plan.outdoors.includes('+y') && (
        <rect width={width} height={height} fill="var(--healthy-band)" fillOpacity="0.45" />
      )}
    </>
  )
}

/** A way, and where it leaves the house. */
function WayLine({
  way,
  view,
  centre,
  side,
}: {
  way: WayOut
  view: View
  centre: (at: Flat) => string
  /** Of a cell, where lengths are written on. */
  side: Quantity | null
}) {
  const points = lineOf(way.path, view)
  const last = points.at(-1)
  const line = points.map(centre).join(' ')
  const [x = '0', y = '0'] = last ? centre(last).split(',') : []
  return (
    <g data-way={way.key}>
      <polyline
        points={line}
        fill="none"
        className="stroke-base-100"
        strokeWidth="11"
        strokeLinejoin="round"
      />
      <polyline
        points={line}
        fill="none"
        stroke="var(--pressure)"
        strokeWidth="7"
        strokeLinejoin="round"
        strokeLinecap="round"
      />
      {side &&
        lengthsOf(points).map(({ at, cells }) => {
          const [left = '0', top = '0'] = centre(at).split(',')
          return (
            <text
              key={`${at.x} ${at.y}`}
              x={left}
              y={Number(top) - 8}
              textAnchor="middle"
              fontSize="11"
              fontWeight="700"
              className="fill-base-content stroke-base-100"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {Math.round(cells * side.value * 100) / 100} {side.unit}
            </text>
          )
        })}
      <circle cx={x} cy={y} r="7" className="fill-base-100" stroke="var(--pressure)" strokeWidth="3" />
    </g>
  )
}
