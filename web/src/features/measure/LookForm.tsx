import { t } from '@lingui/core/macro'
import { useState } from 'react'
import type { Check, Job } from '../../api/types'
import { recordFinding, withdraw } from '../../api/writes'
import { useAnswerButton } from '../../app/answering'
import { canUndo } from '../../app/undo'

/** What a look, a touch or a listen gave: one press. */
export function LookForm({ job, check, phase }: { job: Job; check: Check; phase: 'before' | 'after' }) {
  const answer = useAnswerButton()
  const [trouble, setTrouble] = useState<string | null>(null)
  const replaces = job.findings.find(
    (finding) => finding.check === check.check && finding.in_force && finding.phase === phase,
  )
  const say = async (result: string, words: string) => {
    const { id, outcome } = recordFinding(job.id, {
      check: check.check,
      result,
      why: '',
      phase,
      heat_on: false,
      visit: null,
      supersedes: replaces?.id ?? null,
    })
    const answer = await outcome
    setTrouble(answer.state === 'refused' ? answer.problem.message : null)
    if (answer.state !== 'refused')
      canUndo(job.id, { says: words, run: () => void withdraw(job.id, id, true) })
  }
  return (
    <div className="mt-3" role="group" aria-label={t`What is it? ${check.do}`}>
      <div className={`grid gap-2 ${check.results.length === 3 ? 'sm:grid-cols-3' : 'sm:grid-cols-2'}`}>
        {check.results.map(({ code, text }, i) => (
          <button
            key={code}
            type="button"
            ref={i === 0 ? answer : undefined}
            aria-pressed={replaces?.result === code}
            className="btn btn-outline aria-pressed:btn-neutral h-auto min-h-[54px] text-lg"
            onClick={() => void say(code, text)}
          >
            {text}
          </button>
        ))}
      </div>
      {trouble && (
        <p role="alert" className="text-error mt-2">
          {trouble}
        </p>
      )}
    </div>
  )
}
