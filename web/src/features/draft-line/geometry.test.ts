import { describe, expect, it } from 'vitest'
import type { DraftLine } from '../../api/types'
import {
  type Box,
  draftLineShape,
  type LabelBox,
  overlaps,
  placeLabels,
  runsOf,
  textBox,
  type Wording,
} from './geometry'

const NODES = [
  'room',
  'inlet',
  'drum',
  'lint_screen',
  'lint_duct',
  'blower',
  'exhaust_pipe',
  'transition',
  'run',
  'hood',
]
const KINDS: Record<string, string> = {
  lint_screen: 'screen_duct_suction',
  lint_duct: 'blower_inlet_suction',
  exhaust_pipe: 'outlet_static_pressure',
  transition: 'wall_static_pressure',
  run: 'hood_static_pressure',
}
const WIDE: Box = { left: 62, right: 1046, top: 10, bottom: 230 }
const NARROW: Box = { left: 6, right: 340, top: 10, bottom: 172 }
const INCH_OF_WATER = 249.0889

/** Numbers that look random and are the same every time (mulberry32). */
function random(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

const q = (value: number) => ({ value, unit: 'Pa' })

/** A pressure line as a machine could have it: down to the wheel, up at it, home to zero. */
function profile(next: () => number): number[] {
  const suction = 20 + 400 * next()
  const pressure = 5 + 420 * next()
  const shares = (count: number) => {
    const cuts = [...Array(count - 1)].map(next).sort((a, b) => a - b)
    return [...cuts, 1]
  }
  return [
    0,
    ...shares(4).map((s) => -suction * s),
    ...shares(5).map((s, i) => pressure * (i === 4 ? 0 : 1 - s * 0.95)),
  ]
}

function randomLine(seed: number): DraftLine {
  const next = random(seed)
  const nodes = (values: number[]) => values.map((value, i) => ({ at: NODES[i] ?? '', pressure: q(value) }))
  const healthy = profile(next)
  const now = profile(next)
  const pinned = NODES.map((_, i) => i === 0 || i === 9 || next() < 0.6)
  const measured = Object.keys(KINDS).filter(() => next() < 0.7)
  return {
    healthy: nodes(healthy),
    band_low: nodes(healthy.map((p) => p - Math.abs(p) * 0.15)),
    band_high: nodes(healthy.map((p) => p + Math.abs(p) * 0.15)),
    now: nodes(now).map((node, i) => ({ ...node, low: q(0), high: q(0), pinned: pinned[i] ?? true })),
    stories: [...Array(Math.floor(next() * 5))].map((_, i) => ({
      fault: `fault ${i}`,
      probability: 0.2,
      profile: nodes(profile(next)),
    })),
    points: measured.map((at) => {
      const value = (now[NODES.indexOf(at)] ?? 0) * (0.8 + 0.4 * next())
      return {
        kind: KINDS[at] ?? '',
        ids: [],
        at,
        pressure: q(value),
        low: q(value - 20),
        high: q(value + 20),
      }
    }),
  }
}

const wide: Wording = {
  point: (kind) =>
    kind.includes('suction') ? 'suction 0.38 inH2O · healthy 0.60' : '1.03 inH2O · healthy 0.38',
  healthy: 'healthy',
  after: 'after',
  room: 'room',
  outdoors: 'outdoors',
  branches: 'dotted: 4 ways it could go',
}
const narrow: Wording = { ...wide, point: () => '0.38 inH2O' }
const WIDTHS = [
  ['desk', WIDE, wide],
  ['phone', NARROW, narrow],
] as const

const inside = (label: LabelBox, box: Box) =>
  label.x >= box.left - 0.01 &&
  label.x + label.width <= box.right + 0.01 &&
  label.y >= box.top - 0.01 &&
  label.y + label.height <= box.bottom + 0.01

describe.each(WIDTHS)('labels at the %s', (_name, box, wording) => {
  it('never overlap, stay in the plot and off the rings, over 200 random verdicts', () => {
    let placed = 0
    for (let seed = 0; seed < 200; seed++) {
      const line = randomLine(seed)
      const shape = draftLineShape(line, box, INCH_OF_WATER, wording)
      placed += shape.labels.length
      for (const [i, label] of shape.labels.entries()) {
        expect(inside(label.box, box), `seed ${seed}: ${label.text} leaves the plot`).toBe(true)
        for (const other of shape.labels.slice(i + 1))
          expect(overlaps(label.box, other.box), `seed ${seed}: ${label.text} on ${other.text}`).toBe(false)
        for (const mark of shape.marks) {
          const ring = { x: mark.x - 6, y: mark.y - 6, width: 12, height: 12 }
          expect(overlaps(label.box, ring), `seed ${seed}: ${label.text} on a ring`).toBe(false)
        }
      }
      // every measured point has its words somewhere
      const named = new Set(shape.labels.map((label) => label.key))
      for (const point of line.points) expect(named.has(point.kind), `seed ${seed}: ${point.kind}`).toBe(true)
    }
    expect(placed).toBeGreaterThan(400)
  })
})

describe('the line', () => {
  const line = randomLine(7)
  const shape = draftLineShape(line, WIDE, INCH_OF_WATER, wide)

  it('keeps zero in view and every node in order', () => {
    expect(shape.zeroY).toBeGreaterThan(WIDE.top)
    expect(shape.zeroY).toBeLessThan(WIDE.bottom)
    const xs = shape.nodes.map((node) => node.x)
    expect(xs).toEqual([...xs].sort((a, b) => a - b))
    expect(xs[0]).toBe(WIDE.left)
    expect(xs.at(-1)).toBeCloseTo(WIDE.right)
  })

  it('draws suction below and pressure above the room', () => {
    for (const mark of shape.marks)
      expect(Math.sign(shape.zeroY - mark.y)).toBe(mark.kind.includes('suction') ? -1 : 1)
  })

  it('gives the segments the whole width, in the air’s order', () => {
    expect(shape.segments.map((segment) => segment.element)).toEqual(NODES.slice(1))
    expect(shape.segments.reduce((sum, segment) => sum + segment.width, 0)).toBeCloseTo(
      WIDE.right - WIDE.left,
    )
  })

  it('is solid where neighbours are pinned and branches between', () => {
    expect(runsOf([true, true, false, true, true])).toEqual([
      { from: 0, to: 1, solid: true },
      { from: 1, to: 3, solid: false },
      { from: 3, to: 4, solid: true },
    ])
    const sure = { ...line, now: line.now.map((node) => ({ ...node, pinned: true })) }
    const drawn = draftLineShape(sure, WIDE, INCH_OF_WATER, wide)
    expect(drawn.stories.every((story) => story.path === '')).toBe(true)
    expect(drawn.now.match(/M/g)).toHaveLength(1)
  })

  it('starts every branch on the line that is known', () => {
    const one = randomLine(3)
    const pinned = one.now.map((node, i) => ({ ...node, pinned: i <= 6 || i === 9 }))
    const drawn = draftLineShape(
      { ...one, now: pinned, stories: randomLine(11).stories },
      WIDE,
      INCH_OF_WATER,
      wide,
    )
    const end = /L([\d.]+ [\d.]+)$/.exec(drawn.now)?.[1]
    for (const story of drawn.stories) expect(story.path.startsWith(`M${end}`)).toBe(true)
  })
})

describe('its parts', () => {
  it('leaves a label out when there is no place for it at all', () => {
    const box = { left: 0, right: 60, top: 0, bottom: 30 }
    const wish = (key: string) => ({ key, text: 'healthy', size: 13, anchor: { x: 30, y: 15 }, away: 4 })
    const labels = placeLabels([wish('a'), wish('b'), wish('c')], box, [])
    expect(labels.length).toBeLessThan(3)
    expect(placeLabels([{ ...wish('wide'), text: 'far too long for such a box' }], box, [])).toEqual([])
  })

  it('reserves room for every character', () => {
    expect(textBox('1.03 inH2O', 15).width).toBeGreaterThan(80)
  })
})
