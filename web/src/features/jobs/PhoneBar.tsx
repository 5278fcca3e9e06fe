import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Job } from '../../api/types'
import { textOf, useSignedIn } from '../../app/signedIn'
import { OutboxBadge } from '../../app/TopBar'
import { undoLast } from '../../app/undo'
import { Button } from '../../ui/Button'
import type { Next } from './useNext'

/** Along the bottom edge of a phone, always: what comes next, undo, what waits, and the stages behind one button. */
export function PhoneBar({
  job,
  stage,
  next,
  undo,
  onStages,
}: {
  job: Job
  stage: string
  next: Next
  undo: string | undefined
  onStages: () => void
}) {
  const { me, vocabulary } = useSignedIn()
  const number = vocabulary.stages.findIndex((entry) => entry.code === stage) + 1
  return (
    <div
      data-bar
      className="no-print bg-base-100 border-base-300 fixed inset-x-0 bottom-0 border-t px-2 pt-2 pb-[max(0.5rem,env(safe-area-inset-bottom))] md:hidden"
    >
      <div className={`flex gap-2 ${me.habits.left_handed ? 'flex-row-reverse' : ''}`}>
        <Button kind="outline" className="h-[54px] w-[8.5rem] px-1 leading-tight" onClick={onStages}>
          <span>
            <span className="block text-base">{textOf(vocabulary.stages, stage)}</span>
            <span className="block text-sm font-normal">
              <Trans>{number} of 9</Trans>
            </span>
          </span>
        </Button>
        <Button
          kind="outline"
          className="h-[54px] px-3"
          disabled={!undo}
          aria-label={undo ? t`Undo: ${undo}` : t`Undo`}
          onClick={() => undoLast(job.id)}
        >
          <Trans>Undo</Trans>
        </Button>
        <Button
          kind="primary"
          className="h-[54px] min-w-0 flex-1 px-2 text-base leading-tight"
          onClick={next.run}
        >
          <span className="line-clamp-2">{next.text}</span>
        </Button>
      </div>
      <OutboxBadge className="flex w-full justify-center pt-1 empty:pt-0" />
    </div>
  )
}
