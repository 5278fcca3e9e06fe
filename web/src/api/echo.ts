import type { Write } from './outbox'
import type { Job } from './types'

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
  if (marks.length === 0) return job
  const settled = new Map(job.marks.map((mark) => [mark.step, mark]))
  for (const { id, step, state, why = '', at } of marks) {
    if (state === 'undone') settled.delete(step)
    else settled.set(step, { id, step, state, why, at, by: '' })
  }
  return { ...job, marks: [...settled.values()] }
}

/** How many facts the verdict on the screen has not heard of yet. */
export const unheard = (waiting: readonly Write[]): number =>
  waiting.filter((write) => HEARD.test(write.path)).length
