import { ticks as roundNumbers } from 'd3-array'
import type { DraftLine } from '../../api/types'

/** The draft line as numbers and paths: no React, no DOM, no colour. Pixels out, pascals in. */

export type Box = { left: number; right: number; top: number; bottom: number }
export type Point = { x: number; y: number }
export type LabelBox = { x: number; y: number; width: number; height: number }

export type Label = {
  key: string
  text: string
  size: number
  box: LabelBox
  /** Where a leader line starts when the words had to move away from what they name. */
  leader: Point | null
}
export type Mark = { kind: string; at: string; x: number; y: number; low: number; high: number }
export type Tick = { value: number; y: number }
export type Story = { fault: string; probability: number; path: string }

export type Shape = {
  zeroY: number
  ticks: Tick[]
  nodes: { at: string; x: number }[]
  segments: { element: string; x: number; width: number }[]
  healthy: string
  band: string
  /** What the facts leave no choice about; one path, perhaps in pieces. */
  now: string
  after: string
  nowArea: string
  stories: Story[]
  marks: Mark[]
  labels: Label[]
}

export type Wording = {
  /** Of a measured point, as short as the width asks for. */
  point: (kind: string) => string
  healthy: string
  after: string
  room: string
  outdoors: string
  branches: string
}

/** How wide each element is drawn: what people measure and mend gets room. */
const WIDTHS: Record<string, number> = {
  inlet: 92,
  drum: 84,
  lint_screen: 76,
  lint_duct: 94,
  blower: 84,
  exhaust_pipe: 78,
  transition: 108,
  run: 170,
  hood: 92,
}
/** Below this width there is no room for names: all segments are drawn alike. */
export const NARROW = 640
/** Average width of a character over its height, on the generous side: boxes may be a little too wide, never too small. */
const CHARACTER = 0.58
const GAP = 3

export const textBox = (text: string, size: number): { width: number; height: number } => ({
  width: text.length * size * CHARACTER + 4,
  height: size * 1.3,
})

export function overlaps(a: LabelBox, b: LabelBox): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height
}

function segmentsIn(box: Box, elements: readonly string[]): Shape['segments'] {
  const narrow = box.right - box.left < NARROW
  const weights = elements.map((element) => (narrow ? 1 : (WIDTHS[element] ?? 80)))
  const total = weights.reduce((sum, weight) => sum + weight, 0)
  const scale = (box.right - box.left) / total
  let x = box.left
  return elements.map((element, i) => {
    const width = (weights[i] ?? 0) * scale
    const segment = { element, x, width }
    x += width
    return segment
  })
}

