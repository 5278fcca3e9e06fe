import { describe, expect, it } from 'vitest'
import { fitted } from './shrink'

describe('a photo made small', () => {
  it.each([
    [4000, 3000, 1600, 1200],
    [3000, 4000, 1200, 1600],
    [800, 600, 800, 600],
    [16000, 10, 1600, 1],
  ])('%i × %i becomes %i × %i', (width, height, w, h) => {
    expect(fitted(width, height)).toEqual({ width: w, height: h })
  })
})
