import { t } from '@lingui/core/macro'
import { useEffect } from 'react'
import { Link, useNavigate } from 'react-router'
import type { Job } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { Dialog } from '../../ui/Dialog'

/** All nine stages with how far each is; its number goes there. */
export function StagesDialog({ job, stage, onClose }: { job: Job; stage: string; onClose: () => void }) {
  const { vocabulary } = useSignedIn()
  const navigate = useNavigate()
  useEffect(() => {
    const onKey = ({ key }: KeyboardEvent) => {
      const there = vocabulary.stages[Number(key) - 1]
      if (!there) return
      onClose()
      void navigate(`/jobs/${job.id}/${there.code}`)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [vocabulary.stages, job.id, navigate, onClose])
  return (
    <Dialog title={t`Stages`} onClose={onClose}>
      <ol className="grid gap-1">
        {vocabulary.stages.map(({ code, text }, i) => {
          const state = job.stages.find((row) => row.stage === code)
          return (
            <li key={code}>
              <Link
                to={`/jobs/${job.id}/${code}`}
                onClick={onClose}
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
  )
}
