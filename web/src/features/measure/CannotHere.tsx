import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Check, Job } from '../../api/types'
import { recordFinding, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { AskWhy } from '../../ui/AskWhy'
import { Button } from '../../ui/Button'

/** "Can't do this here", with why: the next check moves on. */
export function CannotHere({ job, check, phase }: { job: Job; check: Check; phase: 'before' | 'after' }) {
  const [asking, setAsking] = useState(false)
  const say = async (why: string) => {
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
      canUndo(job.id, { says: t`can't: ${check.do}`, run: () => void withdraw(job.id, id, true) })
  }
  if (!asking)
    return (
      <Button kind="ghost" className="mt-2" onClick={() => setAsking(true)}>
        <Trans>Can't do this here</Trans>
      </Button>
    )
  return (
    <AskWhy
      ask={t`Why not? (a word is enough)`}
      says={t`Go on without it`}
      focus
      onSay={(why) => void say(why)}
    />
  )
}
