import { describe, expect, it } from 'vitest'
import { compartment, fastener } from '../../test/bench'
import {
  boundsOf,
  countsAround,
  drawnLength,
  inTray,
  minutes,
  recountWords,
  screwsOn,
  screwsOut,
} from './bench'

describe('the cut-away', () => {
  it.each([
    [{ kind: 'x', box: [1, 2, 3, 4] as [number, number, number, number] }, [1, 2, 3, 4]],
    [{ kind: 'x', circle: [10, 20, 5] as [number, number, number] }, [5, 15, 15, 25]],
    [
      {
        kind: 'x',
        path: [
          [0, 9],
          [4, 1],
          [2, 5],
        ] as [number, number][],
      },
      [0, 1, 4, 9],
    ],
  ])('knows how far a shape goes', (shape, bounds) => {
    expect(boundsOf(shape)).toEqual(bounds)
  })

  it('lays so many screws on a shape, inside its bounds', () => {
    for (const box of [
      [90, 9, 93, 95],
      [10, 10, 90, 20],
      [20, 20, 60, 70],
    ] as [number, number, number, number][])
      for (const count of [1, 2, 5, 12]) {
        const points = screwsOn({ kind: 'panel', box }, count)
        expect(points).toHaveLength(count)
        expect(new Set(points.map(String)).size).toBe(count)
        for (const [x, y] of points) {
          expect(x).toBeGreaterThanOrEqual(box[0])
          expect(x).toBeLessThanOrEqual(box[2])
          expect(y).toBeGreaterThanOrEqual(box[1])
          expect(y).toBeLessThanOrEqual(box[3])
        }
      }
  })
})

describe('counting', () => {
  it.each([
    [5, [4, 5, 6]],
    [1, [0, 1, 2]],
    [0, [0, 1, 2]],
  ])('offers %i with its neighbours', (expected, offered) => {
    expect(countsAround(expected)).toEqual(offered)
  })

  it.each([
    [
      { counted: true, differs: true, came: 4 },
      'One is still in, or the count was wrong: look behind the wire clip.',
    ],
    [
      { counted: true, differs: true, came: 3, hidden: null },
      '2 are still in, or the count was wrong: look once more.',
    ],
    [{ counted: true, differs: true, came: 6 }, 'One more than the layout has'],
    [{ counted: true, differs: false, came: 5 }, null],
    [{ counted: false, came: 5 }, null],
  ])('asks for a re-count now', (changes, words) => {
    const said = recountWords(fastener(changes))
    if (words === null) expect(said).toBeNull()
    else expect(said).toContain(words)
  })
})

describe('the tray', () => {
  const open = (operation: string, area: string, left: number) =>
    compartment(operation, { area, state: 'open', fasteners: [fastener({ came: left, left })] })

  it('holds what has been opened, by area in the order it came', () => {
    const places = [open('a', 'Rear', 2), open('b', 'Top', 3), open('c', 'Rear', 1), compartment('d')]
    expect(inTray(places).map(({ area, places: held }) => [area, held.map((row) => row.operation)])).toEqual([
      ['Rear', ['a', 'c']],
      ['Top', ['b']],
    ])
    expect(screwsOut(places)).toBe(6)
  })

  it('draws a long screw longer, within reason', () => {
    expect(drawnLength(38)).toBeGreaterThan(drawnLength(13))
    expect(drawnLength(400)).toBe(drawnLength(60))
    expect(drawnLength(null)).toBe(drawnLength(12))
  })

  it('tells minutes as people do', () => {
    expect([0.3, 1, 4.6].map(minutes)).toEqual(['a moment', '1 min', '5 min'])
  })
})