const polyline = (points: readonly Point[]): string =>
  points.map((p, i) => `${i === 0 ? 'M' : 'L'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('')

/** Runs of neighbouring segments that are all pinned, or all open, as [first node, last node]. */
export function runsOf(pinned: readonly boolean[]): { from: number; to: number; solid: boolean }[] {
  const runs: { from: number; to: number; solid: boolean }[] = []
  for (let i = 0; i + 1 < pinned.length; i++) {
    const solid = Boolean(pinned[i] && pinned[i + 1])
    const last = runs.at(-1)
    if (last && last.solid === solid) last.to = i + 1
    else runs.push({ from: i, to: i + 1, solid })
  }
  return runs
}

/** Total length of the lines that run through a box, in pixels: what a label had better not lie on. */
function crossed(box: LabelBox, lines: readonly (readonly Point[])[]): number {
  let length = 0
  for (const line of lines) {
    for (let i = 0; i + 1 < line.length; i++) {
      const a = line[i] as Point
      const b = line[i + 1] as Point
      const steps = Math.max(1, Math.ceil(Math.hypot(b.x - a.x, b.y - a.y) / 6))
      for (let s = 0; s <= steps; s++) {
        const x = a.x + ((b.x - a.x) * s) / steps
        const y = a.y + ((b.y - a.y) * s) / steps
        if (x > box.x && x < box.x + box.width && y > box.y && y < box.y + box.height) length += 6
      }
    }
  }
  return length
}

/** How far a point lies from a box, in pixels. */
function gapTo(box: LabelBox, point: Point): number {
  const dx = Math.max(box.x - point.x, 0, point.x - box.x - box.width)
  const dy = Math.max(box.y - point.y, 0, point.y - box.y - box.height)
  return Math.hypot(dx, dy)
}

export type Wish = { key: string; text: string; size: number; anchor: Point; away: number }

/**
 * Places for labels: each tries the spots round its anchor, then a grid over the whole box, and takes the cheapest that
 * overlaps no other label. A label with no free spot is left out; the table beside the drawing has its words.
 */
export function placeLabels(
  wishes: readonly Wish[],
  box: Box,
  lines: readonly (readonly Point[])[],
  taken: readonly LabelBox[] = [],
): Label[] {
  const placed: LabelBox[] = [...taken]
  const labels: Label[] = []
  for (const wish of wishes) {
    const { width, height } = textBox(wish.text, wish.size)
    if (width > box.right - box.left || height > box.bottom - box.top) continue
    const candidates: LabelBox[] = []
    const add = (x: number, y: number) =>
      candidates.push({
        x: Math.min(Math.max(x, box.left), box.right - width),
        y: Math.min(Math.max(y, box.top), box.bottom - height),
        width,
        height,
      })
    for (const gap of [wish.away, wish.away * 2, wish.away * 3.5]) {
      add(wish.anchor.x + gap, wish.anchor.y - gap - height)
      add(wish.anchor.x + gap, wish.anchor.y + gap)
      add(wish.anchor.x - gap - width, wish.anchor.y - gap - height)
      add(wish.anchor.x - gap - width, wish.anchor.y + gap)
      add(wish.anchor.x + gap, wish.anchor.y - height / 2)
      add(wish.anchor.x - gap - width, wish.anchor.y - height / 2)
      add(wish.anchor.x - width / 2, wish.anchor.y - gap - height)
      add(wish.anchor.x - width / 2, wish.anchor.y + gap)
    }
    for (let y = box.top; y + height <= box.bottom; y += height + GAP)
      for (let x = box.left; x + width <= box.right; x += 24) add(x, y)
    let best: LabelBox | null = null
    let bestCost = Number.POSITIVE_INFINITY
    for (const candidate of candidates) {
      const distance = gapTo(candidate, wish.anchor)
      if (distance >= bestCost) continue // lines only add to it
      const roomy = {
        x: candidate.x - GAP,
        y: candidate.y - 1,
        width: candidate.width + 2 * GAP,
        height: candidate.height + 2,
      }
      if (placed.some((other) => overlaps(roomy, other))) continue
      const cost = distance + 0.9 * crossed(candidate, lines)
      if (cost < bestCost) {
        bestCost = cost
        best = candidate
      }
    }
    if (best === null) continue
    placed.push(best)
    const far = gapTo(best, wish.anchor) > wish.away * 2.2
    labels.push({
      key: wish.key,
      text: wish.text,
      size: wish.size,
      box: best,
      leader: far ? wish.anchor : null,
    })
  }
  return labels
}

/**
 * Everything the draft line draws.
 *
 * line: from the API, pascals; box: where the plot may draw, pixels; unit: pascals per unit shown on the axis; after:
 * the same way after the work, once something was read.
 */
export function draftLineShape(
  line: DraftLine,
  box: Box,
  pascalsPerUnit: number,
  wording: Wording,
  after: DraftLine['healthy'] | null = null,
): Shape {
  const nodes = line.healthy.map((node) => node.at)
  const segments = segmentsIn(box, nodes.slice(1))
  const nodeX = [box.left, ...segments.map((segment) => segment.x + segment.width)]
  const stories = line.stories.filter(() => line.points.length > 0 || line.now.some((node) => !node.pinned))

  const values = [
    0,
    ...line.band_low.map((node) => node.pressure.value),
    ...line.band_high.map((node) => node.pressure.value),
    ...line.now.map((node) => node.pressure.value),
    ...stories.flatMap((story) => story.profile.map((node) => node.pressure.value)),
    ...line.points.map((point) => point.pressure.value),
    ...(after ?? []).map((node) => node.pressure.value),
  ]
  const low = Math.min(...values)
  const high = Math.max(...values)
  const margin = 0.08 * (high - low)
  const y = (pascals: number) =>
    box.bottom - ((pascals - (low - margin)) / (high - low + 2 * margin)) * (box.bottom - box.top)
  const at = (i: number, pascals: number): Point => ({ x: nodeX[i] ?? box.left, y: y(pascals) })
  const trace = (
    profile: readonly { pressure: { value: number } }[],
    from = 0,
    to = profile.length - 1,
  ): Point[] => profile.slice(from, to + 1).map((node, i) => at(from + i, node.pressure.value))

  const ticks: Tick[] = roundNumbers(low / pascalsPerUnit, (high + margin) / pascalsPerUnit, 4).map(
    (value) => ({
      value,
      y: y(value * pascalsPerUnit),
    }),
  )

  const runs = runsOf(line.now.map((node) => node.pinned))
  const solid = runs.filter((run) => run.solid).map((run) => trace(line.now, run.from, run.to))
  const open = runs.filter((run) => !run.solid)
  const branches = stories.map((story) => ({
    story,
    pieces: open.map((run) => {
      const piece = trace(story.profile, run.from, run.to)
      // a branch leaves from, and comes home to, the line that is known
      if (line.now[run.from]?.pinned) piece[0] = at(run.from, line.now[run.from]?.pressure.value ?? 0)
      if (line.now[run.to]?.pinned)
        piece[piece.length - 1] = at(run.to, line.now[run.to]?.pressure.value ?? 0)
      return piece
    }),
  }))

  const zeroY = y(0)
  const marks = line.points.map((point) => ({
    kind: point.kind,
    at: point.at,
    x: nodeX[nodes.indexOf(point.at)] ?? box.left,
    y: y(point.pressure.value),
    low: Math.min(y(point.low.value), box.bottom),
    high: Math.max(y(point.high.value), box.top),
  }))
  const healthy = trace(line.healthy)
  const then = after ? trace(after) : []
  const lines = [
    healthy,
    then,
    ...solid,
    ...branches.flatMap((branch) => branch.pieces),
    [at(0, 0), at(nodes.length - 1, 0)],
  ]
  const narrow = box.right - box.left < NARROW
  const size = narrow ? 14 : 15
  const wishes: Wish[] = marks.map((mark) => ({
    key: mark.kind,
    text: wording.point(mark.kind),
    size,
    anchor: { x: mark.x, y: mark.y },
    away: 11,
  }))
  if (!narrow) {
    const lowest = healthy.reduce((a, b) => (b.y > a.y ? b : a))
    if (then.length > 0) {
      const highest = then.reduce((a, b) => (b.y < a.y ? b : a))
      wishes.push({ key: 'after', text: wording.after, size: 15, anchor: highest, away: 10 })
    }
    wishes.push({ key: 'healthy', text: wording.healthy, size: 13, anchor: lowest, away: 8 })
    wishes.push({ key: 'room', text: wording.room, size: 13, anchor: { x: box.left, y: zeroY }, away: 6 })
    wishes.push({
      key: 'outdoors',
      text: wording.outdoors,
      size: 13,
      anchor: { x: box.right, y: zeroY },
      away: 6,
    })
    const first = open.find(() => stories.length > 1)
    if (first && line.points.length > 0) {
      const middle = ((nodeX[first.from] ?? 0) + (nodeX[first.to] ?? 0)) / 2
      wishes.push({
        key: 'branches',
        text: wording.branches,
        size: 13,
        anchor: { x: middle, y: zeroY },
        away: 10,
      })
    }
  }
  const rings = marks.map((mark) => ({ x: mark.x - 9, y: mark.y - 9, width: 18, height: 18 }))
  return {
    zeroY,
    ticks,
    nodes: nodes.map((node, i) => ({ at: node, x: nodeX[i] ?? box.left })),
    segments,
    healthy: polyline(healthy),
    band: `${polyline(trace(line.band_high))}${polyline(trace(line.band_low).reverse()).replace('M', 'L')}Z`,
    now: solid.map(polyline).join(''),
    after: polyline(then),
    nowArea: solid
      .map((piece) => {
        const first = piece[0] as Point
        const last = piece.at(-1) as Point
        return `M${first.x.toFixed(1)} ${zeroY.toFixed(1)}${polyline(piece).replace('M', 'L')}L${last.x.toFixed(1)} ${zeroY.toFixed(1)}Z`
      })
      .join(''),
    stories: branches.map(({ story, pieces }) => ({
      fault: story.fault,
      probability: story.probability,
      path: pieces.map(polyline).join(''),
    })),
    marks,
    labels: placeLabels(wishes, box, lines, rings),
  }
}
