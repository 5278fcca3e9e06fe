import type { Job, Me, Step, Vocabulary } from '../api/types'

/** A believable job and the words around it; a test names only what it is about. */

const NODES = [
  'room',
  'inlet',
  'drum',
  'lint_screen',
  'lint_duct',
  'blower',
  'exhaust_pipe',
  'transition',
  'run',
  'hood',
]
const HEALTHY = [0, -25, -52, -111, -149, 123, 94, 80, 29, 0]
const NOW = [0, -10, -23, -49, -66, 300, 287, 272, 14, 0]
const pa = (value: number) => ({ value, unit: 'Pa' })
const nodes = (values: readonly number[]) =>
  values.map((value, i) => ({ at: NODES[i] ?? '', pressure: pa(value) }))
const named = (...pairs: [string, string][]) => pairs.map(([code, text]) => ({ code, text }))

export const step = (id: string, more: Partial<Step> = {}): Step => ({
  id,
  does: `Do ${id}`,
  why: '',
  minutes: 2,
  driver: null,
  fasteners: [],
  cautions: [],
  qualified: null,
  ...more,
})

const fault = (code: string, element: string, probability: number, text: string) => ({
  fault: code,
  zone: element,
  element,
  probability,
  severity: { low: 9, median: 12, high: 15 },
  text,
  sure_text: 'about 1 in 3',
  severity_text: '9 to 15 times its resistance',
})

export function aJob(changes: Partial<Job> = {}): Job {
  return {
    id: '01a0f3c2-0000-7000-8000-000000000001',
    version: 3,
    title: '',
    complaints: ['long_drying'],
    circumstances: [],
    said: '',
    stop: null,
    booked_for: '2026-11-25T09:00:00Z',
    place: { id: 'p', name: 'Otter Ness kennels', address: '', contact: '' },
    machine: {
      id: 'm',
      name: 'left machine',
      profile: 'full-size-electric',
      profile_title: 'Full size, electric, 60 Hz',
      layout: '',
      energy: 'electric',
      supply: 'plug',
      age_years: 7,
    },
    readings: [],
    findings: [],
    marks: [],
    working_cause: null,
    confirmed_cause: null,
    handed_over: false,
    stages: ['complaint', 'make_safe', 'measure', 'cause', 'open', 'mend', 'close', 'prove', 'hand_over'].map(
      (stage, i) => ({
        stage,
        state: i < 2 ? 'done' : 'open',
        settled: 0,
        of: 0,
      }),
    ),
    next: { code: 'check', stage: 'measure', subject: 'behind_look', text: 'Look behind the machine' },
    safety: [step('make_safe.unplug')],
    open: [],
    mend: [],
    close: [],
    known_layout: false,
    proof: { code: 'not_measured', text: 'Not measured since the work.', regained: null, rows: [] },
    verdict: {
      headline: {
        code: 'held_up_after',
        zones: ['run'],
        probability: 1,
        text: 'Held up after the machine.',
        why: 'Little flow.',
      },
      lamps: [
        { lamp: 'heat', state: 'as_it_should', text: 'as it should' },
        { lamp: 'supply', state: 'suspect', text: '118 of 240 V' },
      ],
      zones: [
        { zone: 'run', probability: 0.372 },
        { zone: 'transition', probability: 0.342 },
        { zone: 'hood', probability: 0.286 },
      ],
      elements: [
        { element: 'run', probability: 0.372 },
        { element: 'transition', probability: 0.342 },
        { element: 'hood', probability: 0.286 },
      ],
      faults: [
        fault('vent_run_packed', 'run', 0.372, 'Vent run packed'),
        fault('transition_crushed', 'transition', 0.342, 'Transition crushed'),
        fault('hood_blocked', 'hood', 0.286, 'Hood blocked'),
      ],
      inseparable: [['vent_run_packed', 'transition_crushed', 'hood_blocked']],
      operating_point: {
        flow: { value: 0.05, unit: 'm3/s' },
        fan_pressure: pa(366),
        heater_flow: { value: 0.045, unit: 'm3/s' },
        outlet_flow: { value: 0.05, unit: 'm3/s' },
        vent_flow: { value: 0.05, unit: 'm3/s' },
      },
      readings: {
        outlet_flow: { healthy: { value: 0.0804, unit: 'm3/s' }, implied: { value: 0.05, unit: 'm3/s' } },
        outlet_static_pressure: { healthy: pa(94), implied: pa(287) },
      },
      draft_line: {
        healthy: nodes(HEALTHY),
        band_low: nodes(HEALTHY.map((p) => p - Math.abs(p) * 0.1)),
        band_high: nodes(HEALTHY.map((p) => p + Math.abs(p) * 0.1)),
        now: nodes(NOW).map((node, i) => ({
          ...node,
          low: node.pressure,
          high: node.pressure,
          pinned: i <= 6 || i === 9,
        })),
        stories: [
          { fault: 'vent_run_packed', probability: 0.37, profile: nodes(NOW) },
          { fault: 'hood_blocked', probability: 0.29, profile: nodes([...NOW.slice(0, 8), 256, 0]) },
        ],
        points: [
          {
            kind: 'outlet_static_pressure',
            ids: [],
            at: 'exhaust_pipe',
            pressure: pa(287),
            low: pa(255),
            high: pa(319),
          },
        ],
      },
      next_checks: [
        {
          check: 'behind_look',
          bits: 0.5,
          minutes: 2,
          bits_per_minute: 0.25,
          sure_now: 0.372,
          sure_after: 0.62,
          splits: ['transition', 'run'],
          opens: false,
          access: 'behind',
          worth_it: true,
          text: 'Look behind the machine',
        },
      ],
      for_and_against: [
        { reading: 'outlet_static_pressure', check: null, ids: [], towards: 'vent_run_packed', nats: 20.8 },
        { reading: null, check: 'behind_look', ids: [], towards: 'vent_run_packed', nats: -0.7 },
      ],
      misfits: [],
      model_version: '1',
    },
    ...changes,
  }
}

