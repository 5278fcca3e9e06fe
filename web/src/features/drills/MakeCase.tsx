import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { makeCase } from '../../api/drills'
import type { Job } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Field } from '../../ui/Field'
import { Told, useAct } from '../../ui/useAct'

/** A job that was proven, as a case to train on: its machine and its cause, none of its names. */
export function MakeCase({ job }: { job: Job }) {
  const { me } = useSignedIn()
  const [title, setTitle] = useState('')
  const { trouble, done, run } = useAct()
  if (!me.may.includes('set_drills') || !job.confirmed_cause) return null
  return (
    <details className="mt-4">
      <summary className="touch flex cursor-pointer items-center font-bold">
        <Trans>Make a drill of it</Trans>
      </summary>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          if (title.trim()) run(makeCase(job.id, title.trim()))
        }}
      >
        <Field
          title={t`What the case is called; it should not give the cause away`}
          value={title}
          onChange={setTitle}
          maxLength={120}
        />
        <Button type="submit" kind="outline" className="mt-2" disabled={!title.trim()}>
          <Trans>Set it for the workshop</Trans>
        </Button>
        <Told trouble={trouble} done={done && t`Set. Names, places and days stayed behind.`} />
      </form>
    </details>
  )
}
