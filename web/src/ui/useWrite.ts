import { useState } from 'react'
import type { Outcome } from '../api/outbox'

/** Something written through the outbox: why the server refused it, to be told where it was written. */
export function useWrite() {
  const [trouble, setTrouble] = useState<string | null>(null)
  /** True unless it was refused; what waits for the line is as good as taken. */
  const write = async (outcome: Promise<Outcome>): Promise<boolean> => {
    const { state, ...came } = await outcome
    setTrouble(state === 'refused' && 'problem' in came ? came.problem.message : null)
    return state !== 'refused'
  }
  return { trouble, setTrouble, write }
}
