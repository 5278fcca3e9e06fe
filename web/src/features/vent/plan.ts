/** The plan of a new run: a grid of cells, what stands on it, and how it lies in the two views. */

import type { Job, Redrawn, WayOut } from '../../api/types'
import type { Build } from '../../api/vent'
import type { Quantity, Vent } from './run'

export type Heading = '+x' | '-x' | '+y' | '-y' | '+z'
export type Cell = [number, number, number]
export type Spot = [number, number] | Cell
export type Thing = { kind: string; corner: Spot; opposite: Spot }
export type Hole = { cell: Cell; heading: Heading }
export type Chosen = {
  outlet: WayOut['outlet']
  face: WayOut['face']
  diameter: Quantity
  material: string
  elbow: { style: string; radius?: Quantity }
}
/** A photo of the wall behind, under the plan: its lower left corner and its size, in cells. */
export type Underlay = { id: string; left: number; bottom: number; width: number; height: number }
export type Plan = {
  cells: Cell
  cell: Quantity
  machine: Cell
  things: Thing[]
  outdoors: Heading[]
  holes: Hole[]
  code_profile?: Vent['code_profile']
  chosen?: Chosen
  photo?: Underlay
  behind?: { joins: string; recess?: Quantity; stands_out?: Quantity }
}

/** From above one sees x and y, facing the wall behind the machine x and z. */
export type View = 'above' | 'facing'
export type Flat = { x: number; y: number }
/** Two taps nearer than this are one, in cells. */
const LEAST_APART = 0.2

/** A room of usual size with the machine before the wall behind it, in the unit the person thinks in. */
export function freshPlan(unit: 'ft' | 'm'): Plan {
  const [cell, cells, machine]: [Quantity, Cell, Cell] =
    unit === 'ft'
      ? [{ value: 1, unit: 'ft' }, [12, 8, 8], [5, 5, 0]]
      : [{ value: 0.25, unit: 'm' }, [16, 10, 10], [6, 6, 0]]
  return { cells, cell, machine, things: [], outdoors: ['+y'], holes: [] }
}

/** A plan as a job keeps it; a file may leave out what there is none of. */
export function planOf(job: Job): Plan | null {
  const kept = job.plan as (Plan & Partial<Pick<Plan, 'things' | 'outdoors' | 'holes'>>) | null
  return (
    kept && { ...kept, things: kept.things ?? [], outdoors: kept.outdoors ?? [], holes: kept.holes ?? [] }
  )
}

/** Columns and rows of a view. */
export const across = (plan: Plan, view: View): { columns: number; rows: number } => ({
  columns: plan.cells[0],
  rows: plan.cells[view === 'above' ? 1 : 2],
})

/** A cell as it lies in a view: x to the right, y upwards. */
export const flat = (cell: readonly number[], view: View): Flat => ({
  x: cell[0] ?? 0,
  y: cell[view === 'above' ? 1 : 2] ?? 0,
})

/** The face whose wall a cell of a view lies in; what is tapped in the middle lies in none. */
export function faceAt(plan: Plan, view: View, { x, y }: Flat): Heading | null {
  const { columns, rows } = across(plan, view)
  if (y === rows - 1) return view === 'above' ? '+y' : '+z'
  if (x === 0) return '-x'
  if (x === columns - 1) return '+x'
  if (y === 0 && view === 'above') return '-y'
  return view === 'facing' ? '+y' : null
}

/** A box from two taps: from above it stands as high as such things do; facing the wall it reaches from the machine's
 * back to the wall, or is in the wall where it is an opening. */
export function boxOf(
  plan: Plan,
  view: View,
  kind: string,
  opening: boolean,
  one: Flat,
  other: Flat,
  back: number,
): Thing {
  if (view === 'above') return { kind, corner: [one.x, one.y], opposite: [other.x, other.y] }
  const wall = plan.cells[1] - 1
  const near = opening ? wall : Math.min(back, wall)
  return { kind, corner: [one.x, near, one.y], opposite: [other.x, wall, other.y] }
}

/** Whether a thing covers a cell of a view. */
export function covers(
  thing: { low: readonly number[]; high: readonly number[] },
  view: View,
  at: Flat,
): boolean {
  const [low, high] = [flat(thing.low, view), flat(thing.high, view)]
  return low.x <= at.x && at.x <= high.x && low.y <= at.y && at.y <= high.y
}

const within = (value: number, most: number) => Math.min(Math.max(value, 0), most - 1)

/** The plan in another size: what no longer lies in it goes with the wall it was in, or goes. */
export function resized(plan: Plan, cells: Cell): Plan {
  const shrunk = (spot: Spot): Spot => spot.map((place, i) => within(place, cells[i] ?? 1)) as Spot
  return {
    ...plan,
    cells,
    machine: shrunk(plan.machine) as Cell,
    things: plan.things.map((thing) => ({
      ...thing,
      corner: shrunk(thing.corner),
      opposite: shrunk(thing.opposite),
    })),
    holes: plan.holes.filter((hole) => hole.cell.every((place, i) => place < (cells[i] ?? 1))),
  }
}

