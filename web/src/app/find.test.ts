import { describe, expect, it } from 'vitest'
import { finder } from './find'

const WORDS = [
  { said: 'filter', means: 'screen' },
  { said: 'slow', means: 'takes for ever' },
  { said: 'fan', means: 'blower wheel' },
]

describe('finding by the words people use', () => {
  it.each([
    ['', 'rumbles', true],
    ['filter', 'run without its screen', true],
    ['FIL', 'run without its screen', true],
    ['slow', 'takes for ever', true],
    ['slow', 'never mind', false],
    ['fan', 'Clean the wheel, blower wheel', true],
    ['clean fan', 'Clean the wheel, blower wheel', true],
    ['fan', 'wheel of a cart', false],
    ['heel', 'Clean the wheel', false],
    ['pets', 'long-haired pets', true],
    ['filter', 'rumbles', false],
    ['nothing like it', 'rumbles', false],
  ])('“%s” finds “%s”: %s', (typed, text, found) => expect(finder(typed, WORDS)(text)).toBe(found))
})