export const me: Me = {
  id: 'ada',
  name: 'Ada Fell',
  email: 'ada@lake.example',
  initials: 'AF',
  workshop: 'Fell Dryer Works',
  role: 'technician',
  qualifications: [],
  may: ['work_on_a_job', 'confirm_a_cause', 'hand_over'],
  habits: {
    flow: 'cfm',
    pressure: 'inH2O',
    temperature: 'degF',
    length: 'in',
    theme: 'system',
    left_handed: false,
    single_keys: true,
  },
}

const unit = (name: string, dimension: string, factor: number, look: string, digits: number) => ({
  unit: name,
  dimension,
  factor,
  offset: 0,
  look,
  digits,
})

export const vocabulary: Vocabulary = {
  stages: named(
    ['complaint', 'Complaint'],
    ['make_safe', 'Make safe'],
    ['measure', 'Measure'],
    ['cause', 'Cause'],
  ),
  zones: named(['run', 'the vent run'], ['transition', 'the transition'], ['hood', 'the hood']),
  elements: named(
    ['inlet', 'Inlet, heater'],
    ['drum', 'Drum'],
    ['lint_screen', 'Screen'],
    ['lint_duct', 'Lint duct'],
    ['blower', 'Wheel'],
    ['exhaust_pipe', 'Pipe'],
    ['transition', 'Transition'],
    ['run', 'Vent run'],
    ['hood', 'Hood'],
  ),
  nodes: named(['exhaust_pipe', 'at the outlet']),
  faults: [
    { code: 'vent_run_packed', text: 'Vent run packed', zone: 'run', element: 'run' },
    { code: 'transition_crushed', text: 'Transition crushed', zone: 'transition', element: 'transition' },
    { code: 'hood_blocked', text: 'Hood blocked', zone: 'hood', element: 'hood' },
  ],
  complaints: named(['long_drying', 'takes for ever']),
  circumstances: [],
  profiles: [{ code: 'full-size-electric', text: 'Full size', energy: 'electric' }],
  layouts: [],
  instruments: named(['manometer', 'manometer']),
  no_evidence: named(['not_possible', "can't be done here"]),
  kinds: [
    {
      kind: 'outlet_static_pressure',
      text: 'pressure at the outlet',
      dimension: 'pressure',
      canonical: 'Pa',
      tap: 'exhaust_pipe',
      weighed: true,
      instruments: ['manometer'],
    },
    {
      kind: 'outlet_flow',
      text: 'flow at the outlet',
      dimension: 'flow',
      canonical: 'm3/s',
      tap: null,
      weighed: true,
      instruments: ['manometer'],
    },
  ],
  checks: [
    {
      check: 'behind_look',
      do: 'Look behind the machine',
      how: 'Phone camera over the top.',
      node: 'transition',
      access: 'from behind',
      minutes: 2,
      wait_minutes: 0,
      instrument: 'eyes and a lamp',
      hazard: '',
      qualified: null,
      heat: false,
      observes: null,
      results: named(['round', 'round and whole'], ['flat', 'pressed flat']),
    },
  ],
  units: [
    unit('m3/s', 'flow', 1, 'm³/s', 3),
    unit('cfm', 'flow', 4.719474432e-4, 'cfm', 0),
    unit('Pa', 'pressure', 1, 'Pa', 0),
    unit('inH2O', 'pressure', 249.0889, 'inH2O', 2),
  ],
}
