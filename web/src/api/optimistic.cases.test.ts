import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { isDeepStrictEqual } from 'node:util'
import { describe, expect, it } from 'vitest'
import { aJob } from '../test/fixtures'
import { withWaiting } from './optimistic'
import type { Bench, Compartment, Job, Vocabulary } from './types'

/**
 * The tray drawn ahead, against the core's own: acts in a row over the shipped layouts, made by tools/bench_cases.py.
 * WARM_CASES: how many; WARM_PYTHON: the Python that has the core.
 */

type Act = { act: 'marks' | 'counts'; id: string } & Record<string, unknown>
type Group = {
  bench: Bench
  marks: Job['marks']
  acts: Act[]
  cases: { waiting: number; tray: unknown[] }[]
  words: Pick<Vocabulary, 'fasteners' | 'areas'>
}

const PYTHON = process.env.WARM_PYTHON ?? join('..', '.venv', 'bin', 'python')
const CASES = Number(process.env.WARM_CASES ?? 400)

function made(): Group[] {
  const folder = mkdtempSync(join(tmpdir(), 'warm-cases-'))
  try {
    const file = join(folder, 'cases.jsonl')
    execFileSync(PYTHON, [join('..', 'tools', 'bench_cases.py'), '--cases', String(CASES), file])
    return readFileSync(file, 'utf8')
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Group)
  } finally {
    rmSync(folder, { recursive: true })
  }
}

const write = ({ act, id, ...body }: Act) => ({
  id,
  person: 'ada',
  job: 'job',
  path: `/api/v1/jobs/job/${act}/${id}`,
  body: { at: '', ...body },
  says: id,
})

/** What is compared, as the core writes it. */
function seen(place: Compartment) {
  const { step, back, number, state, full, title, area, operation } = place
  return {
    step,
    back,
    number,
    state,
    full,
    title,
    area,
    operation,
    fasteners: place.fasteners.map(
      ({
        length_mm: _,
        goes_into: __,
        finish: ___,
        hidden: ____,
        holds: _____,
        drop_hazard: ______,
        ...row
      }) => row,
    ),
    wires: place.wires.map(({ key, off, said, contradicts, notes }) => ({
      key,
      off,
      said,
      contradicts,
      notes: notes.map(({ colour }) => colour),
    })),
    parts: place.parts.map(({ part, settled, why, said }) => ({ part, settled, why, said })),
  }
}

describe('the tray drawn ahead', () => {
  it(`is the core's own in ${CASES} cases`, { timeout: 300_000 }, () => {
    let told = 0
    for (const { bench, marks, acts, cases, words } of made()) {
      const job = aJob({ bench, marks })
      for (const { waiting, tray } of cases) {
        const ahead = withWaiting(job, acts.slice(0, waiting).map(write), words)
        const drawn = JSON.parse(JSON.stringify(ahead.bench?.compartments.map(seen)))
        // looked at closely only where it differs: thousands of trays are compared in a second
        if (!isDeepStrictEqual(drawn, tray))
          expect(drawn, JSON.stringify(acts.slice(0, waiting))).toEqual(tray)
        told += 1
      }
    }
    expect(told).toBe(CASES)
  })
})
