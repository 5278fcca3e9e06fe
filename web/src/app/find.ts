const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)

/**
 * Whether a text is meant by what somebody typed: every word begins one of its words, or the trade says that word for
 * something whose words are all there. Nothing typed means everything.
 */
export function finder(
  typed: string,
  trade: readonly { said: string; means: string }[],
): (text: string) => boolean {
  const asked = wordsOf(typed).map((word) => [
    [word],
    ...trade.filter(({ said }) => said.toLowerCase().startsWith(word)).map(({ means }) => wordsOf(means)),
  ])
  return (text) => {
    const there = wordsOf(text)
    const has = (word: string) => there.some((one) => one.startsWith(word))
    return asked.every((ways) => ways.some((way) => way.every(has)))
  }
}
