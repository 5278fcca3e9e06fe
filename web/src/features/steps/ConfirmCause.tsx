import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useRef, useState } from 'react'
import type { Job } from '../../api/types'
import { chooseCause } from '../../api/writes'
import { useAnswering } from '../../app/answering'
import { textOf, useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'

const CONFIRM = ['confirm_cause'] as const

/** At Close: what was it really? What was found, not what was thought. */
export function ConfirmCause({ job }: { job: Job }) {
  const { me, vocabulary } = useSignedIn()
  const likely = [
    ...new Set([
      job.working_cause?.fault ?? '',
      job.proposed_cause?.fault ?? '',
      ...job.verdict.faults.slice(0, 3).map((fault) => fault.fault),
    ]),
  ]
  const [fault, setFault] = useState(
    job.confirmed_cause?.fault ?? job.proposed_cause?.fault ?? job.working_cause?.fault ?? '',
  )
  const { trouble, write } = useWrite()
  const button = useRef<HTMLButtonElement>(null)
  useAnswering(CONFIRM, () => button.current?.focus())
  const may = me.may.includes('confirm_a_cause')
  const proposed = job.proposed_cause
  const confirm = async () => {
    await write(
      chooseCause(job.id, {
        kind: may ? 'confirmed' : 'proposed',
        fault,
        severity: null,
        heat_unexplained: false,
      }),
    )
  }
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        void confirm()
      }}
    >
      <h2 className="text-xl font-bold">
        <Trans>What was it?</Trans>
      </h2>
      <p className="text-soft">
        <Trans>What you found with your own eyes: it stands on the record.</Trans>
      </p>
      {!may && <p className="mt-1">{me.may_not.confirm_a_cause}</p>}
      {proposed && !job.confirmed_cause && (
        <p className="mt-1">
          <Trans>
            <b>{proposed.by}</b> takes it to have been: <b>{proposed.text}</b>
          </Trans>
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {likely.filter(Boolean).map((code) => (
          <button
            key={code}
            type="button"
            className="chip"
            aria-pressed={fault === code}
            onClick={() => setFault(code)}
          >
            {textOf(vocabulary.faults, code)}
          </button>
        ))}
        <label>
          <span className="sr-only">
            <Trans>Something else</Trans>
          </span>
          <select
            className="field max-w-60"
            value={likely.includes(fault) ? '' : fault}
            onChange={(event) => event.target.value && setFault(event.target.value)}
          >
            <option value="">
              <Trans>something else …</Trans>
            </option>
            {vocabulary.faults.map((entry) => (
              <option key={entry.code} value={entry.code}>
                {entry.text}
              </option>
            ))}
          </select>
        </label>
      </div>
      <Trouble says={trouble} />
      <Button
        ref={button}
        type="submit"
        kind="neutral"
        className="mt-3 h-auto min-h-[54px] text-lg"
        disabled={!fault}
      >
        {may ? t`It was` : t`Propose`}: {textOf(vocabulary.faults, fault).toLowerCase()}
      </Button>
      {job.confirmed_cause && (
        <p className="text-success mt-2 font-bold">
          <Trans>
            ✓ {job.confirmed_cause.text}, said {job.confirmed_cause.by}
          </Trans>
        </p>
      )}
    </form>
  )
}
