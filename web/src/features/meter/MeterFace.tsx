import { Trans } from '@lingui/react/macro'
import type { MeterPart } from '../../api/types'

/** What a good part shows, drawn as a dial or a display of our own; the words stand beside it. */
export function MeterFace({ kind, part }: { kind: 'digital' | 'analogue'; part: MeterPart }) {
  const words = kind === 'digital' ? part.good_digital : part.good_analogue
  return (
    <figure className="flex items-center gap-3">
      <svg viewBox="0 0 120 76" className="h-[76px] w-[120px]" aria-hidden="true">
        {kind === 'analogue' ? <Dial at={needleOf(part)} /> : <Display shows={displayOf(part)} />}
      </svg>
      <figcaption className="max-w-56 leading-tight">
        <span className="text-soft block text-sm">
          <Trans>A good one shows</Trans>
        </span>
        {words}
      </figcaption>
    </figure>
  )
}

/** Where a good one's needle rests: 0 at the right end, ∞ at the left, as ohms are printed. */
function needleOf(part: MeterPart): number {
  if (part.kind === 'continuity') return 1
  if (part.kind === 'insulation') return 0
  return part.kind === 'winding' ? 0.92 : part.kind === 'element' ? 0.72 : 0.6
}

const SHOWS: Record<string, string> = {
  continuity: '0.3',
  insulation: 'OL',
  winding: '2.4',
  element: '10.7',
  thermistor: '10.0 k',
  resistance: '450',
  supply: '240',
}
const displayOf = (part: MeterPart): string => SHOWS[part.kind] ?? ''

function Dial({ at }: { at: number }) {
  const angle = Math.PI * (1 - 0.12 - at * 0.76)
  const [x, y] = [60 + 50 * Math.cos(angle), 70 - 50 * Math.sin(angle)]
  const tick = (share: number) => {
    const a = Math.PI * (1 - 0.12 - share * 0.76)
    return { x: 60 + 58 * Math.cos(a), y: 70 - 58 * Math.sin(a) }
  }
  const [left, right] = [tick(0), tick(1)]
  return (
    <>
      <rect x="1" y="1" width="118" height="74" rx="8" className="fill-base-100 stroke-base-content" />
      <path d="M12 55 A 52 52 0 0 1 108 55" className="stroke-base-content fill-none" strokeWidth="1.5" />
      <text x={left.x + 2} y={left.y - 6} fontSize="13" className="fill-base-content" textAnchor="middle">
        ∞
      </text>
      <text x={right.x - 2} y={right.y - 6} fontSize="12" className="fill-base-content" textAnchor="middle">
        0
      </text>
      <text x="60" y="44" fontSize="11" textAnchor="middle" style={{ fill: 'var(--soft)' }}>
        Ω
      </text>
      <line x1="60" y1="70" x2={x} y2={y} stroke="var(--now)" strokeWidth="2.5" strokeLinecap="round" />
      <circle cx="60" cy="70" r="4" fill="var(--now)" />
    </>
  )
}

function Display({ shows }: { shows: string }) {
  return (
    <>
      <rect x="1" y="1" width="118" height="74" rx="8" className="fill-base-content" />
      <rect x="10" y="12" width="100" height="40" rx="4" className="fill-base-200" />
      <text x="104" y="43" fontSize="28" fontWeight="700" textAnchor="end" className="fill-base-content">
        {shows}
      </text>
      <circle cx="60" cy="64" r="6" className="fill-base-200" />
    </>
  )
}
