import { describe, expect, it } from 'vitest'
import { aJob, vocabulary } from '../test/fixtures'
import { withWaiting } from './optimistic'
import type { Write } from './outbox'

const write = (path: string, body: unknown): Write =>
  ({ id: path, job: 'j', path: `/api/v1/jobs/j/${path}`, body, says: '' }) as Partial<Write> as Write
const PANEL = {
  id: 'own_1',
  does: 'Back panel off',
  fasteners: [{ kind: 'hex_head', count: 8, state: 'out' }],
  wires: [],
}
const at = '2026-11-26T09:00:00Z'

describe('what came off by hand and waits for a line', () => {
  const added = write('added/1', { operation: PANEL, after: '', at })
  const off = write('marks/2', { step: 'open.own_1', state: 'done', at })

  it('is a step and lies in the tray at once, counted', () => {
    const job = withWaiting(aJob({ known_layout: false }), [added, off], vocabulary)
    expect(job.by_hand).toBe(true)
    expect(job.open.map((step) => step.does)).toEqual(['Back panel off'])
    expect(job.settled).toContain('open.own_1')
    const [place] = job.bench?.compartments ?? []
    expect(place).toMatchObject({ state: 'open', back: 'close.own_1' })
    expect(place?.fasteners[0]).toMatchObject({ came: 8, left: 8 })
  })

  it('is no second one once the server has it', () => {
    const once = withWaiting(aJob({ known_layout: false }), [added], vocabulary)
    expect(withWaiting(once, [added], vocabulary).open).toHaveLength(1)
  })
})
