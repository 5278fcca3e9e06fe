import { Trans } from '@lingui/react/macro'
import { askTheMachine, type Gave } from '../../api/drills'
import type { Check, Job } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Told, useAct } from '../../ui/useAct'

/** In a drill: do the check on the machine that is not there. What it gives is recorded by hand, as always. */
export function AskTheMachine({
  job,
  check,
  phase,
  onGave,
}: {
  job: Job
  check: Check
  phase: 'before' | 'after'
  onGave: (gave: Gave) => void
}) {
  const { me } = useSignedIn()
  const { trouble, run } = useAct()
  if (!me.practice_of || job.handed_over) return null
  return (
    <div className="mb-2">
      <Button
        kind="neutral"
        data-act
        className="h-auto min-h-[54px] w-full text-lg"
        onClick={() => run(askTheMachine(job.id, check.check, phase).then(onGave))}
      >
        <Trans>Do it on the machine</Trans>
      </Button>
      {trouble && <Told trouble={trouble} />}
    </div>
  )
}
