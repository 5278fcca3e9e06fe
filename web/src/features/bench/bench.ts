import { plural, t } from '@lingui/core/macro'
import type { Compartment, Fastener, Job, Step, Wire } from '../../api/types'

/** A point of the cut-away: 100 wide, 100 high, front at the left. */
export type Point = readonly [number, number]
export type Shape = {
  kind: string
  label?: string
  box?: [number, number, number, number]
  circle?: [number, number, number]
  path?: Point[]
}
export type Drawing = { air_in: Point[]; air_out: Point[]; shapes: Record<string, Shape> }

export const drawingOf = (job: Job): Drawing | null =>
  (job.bench?.drawing as Drawing | null | undefined) ?? null

/** Left, top, right, bottom of a shape. */
export function boundsOf(shape: Shape): [number, number, number, number] {
  if (shape.box) return shape.box
  if (shape.circle) {
    const [x, y, r] = shape.circle
    return [x - r, y - r, x + r, y + r]
  }
  const xs = (shape.path ?? []).map(([x]) => x)
  const ys = (shape.path ?? []).map(([, y]) => y)
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
}

/** Where so many screws lie on a shape's edge, seen from the side: along its long sides, ends first. */
export function screwsOn(shape: Shape, count: number): Point[] {
  const [left, top, right, bottom] = boundsOf(shape)
  const tall = bottom - top > right - left
  const [from, to] = tall ? [top, bottom] : [left, right]
  const sides = tall
    ? right - left < 6
      ? [(left + right) / 2]
      : [left, right]
    : bottom - top < 6
      ? [(top + bottom) / 2]
      : [top, bottom]
  const many = Math.min(count, 24)
  const perSide = Math.ceil(many / sides.length)
  return Array.from({ length: many }, (_, i) => {
    const side = sides[i % sides.length] ?? 0
    const k = Math.floor(i / sides.length)
    const along = perSide === 1 ? (from + to) / 2 : from + 2 + ((to - from - 4) * k) / (perSide - 1)
    return tall ? [side, along] : [along, side]
  })
}

/** What a wire is called by, and the colour it was last seen to have. */
export const nameOf = (wire: Wire) => `${wire.device} · ${wire.terminal}`
export const colourOf = (wire: Wire) => wire.notes.at(-1)?.colour ?? wire.colour_code

export const placeOf = (job: Job, step: Step | undefined): Compartment | undefined =>
  job.bench?.compartments.find((place) => place.operation === step?.operation)

/** What may be answered to "how many?": the expected number with its neighbours. */
export function countsAround(expected: number): number[] {
  const from = Math.max(0, expected - 1)
  return Array.from({ length: 3 }, (_, i) => from + i)
}

/** What a count that differs asks for, in words. */
export function recountWords(row: Fastener): string | null {
  if (!row.counted || !row.differs) return null
  const gap = row.expected - row.came
  if (gap > 0) {
    const where = row.hidden ? t`look ${row.hidden.replace(/^one /, '')}` : t`look once more`
    const missing = plural(gap, { one: 'One is still in', other: '# are still in' })
    return t`${missing}, or the count was wrong: ${where}.`
  }
  const more = plural(-gap, { one: 'One more', other: '# more' })
  return t`${more} than the layout has: kept with this job, and expected on this machine from now on.`
}

/** A screw's length in the tray: drawn to scale within reason, so that a long one is seen to be long. */
export const drawnLength = (length: number | null): number =>
  Math.round(12 + Math.min(60, Math.max(6, length ?? 12)) * 0.9)

/** Minutes in words; a moment is not nothing. */
export const minutes = (value: number): string => (value < 0.75 ? t`a moment` : t`${Math.round(value)} min`)

/** Compartments by area, in the order they came; what has not been opened is not in the tray. */
export function inTray(places: readonly Compartment[]): { area: string; places: Compartment[] }[] {
  const areas = new Map<string, Compartment[]>()
  for (const place of places) {
    if (place.state === 'waiting' && !place.fasteners.some((row) => row.came > 0)) continue
    areas.set(place.area, [...(areas.get(place.area) ?? []), place])
  }
  return [...areas].map(([area, held]) => ({ area, places: held }))
}

export const screwsOut = (places: readonly Compartment[]): number =>
  places.reduce((sum, place) => sum + place.fasteners.reduce((all, row) => all + Math.max(0, row.left), 0), 0)

/** Names for so many like things in a row. */
export const times = (count: number): string[] =>
  Array.from({ length: Math.max(0, count) }, (_, i) => `${i + 1}`)
