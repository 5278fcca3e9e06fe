import { useSyncExternalStore } from 'react'
import { ofThePerson } from '../api/person'

/** What can be taken back on each job, latest last: made by the acts of this sitting. */
type Undo = { says: string; run: () => void }

const stacks = new Map<string, Undo[]>()
const listeners = new Set<() => void>()
const changed = () => {
  for (const listener of listeners) listener()
}

ofThePerson(() => {
  stacks.clear()
  changed()
})

export function canUndo(job: string, undo: Undo): void {
  stacks.set(job, [...(stacks.get(job) ?? []), undo])
  changed()
}

export function undoLast(job: string): void {
  const stack = stacks.get(job) ?? []
  const last = stack.at(-1)
  if (!last) return
  stacks.set(job, stack.slice(0, -1))
  changed()
  last.run()
}

/** What the next undo would take back, or undefined. */
export function useUndo(job: string): string | undefined {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => stacks.get(job)?.at(-1)?.says,
  )
}
