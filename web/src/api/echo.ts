import type { Write } from './outbox'
import type { Bench, Compartment, CountIn, Job } from './types'

/** Facts that a verdict hears; marks and the like leave it as it is. */
const HEARD = /\/(readings|findings|meter|logs|vent|facts)(\/|$)/

type MarkBody = { step: string; state: string; why?: string; at: string }

function markOf(write: Write): (MarkBody & { id: string }) | undefined {
  if (!write.path.includes('/marks/')) return undefined
  const { body } = write
  return typeof body === 'object' && body !== null && 'step' in body && 'state' in body
    ? { ...(body as MarkBody), id: write.id }
    : undefined
}

/** The job with the marks that wait on this device, so that hands are never held up by a line. */
export function withWaiting(job: Job, waiting: readonly Write[]): Job {
  const marks = waiting.map(markOf).filter((mark) => mark !== undefined)
  const counts = waiting.map(countOf).filter((count) => count !== undefined)
  if (marks.length + counts.length === 0) return job
  const settled = new Map(job.marks.map((mark) => [mark.step, mark]))
  for (const { id, step, state, why = '', at } of marks) {
    if (state === 'undone') settled.delete(step)
    else settled.set(step, { id, step, state, why, at, by: '' })
  }
  const done = new Set([...settled.values()].filter((mark) => mark.state === 'done').map((mark) => mark.step))
  return { ...job, marks: [...settled.values()], bench: job.bench && benchAhead(job.bench, done, counts) }
}

function countOf(write: Write): CountIn | undefined {
  const { body } = write
  return write.path.includes('/counts/') && typeof body === 'object' && body !== null && 'key' in body
    ? (body as CountIn)
    : undefined
}

/**
 * The bench as it looks with what this device has done and the server has not heard. Drawn ahead, not judged: the gate
 * stays as it was when the server last spoke.
 */
function benchAhead(bench: Bench, done: ReadonlySet<string>, counts: readonly CountIn[]): Bench {
  return {
    ...bench,
    compartments: bench.compartments.map((place) => {
      const off = done.has(`open.${place.operation}`)
      const back = done.has(`close.${place.operation}`)
      const state = back ? 'closed' : off ? 'open' : 'waiting'
      const moved = state === place.state ? place : moveAhead(place, state)
      return counts.filter((count) => count.step === `open.${place.operation}`).reduce(countAhead, moved)
    }),
  }
}

function moveAhead(place: Compartment, state: Compartment['state']): Compartment {
  const off = state !== 'waiting'
  return {
    ...place,
    state,
    fasteners: place.fasteners.map((row) => {
      const came = row.counted ? row.came : off ? row.expected : 0
      const back =
        state === 'closed' && row.state === 'out' ? came - row.moved - row.replaced - row.missing : 0
      const returned = row.state === 'loosened' ? row.back : back
      return { ...row, came, back: returned, left: came - returned - row.moved - row.replaced - row.missing }
    }),
    wires: place.wires.map((wire) => (place.state === 'waiting' ? { ...wire, off } : wire)),
  }
}

function countAhead(place: Compartment, { what, key, state, count, note }: CountIn): Compartment {
  const fasteners = place.fasteners.map((row) => {
    if (what !== 'fastener' || row.key !== key) return row
    const now = {
      ...row,
      ...(state === row.state ? { came: count ?? 1, counted: true, differs: count !== row.expected } : {}),
      ...(state === 'back' || state === 'tight' ? { back: count ?? 1 } : {}),
      ...(state === 'moved' || state === 'replaced' || state === 'missing' ? { [state]: count ?? 1 } : {}),
    }
    return { ...now, left: now.came - now.back - now.moved - now.replaced - now.missing }
  })
  const wires = place.wires.map((wire) =>
    what === 'wire' && wire.key === key && state !== 'noted' ? { ...wire, off: state === 'off' } : wire,
  )
  const parts = place.parts.map((part) =>
    what === 'part' && part.part === key ? { ...part, settled: state !== 'unsaid', why: note ?? '' } : part,
  )
  return { ...place, fasteners, wires, parts }
}

/** How many facts the verdict on the screen has not heard of yet. */
export const unheard = (waiting: readonly Write[]): number =>
  waiting.filter((write) => HEARD.test(write.path)).length
