import type { Bench, Compartment, Fastener, Job } from '../api/types'
import { aJob, step } from './fixtures'

/** A job at Open with something to count. */

export const fastener = (changes: Partial<Fastener> = {}): Fastener => ({
  key: 'hex_head 18 mm',
  text: '5 hex head screws, 18 mm, zinc, into plastic',
  kind: 'hex_head',
  head: 'hex',
  state: 'out',
  length_mm: 18,
  goes_into: 'plastic',
  finish: 'zinc',
  hidden: 'one behind the wire clip',
  holds: null,
  drop_hazard: true,
  expected: 5,
  came: 0,
  counted: false,
  differs: false,
  back: 0,
  moved: 0,
  replaced: 0,
  missing: 0,
  left: 0,
  said: {},
  ...changes,
})

export const compartment = (operation: string, changes: Partial<Compartment> = {}): Compartment => ({
  number: 1,
  step: `open.${operation}`,
  back: `close.${operation}`,
  operation,
  title: `Take off ${operation}`,
  area: 'Blower',
  state: 'waiting',
  full: false,
  shows: ['wheel'],
  fasteners: [fastener()],
  wires: [
    {
      key: 'motor · plug',
      device: 'motor',
      terminal: 'plug',
      colour: 'white',
      colour_code: 'white',
      said: null,
      ground: false,
      off: false,
      notes: [],
      contradicts: false,
    },
  ],
  parts: [{ part: 'tie', text: 'tie', carried_over: false, settled: true, why: '', said: null }],
  ...changes,
})

export const aBench = (changes: Partial<Bench> = {}): Bench => ({
  compartments: [compartment('cover'), compartment('wheel', { fasteners: [], wires: [], parts: [] })],
  gate: {
    clear: false,
    holds: false,
    discrepancies: [],
    accepted: [],
    orders: [],
    tools: ['1/4 in hex driver'],
  },
  drawing: {
    air_in: [
      [90, 30],
      [20, 40],
    ],
    air_out: [
      [30, 84],
      [100, 90],
    ],
    shapes: { wheel: { kind: 'wheel', circle: [29, 84, 7], label: 'wheel' } },
  },
  layout_title: 'Door screen',
  reach: ['blower wheel'],
  no_way: null,
  open_minutes: 20,
  close_minutes: 30,
  total_minutes: 52,
  driver_changes: 4,
  optimal: true,
  gap_minutes: 0,
  taken: {},
  ...changes,
})

/** At Open with a bench: two operations, the second with nothing to count. */
export const atTheBench = (changes: Partial<Bench> = {}): Job =>
  aJob({
    bench: aBench(changes),
    open: [
      step('open.cover', { operation: 'cover', does: 'Take off the blower cover' }),
      step('open.wheel', { operation: 'wheel' }),
    ],
    close: [
      step('close.wheel', { operation: 'wheel' }),
      step('close.cover', { operation: 'cover', does: 'Cover on' }),
    ],
  })
