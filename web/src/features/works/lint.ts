import type { Job } from '../../api/types'

/** What was found at one place, in a few words. */
export const lintInWords = ({ text, grade, of, grams, objects }: Job['dealt']['lint'][number]): string =>
  [text, grade !== null && `${grade}/${of}`, grams !== null && `${grams} g`, objects]
    .filter(Boolean)
    .join(', ')
