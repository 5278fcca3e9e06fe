import { describe, expect, test } from 'vitest'
import { dayAfter, degreesOf, minuteOf } from './clock'

describe('what is typed of a day', () => {
  test.each([
    ['08:30', 510],
    ['8:05', 485],
    ['24:00', 1440],
    ['24:01', undefined],
    ['12:60', undefined],
    ['noon', undefined],
  ])('the time %s', (text, minute) => {
    expect(minuteOf(text)).toBe(minute)
  })

  test.each([
    ['54.40, -3.02', { latitude: 54.4, longitude: -3.02 }],
    ['54.40 -3.02', { latitude: 54.4, longitude: -3.02 }],
    ['54,40; -3,02', { latitude: 54.4, longitude: -3.02 }],
    ['54.40', undefined],
    ['54.40, -3.02, 7', undefined],
    ['91, 0', undefined],
    ['here, there', undefined],
  ])('the degrees %s', (text, at) => {
    expect(degreesOf(text)).toEqual(at)
  })

  test('days go on over the end of a month', () => {
    expect(dayAfter('2026-11-30', 1)).toBe('2026-12-01')
    expect(dayAfter('2026-03-01', -1)).toBe('2026-02-28')
  })
})
