import { ofThePerson } from '../../api/person'
import { asNumber } from '../../ui/numbers'

/** A run being timed by hand or recorded live: kept on the device until it is saved, so that nothing is lost. */

export type Spot = { minute: number; typed: string }
export type OpenRun = { kind: string; instrument: string; began: number; spots: Spot[] }

const PREFIX = 'warm-draft-run-'
const key = (job: string) => `${PREFIX}${job}`

ofThePerson(() => {
  for (const name of Object.keys(localStorage)) if (name.startsWith(PREFIX)) localStorage.removeItem(name)
})

/** A log has at least so many points (the server says so too). */
export const LEAST_SPOTS = 6
/** How long a motor may take to show that it fades. */
export const LONG_RUN_MINUTES = 75

export function openRun(job: string): OpenRun | null {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key(job)) ?? 'null')
    return isRun(kept) ? kept : null
  } catch {
    return null
  }
}

function isRun(kept: unknown): kept is OpenRun {
  return (
    typeof kept === 'object' &&
    kept !== null &&
    'began' in kept &&
    'spots' in kept &&
    Array.isArray(kept.spots)
  )
}

export function keepRun(job: string, run: OpenRun | null): void {
  if (run) localStorage.setItem(key(job), JSON.stringify(run))
  else localStorage.removeItem(key(job))
}

export const minutesSince = (began: number, now: number): number => Math.max(0, (now - began) / 60_000)

/** "12:05": minutes and seconds of a run. */
export function clock(minutes: number): string {
  const seconds = Math.floor(minutes * 60)
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
}

/** Numbers as they were typed; what is no number is left out. */
export function points(spots: readonly Spot[]): { minutes: number[]; values: number[] } {
  const kept = spots
    .map((spot) => ({ minute: spot.minute, value: asNumber(spot.typed) }))
    .filter(({ value }) => Number.isFinite(value))
    .sort((a, b) => a.minute - b.minute)
  return { minutes: kept.map(({ minute }) => minute), values: kept.map(({ value }) => value) }
}
