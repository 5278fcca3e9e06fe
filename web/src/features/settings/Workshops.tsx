import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { endMembership } from '../../api/people'
import { chooseWorkshop, queryClient } from '../../api/queries'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Told, useAct } from '../../ui/useAct'

/** The workshops one belongs to: which one is shown, and leaving it. */
export function Workshops({ onChosen }: { onChosen: () => void }) {
  const { me } = useSignedIn()
  const navigate = useNavigate()
  const [leaving, setLeaving] = useState(false)
  const { trouble, run } = useAct()
  const choose = async (id: string) => {
    await chooseWorkshop(id)
    onChosen()
    await navigate('/jobs')
  }
  const leave = async () => {
    await endMembership(me.id)
    const other = me.workshops.find((row) => row.id !== me.workshop_id)
    if (other) return choose(other.id)
    await queryClient.resetQueries()
  }
  return (
    <details className="mt-4">
      <summary className="touch flex cursor-pointer items-center font-bold">
        <Trans>Workshop: {me.workshop}</Trans>
      </summary>
      <ul className="grid gap-2">
        {me.workshops
          .filter((row) => row.id !== me.workshop_id)
          .map((row) => (
            <li key={row.id}>
              <Button kind="outline" onClick={() => run(choose(row.id))}>
                <Trans>
                  Go on in {row.name}, as {row.role}
                </Trans>
              </Button>
            </li>
          ))}
        <li>
          <Button kind="ghost" onClick={() => setLeaving(true)}>
            <Trans>Leave {me.workshop}</Trans>
          </Button>
        </li>
      </ul>
      {leaving && (
        <div role="alert" className="border-error mt-2 rounded-xl border-2 p-3">
          <p>
            <Trans>
              Its jobs are no longer yours to see. What you did stays under your name; a lead can ask you in
              again.
            </Trans>
          </p>
          <Button kind="outline" className="mt-2" onClick={() => run(leave())}>
            <Trans>Leave {me.workshop}</Trans>
          </Button>
        </div>
      )}
      <Told trouble={trouble} />
    </details>
  )
}
