import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { keepFigures, useFigures } from '../../api/stock'
import type { Figures } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { Field } from '../../ui/Field'
import { Told, useAct } from '../../ui/useAct'

type Sum = Extract<Exclude<keyof Figures, 'taxed' | 'rounds'>, string>

/** What the workshop reckons a job by: said once, by its lead. */
export function Reckoning() {
  const { data } = useFigures()
  if (!data) return null
  const { version, ...figures } = data
  return <Said key={version} figures={figures} version={version} />
}

function Said({ figures, version }: { figures: Figures; version: number }) {
  const { me } = useSignedIn()
  const [said, setSaid] = useState(figures)
  const { done, trouble, run } = useAct()
  const may = me.may.includes('keep_the_workshop')
  const sums: readonly (readonly [Sum, string])[] = [
    ['hour', t`An hour of work`],
    ['call_out', t`Coming to the customer`],
    ['second_trip', t`A second trip, should a part be missing`],
    ['kwh', t`What your customers pay for a kWh`],
    ['delivery', t`A supplier's delivery`],
    ['machine', t`Another machine, in its place`],
    ['assembly', t`The blower's whole assembly, fitted`],
    ['markup_percent', t`On parts, beyond what they cost, %`],
    ['tax_percent', t`Tax, %`],
  ]
  return (
    <form
      className="card-paper grid gap-3 p-4"
      aria-label={t`What a job is reckoned by`}
      onSubmit={(event) => {
        event.preventDefault()
        run(keepFigures(said, version))
      }}
    >
      <h2 className="text-xl font-bold">
        <Trans>What a job is reckoned by, in {me.currency} before tax</Trans>
      </h2>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        {sums.map(([name, title]) => (
          <Field
            key={name}
            title={title}
            value={said[name]}
            inputMode="decimal"
            maxLength={20}
            readOnly={!may}
            onChange={(typed) => setSaid({ ...said, [name]: typed })}
          />
        ))}
      </div>
      <Choice
        title={t`Tax is on`}
        options={
          [
            ['all', t`everything`],
            ['parts', t`parts`],
            ['labour', t`work`],
          ] as const
        }
        value={said.taxed}
        onChange={(taxed) => setSaid({ ...said, taxed })}
      />
      <Choice
        title={t`and is rounded`}
        options={
          [
            ['total', t`once, on the sum`],
            ['line', t`on each line`],
          ] as const
        }
        value={said.rounds}
        onChange={(rounds) => setSaid({ ...said, rounds })}
      />
      <Told trouble={trouble} done={done && t`Kept.`} />
      {may ? (
        <Button type="submit" kind="neutral" className="justify-self-start">
          <Trans>Keep</Trans>
        </Button>
      ) : (
        <p className="text-soft">{me.may_not.keep_the_workshop}</p>
      )}
    </form>
  )
}
