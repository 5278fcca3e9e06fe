import { useState } from 'react'
import { sentence } from '../api/client'

/** Something a person does that may be refused: run it, know whether it is done, say why not. */
export function useAct() {
  const [done, setDone] = useState(false)
  const [trouble, setTrouble] = useState<string | null>(null)
  const run = (act: Promise<unknown>) => {
    setDone(false)
    setTrouble(null)
    act.then(
      () => setDone(true),
      (error: unknown) => setTrouble(sentence(error)),
    )
  }
  return { done, trouble, run }
}

/** What came of it, in a place that is there before: told to a screen reader, and nothing moves. */
export function Told({ trouble, done }: { trouble: string | null; done?: string | false }) {
  return (
    <p
      role={trouble ? 'alert' : 'status'}
      className={`mt-2 min-h-6 ${trouble ? 'text-error' : 'text-success font-bold'}`}
    >
      {trouble ?? done}
    </p>
  )
}
