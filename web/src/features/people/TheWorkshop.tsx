import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useId, useState } from 'react'
import { keepWorkshop } from '../../api/people'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { Field } from '../../ui/Field'
import { Told, useAct } from '../../ui/useAct'

/** A language as it calls itself. */
const itself = (code: string) => new Intl.DisplayNames([code], { type: 'language' }).of(code) ?? code

/** What the workshop reckons in, counts its days in and speaks. */
export function TheWorkshop() {
  const { me } = useSignedIn()
  const [currency, setCurrency] = useState(me.currency)
  const [zone, setZone] = useState(me.time_zone)
  const [language, setLanguage] = useState(me.language)
  const currencies = useId()
  const zones = useId()
  const { done, trouble, run } = useAct()
  return (
    <form
      className="card-paper grid gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault()
        run(keepWorkshop({ currency: currency.toUpperCase(), time_zone: zone.trim(), language }))
      }}
    >
      <h2 className="text-xl font-bold">{me.workshop}</h2>
      <div className="grid gap-3 sm:grid-cols-2">
        <Field
          title={t`Reckons in: the currency's three letters`}
          value={currency}
          onChange={setCurrency}
          list={currencies}
          pattern="[A-Za-z]{3}"
          maxLength={3}
          required
        />
        <Field
          title={t`Its days begin at midnight in`}
          value={zone}
          onChange={setZone}
          list={zones}
          maxLength={60}
          required
        />
      </div>
      <datalist id={currencies}>
        {Intl.supportedValuesOf('currency').map((code) => (
          <option key={code} value={code} />
        ))}
      </datalist>
      <datalist id={zones}>
        {Intl.supportedValuesOf('timeZone').map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      {me.languages.length > 1 && (
        <Choice
          title={t`Speaks`}
          options={me.languages.map((code) => [code, itself(code)] as const)}
          value={language}
          onChange={setLanguage}
        />
      )}
      <p className="text-soft text-sm">
        <Trans>Units are each person's own, and so is how a date is written: as the device does.</Trans>
      </p>
      <Told trouble={trouble} done={done && t`Kept.`} />
      <Button type="submit" kind="neutral" className="justify-self-start">
        <Trans>Keep</Trans>
      </Button>
    </form>
  )
}
