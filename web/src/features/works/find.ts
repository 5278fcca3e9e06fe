import type { Act, Vocabulary } from '../../api/types'
import { finder } from '../../app/find'

/** Acts that are meant by what was typed, in the order of the work. parts: only on these, in their order. */
export function matching(
  acts: readonly Act[],
  typed: string,
  trade: Vocabulary['trade_words'],
  parts: readonly string[] | null = null,
): readonly Act[] {
  const here = parts ? parts.flatMap((part) => acts.filter((act) => act.part === part)) : acts
  const meant = finder(typed, trade)
  return here.filter((act) => meant(`${act.text} ${act.part_text} ${act.act}`))
}
