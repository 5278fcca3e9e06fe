import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job } from '../../api/types'
import { changeJob } from '../../api/writes'
import { type Chosen, LayoutChoice } from './LayoutChoice'

/** At Open, where nobody has said yet how this machine comes apart. */
export function NameLayout({ job }: { job: Job }) {
  const [trouble, setTrouble] = useState<string | null>(null)
  const [chosen, setChosen] = useState<Chosen>({ layout: '', variant: {} })
  const say = async () => {
    const outcome = await changeJob(job, {}, chosen)
    setTrouble(outcome.state === 'refused' ? outcome.problem.message : null)
  }
  return (
    <div className="mt-4 grid gap-3">
      <LayoutChoice chosen={chosen} onChange={setChosen} />
      {chosen.layout && (
        <button
          type="button"
          className="btn btn-neutral touch h-[54px] justify-self-start"
          onClick={() => void say()}
        >
          <Trans>This is how it comes apart</Trans>
        </button>
      )}
      {trouble && (
        <p role="alert" className="text-error">
          {trouble}
        </p>
      )}
    </div>
  )
}
