import type { Q, Unit, Units, Vocabulary } from '../api/types'

/** A share as a whole number of hundredths. */
export const whole = (share: number): number => Math.round(share * 100)

/** The unit a person reads a dimension in, as the server says. */
export function unitFor(dimension: string, units: Units, vocabulary: Vocabulary): Unit {
  const unit = vocabulary.units.find((row) => row.dimension === dimension && row.unit === units[dimension])
  if (!unit) throw new Error(`no unit for ${dimension}`)
  return unit
}

/** The unit along a run: feet or metres, whatever a bore is measured in. */
export const wayUnit = (units: Units, vocabulary: Vocabulary): Unit =>
  unitFor('length', { length: units.way ?? 'm' }, vocabulary)

/** A number in canonical units as the person reads it. */
export const inUnit = (canonical: number, unit: Unit): number => (canonical - unit.offset) / unit.factor

/** As the core writes numbers (warmdraft.words.numbers): halves away from nothing, never −0. */
export function digits(value: number, count: number): string {
  const text = value.toFixed(count)
  return text.replace('-', '−').replace(/^−(0(?:\.0*)?)$/, '$1')
}

export const shown = (q: Q, unit: Unit): string =>
  `${digits(inUnit(q.value, unit), unit.digits)} ${unit.look}`
export const bare = (q: Q, unit: Unit): string => digits(inUnit(q.value, unit), unit.digits)

/** Whole percentages that add to 100: the largest remainders are rounded up. */
export function percentages(shares: readonly number[]): number[] {
  const exact = shares.map((share) => share * 100)
  const down = exact.map(Math.floor)
  let left = Math.round(exact.reduce((sum, p) => sum + p, 0)) - down.reduce((sum, p) => sum + p, 0)
  const order = exact
    .map((p, i) => [p - Math.floor(p), i] as const)
    .sort((a, b) => b[0] - a[0] || a[1] - b[1])
  for (const [, i] of order) {
    if (left <= 0) break
    down[i] = (down[i] ?? 0) + 1
    left -= 1
  }
  return down
}

/** A number as it is typed, with a comma or a point. */
export const asNumber = (text: string): number => Number(text.trim().replace(',', '.'))
