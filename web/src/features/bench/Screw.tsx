import type { Fastener } from '../../api/types'
import { drawnLength, times } from './bench'

/** One fastener as it lies: its head by kind, its shank by length; an outline where one is missing. */
export function Screw({ row, missing = false }: { row: Fastener; missing?: boolean }) {
  const length = drawnLength(row.length_mm)
  const look = missing ? 'fill-none stroke-primary' : 'fill-base-300 stroke-[var(--soft)]'
  const dash = missing ? '3 2' : undefined
  if (row.head === 'nut')
    return (
      <svg width={18} height={16} aria-hidden="true" className={look} strokeDasharray={dash}>
        <path d="M5 1h8l4 7-4 7H5L1 8z" strokeWidth={1.2} />
        <circle cx={9} cy={8} r={3} strokeWidth={1.2} />
      </svg>
    )
  if (row.head === 'clip')
    return (
      <svg width={30} height={16} aria-hidden="true" className={`${look} fill-none`} strokeDasharray={dash}>
        <path d="M2 13c2-14 24-14 26 0" fill="none" strokeWidth={2} />
      </svg>
    )
  const head = row.head.startsWith('hex')
    ? 'M1 3l3-2h4v14H4l-3-2z'
    : row.head === 'countersunk'
      ? 'M1 1l7 4v6l-7 4z'
      : 'M8 1C3 2 1 5 1 8s2 6 7 7z'
  const washer = row.head === 'hex_washer'
  return (
    <svg width={length + 14} height={16} aria-hidden="true" className={look} strokeDasharray={dash}>
      <path d={head} strokeWidth={1.2} />
      {washer && <rect x={8} y={0.6} width={2} height={14.8} strokeWidth={1} />}
      <path d={`M${washer ? 10 : 8} 5h${length - 4}l5 3-5 3H${washer ? 10 : 8}z`} strokeWidth={1.2} />
      {!missing &&
        times(Math.floor((length - 8) / 5)).map((n) => (
          <path key={n} d={`M${8 + Number(n) * 5} 11l3-6`} strokeWidth={0.9} />
        ))}
    </svg>
  )
}
