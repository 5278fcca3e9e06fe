import { t } from '@lingui/core/macro'
import type { ReactNode } from 'react'
import type { Day } from '../../api/day'
import { useWide } from '../../ui/useWide'
import { looksOf, type Numbered } from './looks'

const EDGE = 34
/** Kilometres that a degree of latitude is long. */
const KM = 111.2

type Spot = { latitude: number; longitude: number }

/** The day from above, north up and to scale: where vans start, the stops, and each van's way between them. */
export function DayMap({
  day,
  numbers,
  onPick,
}: {
  day: Day
  numbers: ReadonlyMap<string, Numbered>
  onPick: (stop: string) => void
}) {
  const wide = useWide()
  const at = new Map<string, Spot>()
  for (const { id, latitude, longitude } of day.stops)
    if (latitude !== null && longitude !== null) at.set(id, { latitude, longitude })
  const home = homeOf(day)
  const all = [...at.values(), ...(home ? [home] : [])]
  if (all.length < 2) return null
  const [width, height] = wide ? [600, 460] : [370, 340]
  const { x, y, km } = projected(all, width, height)
  const names = wide ? namesFor(day, at, x, y) : new Map<string, number>()
  const looks = looksOf(day.vans)
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={t`Map of the day, north up: ${at.size} stops`}
    >
      {day.plan?.run?.tours.map((tour) => {
        const spots = [home, ...tour.calls.map((call) => at.get(call.stop)), home].filter((spot) => !!spot)
        return (
          <polyline
            key={tour.van}
            points={spots.map((spot) => `${x(spot)},${y(spot)}`).join(' ')}
            className={`fill-none ${looks.get(tour.van)?.stroke ?? 'stroke-base-content'}`}
            strokeDasharray={looks.get(tour.van)?.dash}
            strokeWidth="3"
            strokeLinejoin="round"
            opacity="0.75"
          />
        )
      })}
      {home && (
        <rect x={x(home) - 11} y={y(home) - 11} width="22" height="22" className="fill-base-content" />
      )}
      {home && names.has(HOME) && (
        <Name x={x(home)} y={y(home) + (names.get(HOME) ?? 0)} bold>
          {day.base?.name}
        </Name>
      )}
      {day.stops.map((stop) => {
        const spot = at.get(stop.id)
        if (!spot) return null
        const number = numbers.get(stop.id)
        return (
          // the same stops stand in the lists, as buttons
          // biome-ignore lint/a11y/noStaticElementInteractions: a picture for the mouse; keys use the lists
          <g key={stop.id} onClick={() => onPick(stop.id)} className="cursor-pointer">
            <circle
              cx={x(spot)}
              cy={y(spot)}
              r="13"
              className={`stroke-base-100 ${number ? (looks.get(number.van)?.fill ?? '') : 'fill-base-300'}`}
              strokeWidth="2"
              opacity={stop.done ? 0.45 : 1}
            />
            <text
              x={x(spot)}
              y={y(spot) + 5}
              textAnchor="middle"
              className={`text-[14px] font-bold ${number ? 'fill-base-100' : 'fill-base-content'}`}
            >
              {number?.number ?? '?'}
            </text>
            {names.has(stop.id) && (
              <Name x={x(spot)} y={y(spot) + (names.get(stop.id) ?? 0)}>
                {stop.place}
              </Name>
            )}
            <title>{stop.place}</title>
          </g>
        )
      })}
      <g className="stroke-base-content" strokeWidth="2">
        <path
          d={`M${EDGE} ${height - 8} v-6 M${EDGE} ${height - 8} h${km.length} v-6`}
          className="fill-none"
        />
      </g>
      <text x={EDGE + km.length + 8} y={height - 7} className="fill-base-content text-[14px]">
        {t`${km.whole} km`}
      </text>
    </svg>
  )
}

/** Names that stand free, below their stop or above it, and how far; the others are read in the lists. */
function namesFor(
  day: Day,
  at: ReadonlyMap<string, Spot>,
  x: (spot: Spot) => number,
  y: (spot: Spot) => number,
): ReadonlyMap<string, number> {
  const home = homeOf(day)
  const named = [
    ...(home ? [{ id: HOME, name: day.base?.name ?? '', spot: home }] : []),
    ...day.stops.flatMap(({ id, place }) => {
      const spot = at.get(id)
      return spot ? [{ id, name: place, spot }] : []
    }),
  ]
  const taken = named.map(({ spot }) => ({ x: x(spot), y: y(spot), wide: 30, high: 28 }))
  const found = new Map<string, number>()
  for (const { id, name, spot } of named) {
    const wide = LETTER * name.length
    for (const below of [29, -18]) {
      const box = { x: x(spot), y: y(spot) + below - 4, wide, high: 14 }
      const free = taken.every(
        (other) =>
          Math.abs(other.x - box.x) > (other.wide + box.wide) / 2 ||
          Math.abs(other.y - box.y) > (other.high + box.high) / 2,
      )
      if (!free) continue
      taken.push(box)
      found.set(id, below)
      break
    }
  }
  return found
}

/** The base among what is named. */
const HOME = 'home'

const homeOf = ({ base }: Day): Spot | undefined =>
  base?.latitude != null && base.longitude != null
    ? { latitude: base.latitude, longitude: base.longitude }
    : undefined

/** A name that stands out from the lines behind it. */
function Name({ x, y, bold, children }: { x: number; y: number; bold?: boolean; children: ReactNode }) {
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      className={`fill-base-content stroke-base-100 text-[13px] [paint-order:stroke] ${bold ? 'font-bold' : ''}`}
      strokeWidth="5"
    >
      {children}
    </text>
  )
}

/** How wide a letter of a name is, about. */
const LETTER = 7

/** Onto the picture, both ways alike; km: a round length and how long it is drawn. */
function projected(spots: Spot[], width: number, height: number) {
  const middle = spots.reduce((sum, spot) => sum + spot.latitude, 0) / spots.length
  const narrow = Math.cos((middle * Math.PI) / 180)
  const east = spots.map((spot) => spot.longitude * narrow)
  const north = spots.map((spot) => spot.latitude)
  const [west, south] = [Math.min(...east), Math.min(...north)]
  const wide = Math.max(Math.max(...east) - west, 1e-4)
  const high = Math.max(Math.max(...north) - south, 1e-4)
  const scale = Math.min((width - 2 * EDGE) / wide, (height - 2 * EDGE - 20) / high)
  const [left, top] = [(width - wide * scale) / 2, (height - 20 - high * scale) / 2]
  const rough = (width / 5 / scale) * KM
  const power = 10 ** Math.floor(Math.log10(rough))
  const whole = [5, 2, 1].map((step) => step * power).find((length) => length <= rough) ?? power
  return {
    x: (spot: Spot) => left + (spot.longitude * narrow - west) * scale,
    y: (spot: Spot) => height - 20 - top - (spot.latitude - south) * scale,
    km: { whole, length: (whole / KM) * scale },
  }
}
