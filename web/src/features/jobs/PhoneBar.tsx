import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Job } from '../../api/types'
import { textOf, useSignedIn } from '../../app/signedIn'
import { OutboxBadge } from '../../app/TopBar'
import { undoLast } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import type { Next } from './useNext'

/** Along the bottom edge of a phone, always: what comes next, undo, what waits, and the stages behind one button. */
export function PhoneBar({
  job,
  stage,
  next,
  undo,
}: {
  job: Job
  stage: string
  next: Next
  undo: string | undefined
}) {
  const { me, vocabulary } = useSignedIn()
  const [open, setOpen] = useState(false)
  const number = vocabulary.stages.findIndex((entry) => entry.code === stage) + 1
  return (
    <>
      <div className="no-print bg-base-100 border-base-300 fixed inset-x-0 bottom-0 border-t px-2 pt-2 pb-[max(0.5rem,env(safe-area-inset-bottom))] md:hidden">
        <div className={`flex gap-2 ${me.habits.left_handed ? 'flex-row-reverse' : ''}`}>
          <Button
            kind="outline"
            className="h-[54px] w-[8.5rem] px-1 leading-tight"
            onClick={() => setOpen(true)}
          >
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
      {open && (
        <Dialog title={t`Stages`} onClose={() => setOpen(false)}>
          <ol className="grid gap-1">
            {vocabulary.stages.map(({ code, text }, i) => {
              const state = job.stages.find((row) => row.stage === code)
              return (
                <li key={code}>
                  <Link
                    to={`/jobs/${job.id}/${code}`}
                    onClick={() => setOpen(false)}
                    aria-current={code === stage ? 'step' : undefined}
                    className={`touch flex items-center gap-3 rounded-xl px-3 text-lg ${code === stage ? 'bg-base-content text-base-100' : ''}`}
                  >
                    <span>{i + 1}</span>
                    <span className="flex-1">{text}</span>
                    <span className="text-sm">
                      {state?.state === 'done'
                        ? t`✓ done`
                        : state?.state === 'not_needed'
                          ? t`not needed`
                          : state && state.of > 0
                            ? t`${state.settled} of ${state.of}`
                            : ''}
                    </span>
                  </Link>
                </li>
              )
            })}
          </ol>
        </Dialog>
      )}
    </>
  )
}
