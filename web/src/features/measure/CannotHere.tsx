import { useState } from 'react'
import type { Check, Job } from '../../api/types'
import { recordFinding, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'

/** "Can't do this here", with why: the next check moves on. */
export function CannotHere({ job, check, phase }: { job: Job; check: Check; phase: 'before' | 'after' }) {
  const [asking, setAsking] = useState(false)
  const [why, setWhy] = useState('')
  const say = async () => {
    const { id, outcome } = recordFinding(job.id, {
      check: check.check,
      result: 'not_possible',
      why,
      phase,
      heat_on: false,
      visit: null,
      supersedes: null,
    })
    const answer = await outcome
    if (answer.state !== 'refused')
      canUndo(job.id, { says: `can't: ${check.do}`, run: () => void withdraw(job.id, id, true) })
  }
  if (!asking)
    return (
      <button type="button" className="btn btn-ghost touch mt-2" onClick={() => setAsking(true)}>
        Can't do this here
      </button>
    )
  return (
    <form
      className="mt-2 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        void say()
      }}
    >
      <label className="min-w-0 flex-1">
        <span className="sr-only">Why not?</span>
        <input
          className="field"
          autoFocus
          value={why}
          maxLength={200}
          placeholder="Why not? (a word is enough)"
          onChange={(event) => setWhy(event.target.value)}
        />
      </label>
      <button type="submit" className="btn btn-outline touch">
        Go on without it
      </button>
    </form>
  )
}
