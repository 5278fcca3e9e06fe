import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Check, Job } from '../../api/types'
import { recordFinding, withdraw } from '../../api/writes'
import { useAnswerButton } from '../../app/answering'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Key } from '../../ui/Key'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { AskTheMachine } from '../drills/AskTheMachine'

/** What a look, a touch or a listen gave: one press. */
export function LookForm({ job, check, phase }: { job: Job; check: Check; phase: 'before' | 'after' }) {
  const answer = useAnswerButton()
  const { trouble, write } = useWrite()
  const [gave, setGave] = useState<string | null>(null)
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
    if (await write(outcome)) canUndo(job.id, { says: words, run: () => void withdraw(job.id, id, true) })
  }
  return (
    <div role="group" aria-label={t`What is it? ${check.do}`}>
      <AskTheMachine job={job} check={check} phase={phase} onGave={({ result }) => setGave(result)} />
      {gave && (
        <p role="status" className="mb-2 text-lg">
          <Trans>
            You find: <b>{check.results.find(({ code }) => code === gave)?.text}</b>. Say so:
          </Trans>
        </p>
      )}
      <div data-act className={`grid gap-2 ${check.results.length > 4 ? 'grid-cols-2' : ''}`}>
        {check.results.map(({ code, text }, i) => (
          <Button
            key={code}
            ref={i === 0 ? answer : undefined}
            data-answer
            aria-pressed={replaces?.result === code}
            kind="outline"
            className="aria-pressed:btn-neutral h-auto min-h-[54px] justify-between text-left text-lg"
            onClick={() => void say(code, text)}
          >
            {text} <Key>{String(i + 1)}</Key>
          </Button>
        ))}
      </div>
      <Trouble says={trouble} />
    </div>
  )
}
