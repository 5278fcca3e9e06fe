import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job } from '../../api/types'
import { type Behind, type Makeup, useClearance, useMakeup } from '../../api/vent'
import { useSignedIn } from '../../app/signedIn'
import { Choice, Toggles } from '../../ui/Choice'
import { Field } from '../../ui/Field'
import { asNumber } from '../../ui/numbers'
import { TYPED, useSettled } from '../../ui/useSettled'

/** What is around a machine: how far back it may go, and the air it takes out of its room. */
export function Around({ job, diameter_in }: { job: Job; diameter_in: number }) {
  return (
    <div className="grid gap-4 md:grid-cols-2">
      <BehindIt job={job} diameter_in={diameter_in} />
      <Air job={job} />
    </div>
  )
}

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

function BehindIt({ job, diameter_in }: { job: Job; diameter_in: number }) {
  const { me, vocabulary } = useSignedIn()
  const [joins, setJoins] = useState<Behind['joins']>('semi_rigid')
  const [recess, setRecess] = useState('')
  const [standsOut, setStandsOut] = useState('')
  const small = me.units.way === 'ft' ? 'in' : 'mm'
  const asked = useSettled(JSON.stringify({ joins, diameter_in, recess, stands_out: standsOut }), TYPED)
  const { data, error } = useClearance(job, JSON.parse(asked) as Behind)
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
