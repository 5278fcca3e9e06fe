import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job } from '../../api/types'
import { changeJob } from '../../api/writes'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { type Chosen, LayoutChoice } from './LayoutChoice'

/** At Open, where nobody has said yet how this machine comes apart. */
export function NameLayout({ job }: { job: Job }) {
  const { trouble, write } = useWrite()
  const [chosen, setChosen] = useState<Chosen>({ layout: '', variant: {} })
  const say = async () => {
    await write(changeJob(job, {}, chosen))
  }
  return (
    <div className="mt-4 grid gap-3">
      <LayoutChoice chosen={chosen} onChange={setChosen} />
      {chosen.layout && (
        <Button kind="neutral" className="h-[54px] justify-self-start" onClick={() => void say()}>
          <Trans>This is how it comes apart</Trans>
        </Button>
      )}
      <Trouble says={trouble} />
    </div>
  )
}
