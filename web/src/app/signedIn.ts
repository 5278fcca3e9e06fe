import { createContext, use } from 'react'
import type { Me, Vocabulary } from '../api/types'

export type SignedInValue = { me: Me; vocabulary: Vocabulary }

export const SignedInContext = createContext<SignedInValue | null>(null)

/** Who is signed in, with their habits, and the words of every code. */
export function useSignedIn(): SignedInValue {
  const value = use(SignedInContext)
  if (value === null) throw new Error('used outside of a signed-in screen')
  return value
}

/** The words of a code. */
export const textOf = (list: readonly { code: string; text: string }[], code: string): string =>
  list.find((entry) => entry.code === code)?.text ?? code
