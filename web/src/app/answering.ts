import { createContext, useContext, useLayoutEffect, useRef } from 'react'
import type { NextStep } from '../api/types'

/** What the one button Next does at a place: the form that is in sight there says it. */
export type Answering = Map<NextStep['code'], () => void>

export const AnsweringContext = createContext<Answering>(new Map())

/** While this is in sight, Next does `run` where what comes next is one of these. */
export function useAnswering(codes: readonly NextStep['code'][], run: () => void): void {
  const answering = useContext(AnsweringContext)
  const latest = useRef(run)
  // before the page says that it is there (`usePlace`): a key that waited for it would find nobody listening
  useLayoutEffect(() => {
    latest.current = run
  })
  useLayoutEffect(() => {
    const now = () => latest.current()
    for (const code of codes) answering.set(code, now)
    return () => {
      for (const code of codes) if (answering.get(code) === now) answering.delete(code)
    }
  }, [answering, codes])
}

/** A check is answered here: the same whether it is the first time, again, or after the work. */
export const A_CHECK = ['check', 'measure_again', 'measure_after', 'measure_more', 'prove_also'] as const

export const isACheck = (code: NextStep['code']): boolean => (A_CHECK as readonly string[]).includes(code)

/** Where a check is answered: at its own place, or as a step of the work. */
const ANSWERED = [...A_CHECK, 'do_step'] as const

/** To the answer of a check that is a press: its first button. */
export function useAnswerButton() {
  const button = useRef<HTMLButtonElement>(null)
  useAnswering(ANSWERED, () => button.current?.focus())
  return button
}

/** To the answer of a check that is typed: its field; what is typed there already is saved. */
export function useAnswerInput() {
  const field = useRef<HTMLInputElement>(null)
  useAnswering(ANSWERED, () => {
    if (field.current?.value.trim()) field.current.form?.requestSubmit()
    else field.current?.focus()
  })
  return field
}
