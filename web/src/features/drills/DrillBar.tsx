import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useNavigate } from 'react-router'
import { endDrill } from '../../api/drills'
import type { Job } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Told, useAct } from '../../ui/useAct'

/** Over a job that is a drill: that nothing of it is real, and how it ends. */
export function DrillBar({ job }: { job: Job }) {
  const { me } = useSignedIn()
  const navigate = useNavigate()
  const { trouble, run } = useAct()
  const workshop = me.practice_of
  if (!workshop) return null
  const end = async () => {
    await endDrill(job.id, workshop)
    await navigate(`/drills/${job.id}`)
  }
  return (
    <section
      aria-label={t`Drill`}
      className="border-accent flex flex-wrap items-center gap-x-4 gap-y-1 rounded-xl border-2 border-dashed px-4 py-2"
    >
      <p className="min-w-0 flex-1">
        <b>
          <Trans>A drill.</Trans>
        </b>{' '}
        <span className="hidden sm:inline">
          <Trans>
            Work as you would; each check is done on a machine that is not there. End it when it is mended.
          </Trans>
        </span>
      </p>
      <Button kind="outline" onClick={() => run(end())}>
        <Trans>End the drill</Trans>
      </Button>
      {trouble && <Told trouble={trouble} />}
    </section>
  )
}
