import { Trans } from '@lingui/react/macro'
import type { Check, Job } from '../../api/types'
import { orderWork, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'

/** Whether a check is inside, and nobody has asked for the way to it yet. */
export const needsWayIn = (job: Job, { inside }: Check): boolean =>
  inside !== null &&
  !job.handed_over &&
  !job.works.lines.some((row) => row.part === inside.part && row.act === inside.act && row.wanted)

/** A check inside the machine leads to its part by this layout's quickest way, on the bench, before any cause is known. */
export function WayIn({ job, check }: { job: Job; check: Check }) {
  const { trouble, write } = useWrite()
  const { inside } = check
  if (!inside || !needsWayIn(job, check)) return null
  const gain = job.verdict.next_checks.find((row) => row.check === check.check)
  const open = async () => {
    const { id, outcome } = orderWork(job.id, { ...inside, why: '' })
    if (await write(outcome)) canUndo(job.id, { says: check.do, run: () => void withdraw(job.id, id, true) })
  }
  return (
    <div className="border-base-300 mt-3 rounded-xl border p-3">
      <p>
        {job.known_layout && gain ? (
          <Trans>
            Inside: {Math.round(gain.minutes)} min with getting there and back on this machine. Counted on the
            bench; what is open stays open for the repair.
          </Trans>
        ) : (
          <Trans>Inside: counted on the bench; what is open stays open for the repair.</Trans>
        )}
      </p>
      <Button kind="outline" className="mt-2" onClick={() => void open()}>
        <Trans>Show the way in</Trans>
      </Button>
      <Trouble says={trouble} />
    </div>
  )
}
