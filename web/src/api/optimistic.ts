import type { Write } from './outbox'
import type {
  Bench,
  Compartment,
  CountIn,
  Fastener,
  Job,
  PhotoNoteIn,
  Step,
  UsedPart,
  Vocabulary,
  Wire,
} from './types'

/**
 * What waits on this device, drawn ahead of the server: hands are never held up by a line. The tray follows the core's
 * rules (warmdraft.teardown.bench) and is held to them by cases that the core makes; the gate is not judged here.
 */

/** Facts that a verdict hears; marks and the like leave it as it is. */
const HEARD = /\/(readings|findings|meter|logs|vent|facts)(\/|$)/

type MarkState = Job['marks'][number]['state']
type MarkBody = { step: string; state: MarkState; why?: string; at: string }

function markOf(write: Write): (MarkBody & { id: string }) | undefined {
  if (!write.path.includes('/marks/')) return undefined
  const { body } = write
  return typeof body === 'object' && body !== null && 'step' in body && 'state' in body
    ? { ...(body as MarkBody), id: write.id }
    : undefined
}

function countOf(write: Write): CountIn | undefined {
  const { body } = write
  return write.path.includes('/counts/') && typeof body === 'object' && body !== null && 'key' in body
    ? (body as CountIn)
    : undefined
}

/** An operation that stands in no layout, as the bench's form sends it. */
type AddedOperation = {
  id: string
  does: string
  fasteners: { kind: string; count: number; state: 'out' | 'loosened' }[]
  wires: { device: string; terminal: string; colour: string }[]
}

function addedOf(write: Write): AddedOperation | undefined {
  const { body } = write
  return write.path.includes('/added/') && typeof body === 'object' && body !== null && 'operation' in body
    ? (body.operation as AddedOperation)
    : undefined
}

