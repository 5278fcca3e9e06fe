/** The run as it is drawn: pieces in order, and the line they make in space. Lengths in metres. */

import type { Unit } from '../../api/types'

export type Quantity = { value: number; unit: string }
export type Turn = 'left' | 'right' | 'up' | 'down'
export type Piece = {
  piece: 'straight' | 'elbow' | 'flexible' | 'pinch' | 'hood'
  length?: Quantity
  material?: string
  angle?: number
  style?: string
  radius?: Quantity
  compression?: number
  open_share?: number
  diameter?: Quantity
  'x-turn'?: Turn
}
/** A code profile of the workshop's own, as the run brings it along. */
export type OwnProfile = {
  title: string
  source: string
  max_length: Quantity
  bore: Quantity
  fittings: { style: string; angle: number; radius?: Quantity; takes: Quantity }[]
}
export type Vent = { diameter: Quantity; pieces: Piece[]; code_profile?: string | OwnProfile }
export type Point = { x: number; y: number; z: number }

/** A length as it was typed, in metres; a unit that nobody knows draws nothing. */
export const metres = (q: Quantity | undefined, units: readonly Unit[]): number =>
  q ? q.value * (units.find((unit) => unit.dimension === 'length' && unit.unit === q.unit)?.factor ?? 0) : 0

export const EMPTY: Vent = { diameter: { value: 4, unit: 'in' }, pieces: [] }

/** What a new piece of a kind begins as, in the unit the person thinks in. */
export function fresh(kind: Piece['piece'], unit: 'ft' | 'm'): Piece {
  switch (kind) {
    case 'straight':
      return { piece: kind, length: { value: unit === 'ft' ? 4 : 1.2, unit }, material: 'galvanised' }
    case 'elbow':
      return { piece: kind, angle: 90, style: 'smooth', radius: { value: 6, unit: 'in' }, 'x-turn': 'left' }
    case 'flexible':
      return { piece: kind, length: { value: unit === 'ft' ? 4 : 1.2, unit }, compression: 0.1 }
    case 'pinch':
      return { piece: kind, open_share: 0.5 }
    case 'hood':
      return { piece: kind, style: 'flap' }
  }
}

const UP: Point = { x: 0, y: 0, z: 1 }
const plus = (a: Point, b: Point, k = 1): Point => ({ x: a.x + k * b.x, y: a.y + k * b.y, z: a.z + k * b.z })

/** Corner points of the run from the machine's wall on; a new place after each piece. */
export function walk(pieces: readonly Piece[], units: readonly Unit[]): Point[] {
  let heading: Point = { x: 1, y: 0, z: 0 }
  let level: Point = heading // the last way that was not up or down
  const points: Point[] = [{ x: 0, y: 0, z: 0 }]
  for (const piece of pieces) {
    const here = points[points.length - 1] ?? points[0]
    if (!here) break
    if (piece.piece === 'elbow') {
      const target = aside(piece['x-turn'] ?? 'left', heading, level)
      const angle = ((piece.angle ?? 90) * Math.PI) / 180
      heading = plus(scaled(heading, Math.cos(angle)), target, Math.sin(angle))
      if (Math.abs(heading.z) < 0.9) level = unit({ ...heading, z: 0 })
      points.push(here)
    } else points.push(plus(here, heading, metres(piece.length, units)))
  }
  return points
}

const scaled = (a: Point, k: number): Point => ({ x: a.x * k, y: a.y * k, z: a.z * k })
function unit(a: Point): Point {
  const length = Math.hypot(a.x, a.y, a.z) || 1
  return scaled(a, 1 / length)
}

/** The way a bend turns to: level where the pipe runs level, along the old way where it stands upright. */
function aside(turn: Turn, heading: Point, level: Point): Point {
  const upright = Math.abs(heading.z) > 0.9
  if (turn === 'up' || turn === 'down') return upright ? level : scaled(UP, turn === 'up' ? 1 : -1)
  const left: Point = { x: -level.y, y: level.x, z: 0 }
  return turn === 'left' ? left : scaled(left, -1)
}

export type Flat = { x: number; y: number }
/** From above, and from the side: along the floor against height. */
export function views(points: readonly Point[]): { plan: Flat[]; side: Flat[] } {
  let along = 0
  const side: Flat[] = []
  points.forEach((point, i) => {
    const before = points[i - 1]
    if (before) along += Math.hypot(point.x - before.x, point.y - before.y)
    side.push({ x: along, y: point.z })
  })
  return { plan: points.map(({ x, y }) => ({ x, y })), side }
}

/** One scale for both views, so that a metre is a metre in each. */
export function toScale(all: readonly Flat[], width: number, height: number): (p: Flat) => Flat {
  const xs = all.map((p) => p.x)
  const ys = all.map((p) => p.y)
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  const scale = Math.min(width / Math.max(x1 - x0, 1), height / Math.max(y1 - y0, 1))
  const [dx, dy] = [(width - (x1 - x0) * scale) / 2, (height - (y1 - y0) * scale) / 2]
  return (p) => ({ x: dx + (p.x - x0) * scale, y: height - dy - (p.y - y0) * scale })
}
