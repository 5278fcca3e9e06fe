import type { Step, Vocabulary } from '../../api/types'

type Bench = Vocabulary['wheel_bench']
export type Seat = NonNullable<Step['seat']>
type Turns = Bench['turns'][number]

export const TURNS = ['clockwise', 'counterclockwise'] as const satisfies readonly Turns['off'][]

/** What somebody says of what sits on a shaft; runs: as they see it, null until it is said. */
export type Said = Seat & { runs: Turns['runs'] | null; kneels: Turns['kneels']; mark: Turns['mark'] }

/** The answer of the core to what was said; nothing until it is said which way it runs. */
export function turnsOf(bench: Bench, said: Said): Turns | undefined {
  return bench.turns.find(
    (row) =>
      row.role === said.role &&
      row.runs === said.runs &&
      row.kneels === said.kneels &&
      row.mark === said.mark,
  )
}