/** What was said of photos, not sent yet: the latest of a photo holds. */
function withNotes(job: Job, waiting: readonly Write[]): Job {
  const notes = new Map<string, PhotoNoteIn>()
  for (const { path, body } of waiting) {
    const photo = path.match(/\/photos\/([^/]+)\/notes\//)?.[1]
    if (photo && typeof body === 'object' && body !== null && 'on_record' in body)
      notes.set(photo, body as PhotoNoteIn)
  }
  if (notes.size === 0) return job
  return {
    ...job,
    photos: job.photos.map((photo) => {
      const note = notes.get(photo.id)
      return note ? { ...photo, on_record: note.on_record, wires: note.wires ?? [] } : photo
    }),
  }
}

/** The job with operations that were met and wait: steps of the way, and places in the tray. */
function withAdded(job: Job, added: readonly AddedOperation[], words: SurpriseWords | undefined): Job {
  const known = new Set(job.open.map((step) => step.operation))
  const news = added.filter((operation) => !known.has(operation.id))
  if (news.length === 0) return job
  const bench = job.bench ?? EMPTY_BENCH
  return {
    ...job,
    by_hand: job.by_hand || !job.known_layout,
    open: [...job.open, ...news.map((operation) => stepAhead(operation, 'open'))],
    close: [...news.map((operation) => stepAhead(operation, 'close')).reverse(), ...job.close],
    bench: {
      ...bench,
      compartments: [...bench.compartments, ...news.map((row) => placeOfAdded(row, words))],
    },
  }
}

const stepAhead = ({ id, does }: AddedOperation, stage: 'open' | 'close'): Step => ({
  id: `${stage}.${id}`,
  does,
  why: '',
  minutes: 2,
  driver: null,
  driver_also: [],
  same_driver: false,
  fasteners: [],
  seat: null,
  fails: '',
  goes_back: [],
  cuts: null,
  lint: false,
  drawn: false,
  cautions: [],
  qualified: null,
  operation: id,
  check: [],
  latch: null,
  gear: [],
  tools: [],
  people: 1,
  line: null,
  act: null,
  check_name: null,
  after: false,
})

const placeOfAdded = (
  { id, does, fasteners, wires }: AddedOperation,
  words: SurpriseWords | undefined,
): Compartment => ({
  ...emptySurprise(`open.${id}`, words),
  back: `close.${id}`,
  operation: id,
  title: does.split(':')[0]?.split(',')[0] ?? does,
  state: 'waiting',
  full: false,
  fasteners: fasteners.map(({ kind, count, state }) => ({
    ...newFastener(kind, words),
    text: fastenerWords(kind, count, words),
    state,
    expected: count,
  })),
  wires: wires.map(({ device, terminal, colour }) => ({
    key: `${device} · ${terminal}`,
    device,
    terminal,
    colour,
    colour_code: colour,
    ground: false,
    off: false,
    notes: [],
    contradicts: false,
    said: null,
  })),
})

/** A bench before anything stands on it. */
const EMPTY_BENCH: Bench = {
  compartments: [],
  gate: { clear: false, holds: true, discrepancies: [], accepted: [], orders: [], tools: [] },
  drawing: null,
  layout_title: '',
  reach: [],
  no_way: null,
  open_minutes: 0,
  close_minutes: 0,
  total_minutes: 0,
  driver_changes: 0,
  optimal: true,
  gap_minutes: 0,
  taken: {},
}

/** The words of what came off and stands in no layout. */
export type SurpriseWords = Pick<Vocabulary, 'fasteners' | 'areas'>

/** The job with the marks and counts that wait on this device. */
export function withWaiting(
  asAnswered: Job,
  waiting: readonly Write[],
  words: SurpriseWords | undefined,
): Job {
  const added = waiting.map(addedOf).filter((operation) => operation !== undefined)
  const job = withNotes(withAdded(asAnswered, added, words), waiting)
  const marks = waiting.map(markOf).filter((mark) => mark !== undefined)
  const counts = waiting.map(countOf).filter((count) => count !== undefined)
  if (marks.length + counts.length === 0) return job
  const settled = new Map(job.marks.map((mark) => [mark.step, mark]))
  for (const { id, step, state, why = '', at } of marks) {
    if (state === 'undone') settled.delete(step)
    else settled.set(step, { id, step, state, why, at, by: '' })
  }
  const said = new Set(marks.map((mark) => mark.step))
  const done = new Set([...settled.values()].filter((mark) => mark.state === 'done').map((mark) => mark.step))
  return {
    ...job,
    marks: [...settled.values()],
    settled: [
      ...job.settled.filter((step) => !said.has(step)),
      ...[...settled.keys()].filter((step) => said.has(step)),
    ],
    bench: job.bench && benchAhead(job.bench, done, counts, words),
  }
}

function benchAhead(
  bench: Bench,
  done: ReadonlySet<string>,
  counts: readonly CountIn[],
  words: SurpriseWords | undefined,
): Bench {
  const bySteps = new Map<string, CountIn[]>()
  for (const count of counts) {
    const step = count.step ?? ''
    bySteps.set(step, [...(bySteps.get(step) ?? []), count])
  }
  const known = new Set(bench.compartments.map((place) => place.step))
  const unknown = [...bySteps.keys()].filter((step) => !known.has(step) && SURPRISE.test(step))
  const planned = bench.compartments.filter((place) => place.back !== null)
  const surprises = [
    ...bench.compartments.filter((place) => place.back === null),
    ...unknown.map((step) => emptySurprise(step, words)),
  ]
  const places = [...planned, ...surprises.sort((one, other) => (one.step < other.step ? -1 : 1))]
  return {
    ...bench,
    compartments: places
      .map((place) => placeAhead(place, done, bySteps.get(place.step) ?? [], words))
      .filter((place) => place.back !== null || place.fasteners.length > 0)
      .map((place, i) => ({ ...place, number: i + 1 })),
  }
}

/** A compartment as it stands after what was marked and counted since the server spoke. */
function placeAhead(
  place: Compartment,
  done: ReadonlySet<string>,
  counts: readonly CountIn[],
  words: SurpriseWords | undefined,
): Compartment {
  const surprise = place.back === null
  const off = surprise || done.has(place.step)
  const back = place.back !== null && done.has(place.back)
  const of = (what: CountIn['what'], key: string) =>
    counts.filter((count) => count.what === what && count.key === key)
  const rows = surprise ? withNewKinds(place.fasteners, counts, words) : place.fasteners
  const fasteners = rows
    .map((row) => fastenerAhead(row, off, back, of('fastener', row.key), surprise, words))
    .filter((row) => !surprise || row.counted)
  const wires = place.wires.map((wire) => wireAhead(wire, off, of('wire', wire.key)))
  const parts = place.parts.map((part) => partAhead(part, off, of('part', part.part)))
  const state = back ? 'closed' : off ? 'open' : 'waiting'
  const full =
    state === 'open' ||
    fasteners.some((row) => row.left !== 0) ||
    wires.some((wire) => wire.off) ||
    parts.some((part) => !part.settled)
  return { ...place, state, full, fasteners, wires, parts }
}

function fastenerAhead(
  row: Fastener,
  off: boolean,
  back: boolean,
  counts: readonly CountIn[],
  surprise: boolean,
  words: SurpriseWords | undefined,
): Fastener {
  let said: Record<string, number> = { ...row.said }
  for (const { state, count = 1 } of counts) {
    // a surprise counted as none never was; what is said of it before it is found says nothing
    if (surprise && state === 'out' && count === 0) said = {}
    else if (!surprise || state === 'out' || said.out !== undefined) said[state] = count
  }
  // of a surprise nobody expected anything: as many belong there as were said to come off
  const expected = surprise ? (said.out ?? 0) : row.expected
  const came = said[row.state] ?? (off ? expected : 0)
  const [moved, replaced, missing] = [said.moved ?? 0, said.replaced ?? 0, said.missing ?? 0]
  const gone = moved + replaced + missing
  const returned =
    row.state === 'loosened' ? (said.tight ?? 0) : (said.back ?? (back ? Math.max(0, came - gone) : 0))
  const counted = row.state in said
  return {
    ...row,
    ...(surprise ? { text: fastenerWords(row.kind, expected, words) } : {}),
    expected,
    came,
    counted,
    differs: counted && came !== expected,
    back: returned,
    moved,
    replaced,
    missing,
    left: came - returned - gone,
    said,
  }
}

function wireAhead(wire: Wire, off: boolean, counts: readonly CountIn[]): Wire {
  const words = counts.filter(({ state }) => state === 'on' || state === 'off')
  const said = (words.at(-1)?.state as Wire['said'] | undefined) ?? wire.said
  const notes = [...wire.notes]
  for (const { state, count = 1, note = '' } of counts) {
    if (state !== 'noted') continue
    // a note of nothing counted settles what contradicted before it
    if (count === 0) notes.length = 0
    notes.push({ colour: note, text: note, by: '' })
  }
  const contradicts = new Set(notes.map(({ colour }) => colour.trim().toLowerCase())).size > 1
  return { ...wire, said, off: said === null ? off : said === 'off', notes, contradicts }
}

function partAhead(part: UsedPart, off: boolean, counts: readonly CountIn[]): UsedPart {
  const last = counts.at(-1)
  const said = last ? (last.state === 'unsaid' ? null : last.state) : part.said
  const why = last ? (said === null ? '' : (last.note ?? '')) : part.why
  return { ...part, said, why, settled: !off || said !== null }
}

/** How steps begin that no layout knows; the rest is what whoever met it called it. */
const SURPRISE = /^surprise\./

function emptySurprise(step: string, words: SurpriseWords | undefined): Compartment {
  const name = step.replace(SURPRISE, '')
  return {
    number: 0,
    step,
    back: null,
    operation: name,
    title: name.split(':')[0]?.split(',')[0] ?? name,
    area: words?.areas.find((area) => area.code === 'inside')?.text ?? '',
    state: 'open',
    full: true,
    shows: [],
    fasteners: [],
    wires: [],
    parts: [],
  }
}

/** The fasteners of a surprise, with kinds that nobody had counted there before. */
function withNewKinds(
  rows: readonly Fastener[],
  counts: readonly CountIn[],
  words: SurpriseWords | undefined,
): Fastener[] {
  const known = new Set(rows.map((row) => row.key))
  const kinds = new Set(
    counts
      .filter(({ what, state, key }) => what === 'fastener' && state === 'out' && !known.has(key))
      .map(({ key }) => key),
  )
  const all = [...rows, ...[...kinds].map((kind) => newFastener(kind, words))]
  return all.sort((one, other) => (one.key < other.key ? -1 : 1))
}

const newFastener = (kind: string, words: SurpriseWords | undefined): Fastener => ({
  key: kind,
  text: kind,
  kind,
  head: words?.fasteners.find((row) => row.code === kind)?.head ?? 'round',
  state: 'out',
  length_mm: null,
  goes_into: null,
  finish: null,
  hidden: null,
  holds: null,
  drop_hazard: false,
  expected: 0,
  came: 0,
  counted: false,
  differs: false,
  back: 0,
  moved: 0,
  replaced: 0,
  missing: 0,
  left: 0,
  said: {},
})

function fastenerWords(kind: string, count: number, words: SurpriseWords | undefined): string {
  const row = words?.fasteners.find((known) => known.code === kind)
  return `${count} ${row ? (count === 1 ? row.text : row.many) : kind}`
}

/** How many facts the verdict on the screen has not heard of yet. */
export const unheard = (waiting: readonly Write[]): number =>
  waiting.filter((write) => HEARD.test(write.path)).length
