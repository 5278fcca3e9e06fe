import type { Vocabulary } from './types'

let known: Vocabulary | undefined

/** From now on codes are called so: what waits to be sent is listed in these words, line or no line. */
export const callThemBy = (vocabulary: Vocabulary): void => {
  known = vocabulary
}

/** What a code is called; one without words by itself. */
export function called(code: string | null | undefined): string {
  const text =
    known?.kinds.find(({ kind }) => kind === code)?.text ??
    known?.checks.find(({ check }) => check === code)?.do ??
    known?.meter_parts.find(({ part }) => part === code)?.text ??
    known?.faults.find((fault) => fault.code === code)?.text
  return text ?? (code ?? '').replaceAll(/[_.]/g, ' ')
}
