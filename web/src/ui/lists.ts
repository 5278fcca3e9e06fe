import { t } from '@lingui/core/macro'

/** Names as people say them in a row: "run, transition or hood". */
export function oneOf(names: readonly string[]): string {
  const last = names.at(-1) ?? ''
  return names.length < 2 ? last : t`${names.slice(0, -1).join(', ')} or ${last}`
}

/** The same with "and". */
export function allOf(names: readonly string[]): string {
  const last = names.at(-1) ?? ''
  return names.length < 2 ? last : t`${names.slice(0, -1).join(', ')} and ${last}`
}
