import { describe, expect, it } from 'vitest'
import { matcher } from './find'

const WORDS = [
  { said: 'filter', means: 'screen' },
  { said: 'slow', means: 'takes for ever' },
]

describe('finding by the words people use', () => {
  it.each([
    ['', 'rumbles', true],
    ['filter', 'run without its screen', true],
    ['FIL', 'run without its screen', true],
    ['slow', 'takes for ever', true],
    ['pets', 'long-haired pets', true],
    ['filter', 'rumbles', false],
    ['nothing like it', 'rumbles', false],
  ])('“%s” finds “%s”: %s', (typed, text, found) => expect(matcher(typed, WORDS)(text)).toBe(found))
})
