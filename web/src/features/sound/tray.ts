import { ofThePerson } from '../../api/person'
import type { TrialsIn } from '../../api/types'
import { asNumber } from '../../ui/numbers'

/** A run as it is typed: nothing is lost of what is no number yet. */
export type Row = { grams: string; vane: string; amplitude: string; phase: string }
export type Tray = { radius: string; vanes: string; rows: Row[] }

export const EMPTY: Row = { grams: '', vane: '', amplitude: '', phase: '' }
export const FRESH: Tray = { radius: '80', vanes: '', rows: [EMPTY, EMPTY, EMPTY, EMPTY] }
const PREFIX = 'warm-draft-tray-'
const key = (job: string) => `${PREFIX}${job}`

ofThePerson(() => {
  for (const name of Object.keys(localStorage)) if (name.startsWith(PREFIX)) localStorage.removeItem(name)
})

/** The tray of a job on this device; a fresh one where there is none. */
export function trayOf(job: string): Tray {
  try {
    return { ...FRESH, ...(JSON.parse(localStorage.getItem(key(job)) ?? '{}') as Partial<Tray>) }
  } catch {
    return FRESH
  }
}

export const keepTray = (job: string, tray: Tray): void =>
  localStorage.setItem(key(job), JSON.stringify(tray))

const numberOf = (typed: string): number | null => {
  const value = asNumber(typed)
  return typed.trim() === '' || Number.isNaN(value) ? null : value
}

/** What is asked of the server: the runs that are whole, once the bare one and a trial mass are. */
export function askedOf(tray: Tray): TrialsIn | null {
  const radius_mm = numberOf(tray.radius)
  const vanes = numberOf(tray.vanes)
  const [bare, ...trials] = tray.rows.map((row) => ({
    grams: numberOf(row.grams),
    vane: numberOf(row.vane),
    amplitude: numberOf(row.amplitude),
    phase_deg: numberOf(row.phase),
  }))
  if (!radius_mm || bare?.amplitude == null) return null
  const whole = trials.flatMap(({ grams, vane, amplitude, phase_deg }) =>
    grams && vane !== null && amplitude !== null ? [{ grams, vane, amplitude, phase_deg }] : [],
  )
  if (whole.length === 0) return null
  const first = { grams: 0, vane: null, amplitude: bare.amplitude, phase_deg: bare.phase_deg }
  return { radius_mm, vanes, runs: [first, ...whole] }
}
