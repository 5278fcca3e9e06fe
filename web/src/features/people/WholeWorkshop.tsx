import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { askToLeave, stayAfterAll, useLeaving, WHOLE } from '../../api/whole'
import { dayOf } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Field, PasswordField } from '../../ui/Field'
import { Told, useAct } from '../../ui/useAct'

/** All of the workshop as a file, and its end: asked for by name and password, waited for, taken back until then. */
export function WholeWorkshop() {
  const { me } = useSignedIn()
  const leaving = useLeaving()
  const { trouble, run } = useAct()
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const [years, setYears] = useState<string | null>(null)
  if (!leaving.data || !me.may.includes('keep_the_workshop')) return null
  const { due_at, asked_by, keep_years, waiting_days } = leaving.data
  const kept = years ?? String(keep_years)
  return (
    <section className="card-paper mt-4 p-4" aria-label={t`The whole workshop`}>
      <h2 className="text-xl font-bold">
        <Trans>The whole workshop</Trans>
      </h2>
      <p className="mt-1">
        <Trans>
          Everything in one ZIP of plain files, each with its hash: jobs, machines, records, photos,
          recordings, people without their passwords. It can be brought in elsewhere.
        </Trans>
      </p>
      <a className="btn btn-outline touch mt-2" href={WHOLE} download>
        <Trans>Take it out as a file</Trans>
      </a>
      {due_at ? (
        <div role="alert" className="border-error mt-4 rounded-xl border-2 p-3">
          <p className="text-lg font-bold">
            <Trans>
              {me.workshop} is deleted on {dayOf(due_at.slice(0, 10))}.
            </Trans>
          </p>
          <p>
            <Trans>{asked_by} asked for it. Until then everything works, and it can be taken back.</Trans>
          </p>
          <Button kind="primary" className="mt-2" onClick={() => run(stayAfterAll())}>
            <Trans>Take it back</Trans>
          </Button>
        </div>
      ) : (
        <details className="mt-4">
          <summary className="touch flex cursor-pointer items-center font-bold">
            <Trans>Delete the workshop for good</Trans>
          </summary>
          <form
            className="grid gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              run(
                askToLeave(name, password, Number(kept)).then(() => {
                  setName('')
                  setPassword('')
                }),
              )
            }}
          >
            <p>
              <Trans>
                After {waiting_days} days nothing of it is left here, but the records you have to keep by law;
                every lead gets a receipt by mail. Take it out as a file first.
              </Trans>
            </p>
            <Field title={t`Type ${me.workshop}`} value={name} onChange={setName} maxLength={120} />
            <PasswordField title={t`Your password`} value={password} onChange={setPassword} fresh={false} />
            <div className="w-64">
              <Field
                title={t`Years that records are kept; your local law says how many`}
                value={kept}
                onChange={setYears}
                inputMode="numeric"
              />
            </div>
            <p>
              <Button
                type="submit"
                kind="outline"
                className="border-error text-error"
                disabled={name.trim() !== me.workshop || !password || !/^\d{1,2}$/.test(kept)}
              >
                <Trans>Delete it in {waiting_days} days</Trans>
              </Button>
            </p>
          </form>
        </details>
      )}
      {trouble && <Told trouble={trouble} />}
    </section>
  )
}
