import type { Redrawn, Unit } from '../../api/types'
import type { Plan } from './plan'
import { metres, type Vent, walk } from './run'

/** The run there is now, as it was drawn piece by piece, laid on the plan from the machine's back on: corners in cells.
 * There one begins along x; here the back looks along y. */
export function todayInCells(
  vent: Vent | null,
  plan: Plan,
  machine: Redrawn['boxes'][number],
  units: readonly Unit[],
): number[][] {
  if (!vent || vent.pieces.length === 0) return []
  const side = metres(plan.cell, units)
  if (!side) return []
  const [low, high] = [machine.low, machine.high]
  const from = [((low[0] ?? 0) + (high[0] ?? 0)) / 2, (high[1] ?? 0) + 1, low[2] ?? 0] as const
  return walk(vent.pieces, units).map((point) => [
    from[0] - point.y / side,
    from[1] + point.x / side,
    from[2] + point.z / side,
  ])
}
