import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job } from '../../api/types'
import { type Behind, type Makeup, useClearance, useMakeup } from '../../api/vent'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Choice, Toggles } from '../../ui/Choice'
import { Field } from '../../ui/Field'
import { asNumber } from '../../ui/numbers'
import { TYPED, useSettled } from '../../ui/useSettled'
import type { Plan } from './plan'
import type { Quantity } from './run'

type Props = {
  job: Job
  diameter_in: number
  /** What was said of it, kept with the plan. */
  behind: Plan['behind']
  onBehind: (behind: NonNullable<Plan['behind']>) => void
}

/** What is around a machine: how far back it may go, and the air it takes out of its room. */
export function Around({ job, diameter_in, behind, onBehind }: Props) {
  return (
    <div className="grid gap-4 md:grid-cols-2">
      <BehindIt job={job} diameter_in={diameter_in} behind={behind} onBehind={onBehind} />
      <Air job={job} />
    </div>
  )
}

/** As it was typed, in the unit it was typed in. */
const typed = (said: Quantity | undefined): string => (said ? `${said.value} ${said.unit}` : '')

function Told({ text, alarm = false }: { text: readonly string[]; alarm?: boolean }) {
  return (
    <ul className="mt-2 grid gap-1" aria-live="polite">
      {text.map((row, i) => (
        <li
          key={row}
          className={i === 0 ? 'text-lg font-bold' : alarm && i === 2 ? 'text-error font-bold' : ''}
        >
          {row}
        </li>
      ))}
    </ul>
  )
}

function BehindIt({ job, diameter_in, behind, onBehind }: Props) {
  const { me, vocabulary } = useSignedIn()
  const [joins, setJoins] = useState((behind?.joins ?? 'semi_rigid') as Behind['joins'])
  const [recess, setRecess] = useState(typed(behind?.recess))
  const [standsOut, setStandsOut] = useState(typed(behind?.stands_out))
  const small = me.units.way === 'ft' ? 'in' : 'mm'
  const asked = useSettled(JSON.stringify({ joins, diameter_in, recess, stands_out: standsOut }), TYPED)
  const { data, error } = useClearance(job, JSON.parse(asked) as Behind)
  const depth = (text: string) => {
    const [, number = '', unit = small] = /^\s*([\d.,]+)\s*(in|ft|mm|cm|m)?\s*$/.exec(text) ?? []
    return number && asNumber(number) > 0 ? { value: asNumber(number), unit } : undefined
  }
  const keep = () =>
    onBehind({
      joins,
      ...(depth(recess) && { recess: depth(recess) }),
      ...(depth(standsOut) && { stands_out: depth(standsOut) }),
    })
  return (
    <section aria-label={t`Behind the machine`}>
      <h3 className="text-lg font-bold">
        <Trans>How far back it may go</Trans>
      </h3>
      <Choice
        title={t`Collar and wall`}
        options={vocabulary.joins.map((row) => [row.code as Behind['joins'], row.text] as const)}
        value={joins}
        onChange={setJoins}
      />
      <div className="mt-2 grid grid-cols-2 gap-3">
        <Field
          title={t`Pipes and hoses stand out, ${small}`}
          value={standsOut}
          onChange={setStandsOut}
          maxLength={30}
          inputMode="decimal"
        />
        <Field
          title={t`Wall port set in, ${small}`}
          value={recess}
          onChange={setRecess}
          maxLength={30}
          inputMode="decimal"
        />
      </div>
      {error ? <p role="alert">{error.message}</p> : data && <Told text={data.text} />}
      <Button kind="outline" className="mt-2" onClick={keep}>
        <Trans>Keep it for when the machine goes back</Trans>
      </Button>
      {behind && (
        <p className="text-soft mt-1 text-sm">
          <Trans>Kept: it stands at the step where the machine goes back.</Trans>
        </p>
      )}
    </section>
  )
}

function Air({ job }: { job: Job }) {
  const { me } = useSignedIn()
  const [free, setFree] = useState('')
  const [others, setOthers] = useState('')
  const [is, setIs] = useState<string[]>([])
  const square = me.units.way === 'ft' ? 'in²' : 'cm²'
  const number = asNumber(free)
  const asked = useSettled(
    JSON.stringify(
      free.trim() && number > 0
        ? { opening_free: number, others, grille: is.includes('grille'), closet: is.includes('closet') }
        : null,
    ),
    TYPED,
  )
  const { data, error } = useMakeup(job, JSON.parse(asked) as Makeup | null)
  return (
    <section aria-label={t`Air for the room`}>
      <h3 className="text-lg font-bold">
        <Trans>Air for the room</Trans>
      </h3>
      <div className="mt-2 grid grid-cols-2 gap-3">
        <Field
          title={t`Opening to outdoors or the next room, ${square}`}
          value={free}
          onChange={setFree}
          maxLength={12}
          inputMode="decimal"
        />
        <Field
          title={t`Other fans take, ${me.units.flow ?? ''}`}
          value={others}
          onChange={setOthers}
          maxLength={30}
          inputMode="decimal"
        />
      </div>
      <div className="mt-2">
        <Toggles
          title={t`It is`}
          options={[
            { code: 'grille', text: t`a grille, measured over its face` },
            { code: 'closet', text: t`a closet` },
          ]}
          values={is}
          onChange={setIs}
        />
      </div>
      {error ? (
        <p role="alert">{error.message}</p>
      ) : (
        data && asked !== 'null' && <Told text={data.text} alarm={data.spills} />
      )}
    </section>
  )
}
