import { useEffect, useState } from 'react'

/** A value once it has not changed for a while, ms. */
export function useSettled<Value>(value: Value, after: number): Value {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), after)
    return () => clearTimeout(timer)
  }, [value, after])
  return settled
}
