import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job } from '../../api/types'
import { AskWhy } from '../../ui/AskWhy'
import { Button } from '../../ui/Button'
import { say } from './Counting'

/** A panel or a screw that the layout does not know: named, counted, and asked for at the gate like any other. */
export function Surprise({ job }: { job: Job }) {
  const [asking, setAsking] = useState(false)
  const [count, setCount] = useState(1)
  if (!asking)
    return (
      <Button kind="ghost" onClick={() => setAsking(true)}>
        <Trans>Something else came off</Trans>
      </Button>
    )
  return (
    <div className="w-full">
      <fieldset>
        <legend className="text-sm">
          <Trans>How many screws held it?</Trans>
        </legend>
        <div className="mt-1 flex flex-wrap gap-2">
          {[1, 2, 3, 4, 5, 6].map((number) => (
            <button
              key={number}
              type="button"
              className="chip"
              aria-pressed={number === count}
              onClick={() => setCount(number)}
            >
              {number}
            </button>
          ))}
        </div>
      </fieldset>
      <AskWhy
        ask={t`What was it, and where?`}
        says={t`Into the tray`}
        most={60}
        focus
        onSay={(what) => {
          say(
            job.id,
            { step: `surprise.${what}`, what: 'fastener', key: 'screw', state: 'out', count },
            { says: what, state: 'out', count: 0 },
          )
          setAsking(false)
        }}
      />
    </div>
  )
}
