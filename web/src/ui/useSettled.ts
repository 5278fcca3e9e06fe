import { useEffect, useState } from 'react'

/** Typing has paused: what is looked for is asked for, ms. */
export const TYPED = 200

/** A value once it has not changed for a while, ms. */
export function useSettled<Value>(value: Value, after: number): Value {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), after)
    return () => clearTimeout(timer)
  }, [value, after])
  return settled
}
