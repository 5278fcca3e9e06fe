import type { JobRow } from '../../api/types'

/** Search by any word of the place, the machine, the complaint or the cause. */
export function matches(row: JobRow, complaints: string, words: string): boolean {
  const all = [row.title, row.place, row.machine, row.contact, row.headline, row.next, complaints]
    .join(' ')
    .toLowerCase()
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word))
}
