import { describe, expect, it } from 'vitest'
import { vocabulary } from '../../test/fixtures'
import { fresh, metres, type Piece, toScale, views, walk } from './run'

const { units } = vocabulary

const straight = (value: number): Piece => ({
  piece: 'straight',
  length: { value, unit: 'm' },
  material: 'galvanised',
})
const elbow = (turn: Piece['x-turn'], angle = 90): Piece => ({
  piece: 'elbow',
  angle,
  style: 'smooth',
  'x-turn': turn,
})
const end = (pieces: Piece[]) => {
  const last = walk(pieces, units).at(-1)
  return last && [last.x, last.y, last.z].map((n) => Math.round(n * 1000) / 1000 + 0)
}

describe('the line of a run', () => {
  it.each([
    [
      [straight(2), elbow('left'), straight(3)],
      [2, 3, 0],
    ],
    [
      [straight(2), elbow('right'), straight(3)],
      [2, -3, 0],
    ],
    [
      [straight(2), elbow('up'), straight(3), elbow('up'), straight(1)],
      [3, 0, 3],
    ],
    [
      [straight(1), elbow('up'), straight(3), elbow('left'), straight(1)],
      [1, 1, 3],
    ],
    [
      [straight(1), elbow('left'), elbow('left'), straight(1)],
      [0, 0, 0],
    ],
    [
      [straight(1), elbow('down', 30), straight(1)],
      [1.866, 0, -0.5],
    ],
  ] as [Piece[], number[]][])('ends where it should', (pieces, where) => {
    expect(end(pieces)).toEqual(where)
  })

  it('has one place more than it has pieces', () => {
    const pieces = (['straight', 'elbow', 'flexible', 'pinch', 'hood'] as const).map((kind) =>
      fresh(kind, 'ft'),
    )
    expect(walk(pieces, units)).toHaveLength(6)
    expect(walk([], units)).toHaveLength(1)
  })

  it('shows from the side how far along and how high', () => {
    const { side, plan } = views(
      walk([straight(2), elbow('left'), straight(2), elbow('up'), straight(1)], units),
    )
    expect(side.at(-1)?.x).toBeCloseTo(4)
    expect(side.at(-1)?.y).toBeCloseTo(1)
    expect(plan.at(-1)?.y).toBeCloseTo(2)
  })

  it('keeps everything inside the picture, to one scale', () => {
    const points = views(walk([straight(9), elbow('left'), straight(3)], units)).plan
    const place = toScale(points, 300, 120)
    const placed = points.map(place)
    for (const p of placed) {
      expect(p.x).toBeGreaterThanOrEqual(-0.001)
      expect(p.x).toBeLessThanOrEqual(300.001)
      expect(p.y).toBeGreaterThanOrEqual(-0.001)
      expect(p.y).toBeLessThanOrEqual(120.001)
    }
    const along = (placed[1]?.x ?? 0) - (placed[0]?.x ?? 0)
    const across = (placed[2]?.y ?? 0) - (placed[3]?.y ?? 0)
    expect(along / 9).toBeCloseTo(across / 3)
  })

  it('knows feet and inches', () => {
    expect(metres({ value: 10, unit: 'ft' }, units)).toBeCloseTo(3.048)
    expect(metres({ value: 4, unit: 'in' }, units)).toBeCloseTo(0.1016)
    expect(metres(undefined, units)).toBe(0)
  })
})
