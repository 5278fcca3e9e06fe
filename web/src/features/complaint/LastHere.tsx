import { Trans } from '@lingui/react/macro'
import { Link } from 'react-router'
import type { Job } from '../../api/types'
import { useStory } from '../../api/upkeep'
import { written } from '../../app/language'

/** Somebody was here lately: what it was then, before the same is looked for again. */
export function LastHere({ job }: { job: Job }) {
  const { data: story } = useStory(job.machine.id)
  const lately = story?.lately
  if (!lately || lately.id === job.id || job.handed_over) return null
  const day = written(`${lately.day}T12:00:00`, { day: 'numeric', month: 'long' })
  return (
    <p className="border-warning rounded-xl border-2 p-3">
      <b>
        <Trans>
          It comes back: {lately.by} was here on {day}.
        </Trans>
      </b>{' '}
      {lately.cause} {lately.proof}{' '}
      <Link to={`/machines/${job.machine.id}`} className="underline">
        <Trans>Its story</Trans>
      </Link>
    </p>
  )
}
