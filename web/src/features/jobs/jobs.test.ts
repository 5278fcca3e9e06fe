import { describe, expect, it, vi } from 'vitest'
import type { Job, Step } from '../../api/types'

vi.mock('../../api/queries', () => ({ outbox: { put: vi.fn() } }))

import { canUndo, undoLast } from '../../app/undo'
import { currentStep } from './useNext'

describe('the current step', () => {
  const step = (id: string) => ({ id, does: id }) as Step
  const job = (...settled: string[]) => ({ settled }) as Partial<Job> as Job

  it('is the first that is neither done nor impossible', () => {
    const steps = [step('a'), step('b'), step('c')]
    expect(currentStep(job(), steps)?.id).toBe('a')
    expect(currentStep(job('a', 'c'), steps)?.id).toBe('b')
    expect(currentStep(job('a', 'b', 'c'), steps)).toBeUndefined()
  })
})

describe('undo', () => {
  it('takes back the latest first, each once, per job', () => {
    const done: string[] = []
    canUndo('one', { says: 'first', run: () => done.push('first') })
    canUndo('one', { says: 'second', run: () => done.push('second') })
    undoLast('other')
    undoLast('one')
    undoLast('one')
    undoLast('one')
    expect(done).toEqual(['second', 'first'])
  })
})