/** A photo as it first lies under a plan: as high as the room, in its own shape. */
export const laidUnder = (plan: Plan, photo: { id: string; width: number; height: number }): Underlay => ({
  id: photo.id,
  left: 0,
  bottom: 0,
  height: plan.cells[2],
  width: (plan.cells[2] * photo.width) / Math.max(photo.height, 1),
})

/** A photo drawn to scale along one side: two points of it lie so many cells apart; the first stays where it is. */
export function toLength(
  photo: Underlay,
  side: 'across' | 'up',
  one: Flat,
  other: Flat,
  cells: number,
): Underlay {
  const apart = side === 'across' ? Math.abs(other.x - one.x) : Math.abs(other.y - one.y)
  if (apart < LEAST_APART || !(cells > 0)) return photo
  const times = cells / apart
  return side === 'across'
    ? { ...photo, width: photo.width * times, left: one.x - (one.x - photo.left) * times }
    : { ...photo, height: photo.height * times, bottom: one.y - (one.y - photo.bottom) * times }
}

/** A photo moved so that one of its points comes to lie on another. */
export const movedTo = (photo: Underlay, from: Flat, to: Flat): Underlay => ({
  ...photo,
  left: photo.left + to.x - from.x,
  bottom: photo.bottom + to.y - from.y,
})

/** The hole that the run there is now leaves by, where it lies in one of the plan's walls: it may be used again. */
export function holeOf(plan: Plan, end: readonly number[] | undefined): Hole | null {
  if (!end) return null
  const cell = end.map((place, i) => {
    const last = (plan.cells[i] ?? 1) - 1
    const whole = Math.round(place)
    return Math.abs(whole - last) <= 1 ? Math.min(whole, last) : whole === -1 ? 0 : whole
  }) as Cell
  if (cell.some((place, i) => place < 0 || place >= (plan.cells[i] ?? 1))) return null
  const [x, y, z] = cell
  const heading: Heading | null =
    y === plan.cells[1] - 1
      ? '+y'
      : x === 0
        ? '-x'
        : x === plan.cells[0] - 1
          ? '+x'
          : z === plan.cells[2] - 1
            ? '+z'
            : y === 0
              ? '-y'
              : null
  return heading && { cell, heading }
}

/** The way that is chosen of those that were found; undefined while none is, or where it is there no more. */
export function chosenWay(plan: Plan | null, found: Redrawn | null | undefined): WayOut | undefined {
  const chosen = plan?.chosen
  return waysOf(found).find((way) => way.outlet === chosen?.outlet && way.face === chosen?.face)
}

/** All ways that were found, what stands side by side first. */
export const waysOf = (found: Redrawn | null | undefined): WayOut[] =>
  found ? [...found.side, ...found.more] : []

/** A choice as it is kept with the plan. */
export function chosenOf(way: WayOut, build: Build): Chosen {
  const inches = (value: number): Quantity => ({ value, unit: 'in' })
  return {
    outlet: way.outlet,
    face: way.face,
    diameter: inches(build.diameter_in),
    material: build.material,
    elbow:
      build.bend === 'smooth' ? { style: 'smooth', radius: inches(build.radius_in) } : { style: 'mitred' },
  }
}

export const FIRST_BUILD: Build = { diameter_in: 4, material: 'galvanised', bend: 'smooth', radius_in: 6 }

/** What a choice is built of. */
export const buildOf = (chosen: Chosen | undefined): Build =>
  chosen
    ? {
        diameter_in: chosen.diameter.value,
        material: chosen.material === 'aluminium' ? 'aluminium' : 'galvanised',
        bend: chosen.elbow.style === 'mitred' ? 'mitred' : 'smooth',
        radius_in: chosen.elbow.radius?.value ?? FIRST_BUILD.radius_in,
      }
    : FIRST_BUILD

/** What is drawn of a run, with how long each part of it is in cells; what goes straight towards one is not seen. */
export function lengthsOf(points: readonly Flat[]): { at: Flat; cells: number }[] {
  return points.slice(1).map((point, i) => {
    const before = points[i] ?? point
    return {
      at: { x: (before.x + point.x) / 2, y: (before.y + point.y) / 2 },
      cells: Math.abs(point.x - before.x) + Math.abs(point.y - before.y),
    }
  })
}

/** The line of a way through the middles of its cells, in a view: one point for each place the drawing turns at. */
export function lineOf(path: readonly (readonly number[])[], view: View): Flat[] {
  const points = path.map((cell) => flat(cell, view))
  return points.filter((point, i) => {
    const [before, after] = [points[i - 1], points[i + 1]]
    if (!before || !after) return true
    const straight = (after.x - point.x) * (point.y - before.y) === (after.y - point.y) * (point.x - before.x)
    return !straight
  })
}
