import type { Act, Vocabulary } from '../../api/types'

const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)

/** Acts that every word typed begins a word of, in the order of the work; what people say stands for what it means.
 *  parts: only on these, in their order. */
export function matching(
  acts: readonly Act[],
  typed: string,
  trade: Vocabulary['trade_words'],
  parts: readonly string[] | null = null,
): readonly Act[] {
  const asked = wordsOf(typed)
  const means = (word: string) =>
    trade.filter((row) => row.said.toLowerCase().startsWith(word)).flatMap((row) => wordsOf(row.means))
  const here = parts ? parts.flatMap((part) => acts.filter((act) => act.part === part)) : acts
  return here.filter((act) => {
    const said = wordsOf(`${act.text} ${act.part_text} ${act.act}`)
    return asked.every((word) =>
      [word, ...means(word)].some((like) => said.some((one) => one.startsWith(like))),
    )
  })
}
