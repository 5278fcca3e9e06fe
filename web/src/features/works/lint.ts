import type { Job } from '../../api/types'

/** The last drawing of the scale. */
export const FULL = 4

/** What was found at one place, in a few words. */
export const lintInWords = ({ text, grade, grams, objects }: Job['dealt']['lint'][number]): string =>
  [text, grade !== null && `${grade}/${FULL}`, grams !== null && `${grams} g`, objects]
    .filter(Boolean)
    .join(', ')
