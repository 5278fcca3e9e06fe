// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from 'vitest'
import { clock, keepRun, minutesSince, openRun, points } from './run'

describe('a run that is being timed', () => {
  beforeEach(() => localStorage.clear())

  it('is there again after the page was closed, and gone once it is saved', () => {
    const run = { kind: 'hood_flow', instrument: '', began: 1000, spots: [{ minute: 1, typed: '90' }] }
    keepRun('a', run)
    expect(openRun('a')).toEqual(run)
    expect(openRun('b')).toBeNull()
    keepRun('a', null)
    expect(openRun('a')).toBeNull()
  })

  it('is nothing where what was kept is damaged', () => {
    localStorage.setItem('warm-draft-run-a', '{"spots": 3')
    expect(openRun('a')).toBeNull()
    localStorage.setItem('warm-draft-run-a', '{"spots": 3, "began": 1}')
    expect(openRun('a')).toBeNull()
  })

  it.each([
    [0, '0:00'],
    [0.5, '0:30'],
    [61.25, '61:15'],
  ])('shows %s minutes as %s', (minutes, text) => expect(clock(minutes)).toBe(text))

  it('counts from when it began, never backwards', () => {
    expect(minutesSince(0, 90_000)).toBe(1.5)
    expect(minutesSince(90_000, 0)).toBe(0)
  })

  it('takes numbers in the order of the run, a comma for a point, and leaves out what is none', () => {
    const spots = [
      { minute: 5, typed: '80,5' },
      { minute: 1, typed: '90' },
      { minute: 3, typed: 'lots' },
    ]
    expect(points(spots)).toEqual({ minutes: [1, 5], values: [90, 80.5] })
  })
})
