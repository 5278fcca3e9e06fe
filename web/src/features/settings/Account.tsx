import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { changePassword, endSitting, useSittings } from '../../api/people'
import { written } from '../../app/language'
import { Button } from '../../ui/Button'
import { PasswordField } from '../../ui/Field'
import { Told, useAct } from '../../ui/useAct'

/** One's own account: the password, and where one is signed in. */
export function Account() {
  const [old, setOld] = useState('')
  const [fresh, setFresh] = useState('')
  const change = useAct()
  const end = useAct()
  const sittings = useSittings()
  return (
    <details className="mt-4">
      <summary className="touch flex cursor-pointer items-center font-bold">
        <Trans>Password, and where I am signed in</Trans>
      </summary>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          change.run(
            changePassword(old, fresh).then(() => {
              setOld('')
              setFresh('')
            }),
          )
        }}
      >
        <PasswordField title={t`Password now`} fresh={false} value={old} onChange={setOld} />
        <PasswordField title={t`New password, ten characters or more`} value={fresh} onChange={setFresh} />
        <Button type="submit" kind="outline" className="justify-self-start">
          <Trans>Change the password</Trans>
        </Button>
      </form>
      <Told
        trouble={change.trouble ?? end.trouble}
        done={change.done && t`Changed. Every other sign-in has ended.`}
      />
      <ul className="mt-2">
        {(sittings.data ?? []).map((row) => (
          <li key={row.id} className="border-base-300 flex min-h-11 items-center gap-3 border-b py-1">
            <span className="min-w-0 flex-1">
              <span className="block truncate">
                {/\(([^)]+)\)/.exec(row.browser)?.[1] ?? t`a browser that says nothing of itself`}
              </span>
              <span className="text-soft block text-sm">
                {row.this_one ? t`this one` : t`last seen ${written(row.seen_at)}`}
              </span>
            </span>
            {!row.this_one && (
              <Button kind="ghost" onClick={() => end.run(endSitting(row.id))}>
                <Trans>End</Trans>
              </Button>
            )}
          </li>
        ))}
      </ul>
    </details>
  )
}
