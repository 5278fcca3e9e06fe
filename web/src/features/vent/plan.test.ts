import { describe, expect, it } from 'vitest'
import type { WayOut } from '../../api/types'
import { aJob } from '../../test/fixtures'
import {
  boxOf,
  buildOf,
  chosenOf,
  covers,
  FIRST_BUILD,
  faceAt,
  freshPlan,
  holeOf,
  laidUnder,
  lengthsOf,
  lineOf,
  movedTo,
  planOf,
  resized,
  toLength,
} from './plan'

const plan = freshPlan('ft')
const wall = plan.cells[1] - 1

describe('two taps', () => {
  it('from above leave the height to what such things have', () => {
    const joist = boxOf(plan, 'above', 'joist', false, { x: 0, y: 6 }, { x: 11, y: 6 }, 7)
    expect(joist).toEqual({ kind: 'joist', corner: [0, 6], opposite: [11, 6] })
  })
  it('facing the wall reach from the machine to the wall, an opening is in it', () => {
    const [one, other] = [
      { x: 1, y: 0 },
      { x: 2, y: 3 },
    ]
    expect(boxOf(plan, 'facing', 'pipe', false, one, other, 6).corner).toEqual([1, 6, 0])
    expect(boxOf(plan, 'facing', 'window', true, one, other, 6).corner).toEqual([1, wall, 0])
    // a machine that stands at the wall has nothing behind it
    expect(boxOf(plan, 'facing', 'pipe', false, one, other, wall + 1).corner).toEqual([1, wall, 0])
  })
})

it.each([
  ['above', 5, wall, '+y'],
  ['above', 0, 3, '-x'],
  ['above', 11, 3, '+x'],
  ['above', 5, 0, '-y'],
  ['above', 5, 3, null],
  ['facing', 5, 7, '+z'],
  ['facing', 5, 2, '+y'],
  ['facing', 0, 2, '-x'],
] as const)('a hole tapped %s at %i, %i is in %s', (view, x, y, face) => {
  expect(faceAt(plan, view, { x, y })).toBe(face)
})

it('a thing is taken away where it is seen', () => {
  const box = { low: [2, 3, 0], high: [4, 3, 7] }
  expect(covers(box, 'above', { x: 3, y: 3 })).toBe(true)
  expect(covers(box, 'above', { x: 3, y: 5 })).toBe(false)
  expect(covers(box, 'facing', { x: 3, y: 5 })).toBe(true)
})

it('a plan made smaller keeps all of it inside', () => {
  const drawn = {
    ...plan,
    things: [{ kind: 'pipe', corner: [11, 7] as [number, number], opposite: [11, 7] as [number, number] }],
    holes: [{ cell: [11, 7, 0] as [number, number, number], heading: '+x' as const }],
  }
  const small = resized(drawn, [6, 6, 8])
  expect(small.machine).toEqual([5, 5, 0])
  expect(small.things[0]?.corner).toEqual([5, 5])
  expect(small.holes).toEqual([])
})

it('a way is drawn by its corners, each part with its length, what goes towards one not at all', () => {
  const path = [
    [5, 7, 0],
    [6, 7, 0],
    [7, 7, 0],
    [7, 7, 1],
    [7, 7, 2],
  ]
  expect(lineOf(path, 'facing')).toEqual([
    { x: 5, y: 0 },
    { x: 7, y: 0 },
    { x: 7, y: 2 },
  ])
  expect(lengthsOf(lineOf(path, 'facing')).map((part) => part.cells)).toEqual([2, 2])
  expect(lengthsOf(lineOf(path, 'above')).reduce((sum, part) => sum + part.cells, 0)).toBe(2)
})

it.each([
  FIRST_BUILD,
  { ...FIRST_BUILD, bend: 'mitred' as const },
  { ...FIRST_BUILD, diameter_in: 5, radius_in: 8 },
])('a choice keeps what it is built of', (build) => {
  const way = { outlet: 'back', face: '+y' } as WayOut
  expect(buildOf(chosenOf(way, build))).toEqual(build)
})

describe('a photo under the plan', () => {
  const lies = laidUnder(plan, { id: 'p', width: 400, height: 200 })
  it('lies as high as the room, in its own shape', () => {
    expect(lies).toEqual({ id: 'p', left: 0, bottom: 0, height: 8, width: 16 })
  })
  it('is drawn to scale along each side by a length that is known; the first point stays', () => {
    const wide = toLength(lies, 'across', { x: 4, y: 1 }, { x: 8, y: 5 }, 2)
    expect(wide).toEqual({ ...lies, width: 8, left: 2 })
    const [one, other] = [
      { x: 4, y: 1 },
      { x: 6, y: 5 },
    ]
    expect(toLength(wide, 'up', one, other, 8)).toEqual({ ...wide, height: 16, bottom: -1 })
  })
  it('is left as it is by two taps on one place, or by no length', () => {
    expect(toLength(lies, 'across', { x: 4, y: 1 }, { x: 4.1, y: 7 }, 3)).toBe(lies)
    expect(toLength(lies, 'up', { x: 4, y: 1 }, { x: 4, y: 7 }, Number.NaN)).toBe(lies)
  })
  it('is moved by a point and where that belongs', () => {
    expect(movedTo(lies, { x: 1, y: 1 }, { x: 3, y: 0.5 })).toEqual({ ...lies, left: 2, bottom: -0.5 })
  })
})

it.each([
  [[5, 8.4, 0], { cell: [5, 7, 0], heading: '+y' }],
  [[-1.2, 4, 2], { cell: [0, 4, 2], heading: '-x' }],
  [[5, 3, 2], null],
  [[5, 30, 0], null],
] as const)('a run that ends at %j has its hole at %j', (end, hole) => {
  expect(holeOf(plan, end)).toEqual(hole)
})

it('a file may leave out what there is none of', () => {
  const { things: _, holes: __, ...kept } = plan
  expect(planOf({ ...aJob(), plan: kept })?.things).toEqual([])
  expect(planOf(aJob())).toBeNull()
})
