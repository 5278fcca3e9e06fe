import { act } from 'react'
import { createRoot } from 'react-dom/client'
import { describe, expect, it, vi } from 'vitest'
import { forgetThePerson } from '../api/person'
import { type Answering, AnsweringContext, useAnswering } from './answering'
import { canUndo, undoLast } from './undo'

const CODES = ['gate'] as const

function Form({ run }: { run: () => void }) {
  useAnswering(CODES, run)
  return null
}

describe('the one button Next', () => {
  it('does what the form in sight says, as it is now, and nothing once it is gone', async () => {
    const answering: Answering = new Map()
    const root = createRoot(document.createElement('div'))
    const [first, second] = [vi.fn(), vi.fn()]
    const draw = (run: (() => void) | null) =>
      act(async () => {
        root.render(<AnsweringContext value={answering}>{run && <Form run={run} />}</AnsweringContext>)
      })
    await draw(first)
    answering.get('gate')?.()
    await draw(second)
    answering.get('gate')?.()
    expect([first.mock.calls.length, second.mock.calls.length]).toEqual([1, 1])
    await draw(null)
    expect(answering.size).toBe(0)
  })
})

describe('what the app remembers of a person', () => {
  it('is gone for the next one: what could be taken back, a run half timed', async () => {
    await import('../features/log/run')
    const taken = vi.fn()
    canUndo('job', { says: 'a step', run: taken })
    localStorage.setItem('warm-draft-run-job', '{}')
    localStorage.setItem('warm-draft-device', 'kept')
    forgetThePerson()
    undoLast('job')
    expect(taken).not.toHaveBeenCalled()
    expect(localStorage.getItem('warm-draft-run-job')).toBeNull()
    expect(localStorage.getItem('warm-draft-device')).toBe('kept')
  })
})
