import { t } from '@lingui/core/macro'
import { useSignedIn } from '../../app/signedIn'
import { type Piece, toScale, views, walk } from './run'

const WIDTH = 300
const HEIGHT = 110

/** The run to scale, from above and from the side; each piece with its number and what it loses. */
export function RunDrawing({ pieces, picked }: { pieces: Piece[]; picked: number | null }) {
  const { vocabulary } = useSignedIn()
  const points = walk(pieces, vocabulary.units)
  const both = views(points)
  return (
    <div className="grid gap-2 sm:grid-cols-2">
      {(
        [
          [t`From above`, both.plan],
          [t`From the side`, both.side],
        ] as const
      ).map(([title, flat]) => {
        const place = toScale(flat, WIDTH, HEIGHT)
        return (
          <figure key={title}>
            <figcaption className="text-soft text-sm">{title}</figcaption>
            <svg
              viewBox={`-14 -14 ${WIDTH + 28} ${HEIGHT + 28}`}
              className="bg-base-200 h-auto w-full rounded-lg"
              role="img"
              aria-label={t`${title}: ${pieces.length} pieces, to scale`}
            >
              {pieces.map((piece, i) => {
                const from = place(flat[i] ?? { x: 0, y: 0 })
                const to = place(flat[i + 1] ?? { x: 0, y: 0 })
                return (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a piece is its place in the run
                  <g key={i}>
                    <line
                      x1={from.x}
                      y1={from.y}
                      x2={to.x}
                      y2={to.y}
                      stroke={picked === i ? 'var(--now)' : 'currentColor'}
                      strokeWidth={picked === i ? 9 : 7}
                      strokeLinecap="round"
                      strokeDasharray={piece.piece === 'flexible' ? '2 9' : undefined}
                    />
                    <Mark piece={piece} x={to.x} y={to.y} />
                  </g>
                )
              })}
              <circle
                r="6"
                cx={place(flat[0] ?? { x: 0, y: 0 }).x}
                cy={place(flat[0] ?? { x: 0, y: 0 }).y}
                className="fill-base-100 stroke-base-content"
                strokeWidth="2"
              />
            </svg>
          </figure>
        )
      })}
    </div>
  )
}

function Mark({ piece, x, y }: { piece: Piece; x: number; y: number }) {
  if (piece.piece === 'hood')
    return <path d={`M${x - 8} ${y + 8} L${x + 9} ${y} L${x - 8} ${y - 8} Z`} className="fill-base-content" />
  if (piece.piece === 'pinch')
    return (
      <path
        d={`M${x - 6} ${y - 9} L${x + 6} ${y + 9} M${x + 6} ${y - 9} L${x - 6} ${y + 9}`}
        stroke="var(--now)"
        strokeWidth="3"
      />
    )
  return null
}
