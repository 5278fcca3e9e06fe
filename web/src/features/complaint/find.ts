/** Whether a text is meant by what somebody typed, in the trade's many words for one thing. */
export function matcher(
  typed: string,
  words: readonly { said: string; means: string }[],
): (text: string) => boolean {
  const asked = typed.trim().toLowerCase()
  if (!asked) return () => true
  const meant = words.filter(({ said }) => said.startsWith(asked)).map(({ means }) => means.toLowerCase())
  return (text) => [asked, ...meant].some((word) => text.toLowerCase().includes(word))
}
