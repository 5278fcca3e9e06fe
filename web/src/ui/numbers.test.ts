import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { Vocabulary } from '../api/types'
import { digits, inUnit, percentages, shown, unitFor } from './numbers'

describe('percentages', () => {
  it.each([
    [
      [1 / 3, 1 / 3, 1 / 3],
      [34, 33, 33],
    ],
    [
      [0.372, 0.342, 0.286],
      [37, 34, 29],
    ],
    [
      [0.005, 0.995],
      [1, 99],
    ],
    [[1], [100]],
    [
      [0.125, 0.125, 0.75],
      [13, 12, 75],
    ],
  ])('%j add to a hundred', (shares, expected) => {
    expect(percentages(shares)).toEqual(expected)
    expect(expected.reduce((sum, p) => sum + p, 0)).toBe(100)
  })
})

describe('numbers as people read them', () => {
  const unit = (
    name: string,
    dimension: string,
    factor: number,
    offset: number,
    look: string,
    count: number,
  ) => ({
    unit: name,
    dimension,
    factor,
    offset,
    look,
    digits: count,
  })
  const vocabulary = {
    units: [
      unit('Pa', 'pressure', 1, 0, 'Pa', 0),
      unit('inH2O', 'pressure', 249.0889, 0, 'inH2O', 2),
      unit('degC', 'temperature', 1, 0, '°C', 0),
      unit('degF', 'temperature', 5 / 9, -160 / 9, '°F', 0),
      unit('K', 'temperature_difference', 1, 0, 'K', 0),
      unit('delta_degF', 'temperature_difference', 5 / 9, 0, '°F', 0),
    ],
  } as unknown as Vocabulary
  const units = { pressure: 'inH2O', temperature: 'degF', temperature_difference: 'delta_degF' }

  it('come in the unit a person likes', () => {
    expect(shown({ value: 150, unit: 'Pa' }, unitFor('pressure', units, vocabulary))).toBe('0.60 inH2O')
    expect(shown({ value: 100, unit: 'degC' }, unitFor('temperature', units, vocabulary))).toBe('212 °F')
  })

  it('keep a difference a difference', () => {
    expect(inUnit(10, unitFor('temperature_difference', units, vocabulary))).toBeCloseTo(18)
  })

  it('are shown in no unit that nobody named', () => {
    expect(() => unitFor('smell', units, vocabulary)).toThrow('no unit for smell')
  })

  it('are written as the core writes them', () => {
    const rows = execFileSync(
      process.env.WARM_PYTHON ?? join('..', '.venv', 'bin', 'python'),
      [
        '-c',
        `
import json, random
from warmdraft.words.numbers import decimals
rng = random.Random(5)
values = [rng.uniform(-1, 1) * 10 ** rng.randint(-4, 5) for _ in range(4000)]
values += [k / 8 for k in range(-80, 80)] + [-0.0, 0.5, 1.5, 2.5, -0.5, 1.005]
print(json.dumps([[v, d, decimals(v, d)] for v in values for d in (0, 1, 2, 3)]))
`,
      ],
      { env: { ...process.env, PYTHONPATH: join('..', 'core') }, encoding: 'utf8', maxBuffer: 1e8 },
    )
    for (const [value, count, text] of JSON.parse(rows) as [number, number, string][])
      expect(digits(value, count), `${value} to ${count}`).toBe(text)
  })

  it.each([
    [-0.001, 2, '0.00'],
    [-1.5, 1, '−1.5'],
    [12, 0, '12'],
  ])('%d is written %s', (value, count, text) => {
    expect(digits(value, count)).toBe(text)
  })
})
