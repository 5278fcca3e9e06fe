import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { type Day, type DayVan, keepVan, removeVan, setBase, takeTable } from '../../api/day'
import { usePeople } from '../../api/people'
import { useStores } from '../../api/stock'
import { Button } from '../../ui/Button'
import { Field } from '../../ui/Field'
import { FileButton } from '../../ui/FileButton'
import { Told, useAct } from '../../ui/useAct'
import { ChoiceField } from './ChoiceField'
import { degreesIn, degreesOf, minuteOf } from './clock'

/** What a plan stands on: where vans start, which there are, and how far it is. */
export function GroundCard({ day }: { day: Day }) {
  const [rows, setRows] = useState(0)
  const [bare] = useState(!day.base || day.vans.length === 0) // nothing folds up while one is at it
  const { trouble, done, run } = useAct()
  const table = async (file: File) => setRows(await takeTable(await file.text()))
  return (
    <details className="card-paper p-4" open={bare}>
      <summary className="touch flex cursor-pointer items-center text-xl font-bold">
        <Trans>Vans, and where they start</Trans>
      </summary>
      <BaseForm day={day} />
      <ul className="mt-3 grid gap-3">
        {day.vans.map((van) => (
          <li key={van.id}>
            <VanForm van={van} />
          </li>
        ))}
      </ul>
      <details className="mt-2" open={bare}>
        <summary className="touch flex cursor-pointer items-center font-bold">
          <Trans>One more van</Trans>
        </summary>
        <VanForm key={day.vans.length} van={null} />
      </details>
      <h3 className="mt-3 font-bold">
        <Trans>How far it is</Trans>
      </h3>
      <p>
        <Trans>
          By the straight line and what roads add to it, unless a table says otherwise: a CSV with the columns
          from, to, minutes; or place, latitude, longitude. Places by their names, and base.
        </Trans>
      </p>
      <p className="mt-2">
        <FileButton
          text={t`A table from a file`}
          name={t`Table of places or ways`}
          accept=".csv,text/csv"
          onFile={(file) => run(table(file))}
        />
      </p>
      <Told trouble={trouble} done={done && t`${rows} rows taken; the next plan goes by them.`} />
    </details>
  )
}

function BaseForm({ day }: { day: Day }) {
  const { base } = day
  const [name, setName] = useState(base?.name ?? '')
  const [typed, setTyped] = useState(degreesIn(base))
  const { trouble, done, run } = useAct()
  const at = degreesOf(typed)
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        run(setBase(name.trim(), at ?? null))
      }}
    >
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <div className="min-w-40 flex-1">
          <Field title={t`vans start at`} value={name} onChange={setName} maxLength={80} />
        </div>
        <div className="min-w-40 flex-1">
          <Field
            title={t`latitude, longitude`}
            value={typed}
            onChange={setTyped}
            placeholder="54.41, -3.01"
            maxLength={80}
          />
        </div>
        <Button type="submit" kind="outline" disabled={!name.trim() || (typed.trim() !== '' && !at)}>
          <Trans>Keep</Trans>
        </Button>
      </div>
      <Told trouble={trouble} done={done && t`Kept.`} />
    </form>
  )
}

function VanForm({ van }: { van: DayVan | null }) {
  const people = usePeople()
  const stores = useStores()
  const [name, setName] = useState(van?.name ?? '')
  const [driver, setDriver] = useState(van?.driver ?? '')
  const [store, setStore] = useState(van?.store ?? '')
  const [early, setEarly] = useState(van?.early ?? '08:00')
  const [late, setLate] = useState(van?.late ?? '17:00')
  const { trouble, done, run } = useAct()
  const [from, to] = [minuteOf(early), minuteOf(late)]
  return (
    <form
      aria-label={van?.name ?? t`One more van`}
      onSubmit={(event) => {
        event.preventDefault()
        if (from === undefined || to === undefined) return
        const said = {
          name: name.trim(),
          driver: driver || null,
          store: store || null,
          early: from,
          late: to,
        }
        run(keepVan(van?.id ?? null, { ...said, overtime: van?.overtime ?? 60 }))
      }}
    >
      <div className="flex flex-wrap items-end gap-2">
        <div className="min-w-28 flex-1">
          <Field title={t`van`} value={name} onChange={setName} maxLength={80} />
        </div>
        <div className="min-w-36 flex-1">
          <ChoiceField
            title={t`who drives`}
            none={t`nobody yet`}
            value={driver}
            among={people.data?.people ?? []}
            onChange={setDriver}
          />
        </div>
        <div className="min-w-28 flex-1">
          <ChoiceField
            title={t`parts in`}
            none={t`no store`}
            value={store}
            among={stores.data ?? []}
            onChange={setStore}
          />
        </div>
        <div className="w-24">
          <Field title={t`from`} value={early} onChange={setEarly} maxLength={80} />
        </div>
        <div className="w-24">
          <Field title={t`to`} value={late} onChange={setLate} maxLength={80} />
        </div>
        <Button
          type="submit"
          kind="outline"
          disabled={!name.trim() || from === undefined || to === undefined}
        >
          {van ? t`Keep` : t`Add`}
        </Button>
        {van && (
          <Button kind="ghost" aria-label={t`Take away: ${van.name}`} onClick={() => run(removeVan(van.id))}>
            <Trans>Take away</Trans>
          </Button>
        )}
      </div>
      {(trouble || done) && <Told trouble={trouble} done={done && t`Kept.`} />}
    </form>
  )
}
