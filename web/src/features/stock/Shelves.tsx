import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { keepStore, putThere, useStores } from '../../api/stock'
import type { Shelf } from '../../api/types'
import { newId } from '../../api/uuid'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Field } from '../../ui/Field'
import { Told, useAct } from '../../ui/useAct'

/** Vans and shelves, and what they hold: what was put there, less what jobs that are handed over used. */
export function Shelves() {
  const { me } = useSignedIn()
  const { data: stores } = useStores()
  const [name, setName] = useState('')
  const { trouble, run } = useAct()
  if (!stores) return null
  return (
    <section className="card-paper p-4" aria-label={t`Vans and shelves`}>
      <h2 className="text-xl font-bold">
        <Trans>Vans and shelves</Trans>
      </h2>
      <p className="text-soft mt-1">
        <Trans>
          What a job used leaves when it is handed over, and is back when the job is opened again.
        </Trans>
      </p>
      <div className="mt-2 grid gap-4 md:grid-cols-2">
        {stores.map((store) => (
          <Store key={store.id} store={store} />
        ))}
      </div>
      {me.may.includes('keep_the_catalogue') && (
        <form
          className="mt-3 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            run(keepStore(newId(), name).then(() => setName('')))
          }}
        >
          <Field title={t`A van or shelf more`} value={name} onChange={setName} maxLength={60} required />
          <Button type="submit" kind="outline">
            <Trans>Add it</Trans>
          </Button>
          <Told trouble={trouble} />
        </form>
      )}
    </section>
  )
}

function Store({ store }: { store: Shelf }) {
  const [number, setNumber] = useState('')
  const [change, setChange] = useState('1')
  const { done, trouble, run } = useAct()
  const rows = Object.entries(store.counts)
  return (
    <section aria-label={store.name}>
      <h3 className="font-bold">{store.name}</h3>
      {rows.length === 0 && (
        <p className="text-soft">
          <Trans>Nothing in it.</Trans>
        </p>
      )}
      <ul>
        {rows.map(([part, count]) => (
          <li key={part} className="border-base-300 flex gap-3 border-b py-1">
            <span className="flex-1">{part}</span>
            <b className={`tabular-nums ${count < 0 ? 'text-error' : ''}`}>{count}</b>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          run(putThere(store.id, number, Number(change)).then(() => setNumber('')))
        }}
      >
        <Field title={t`Number`} value={number} onChange={setNumber} maxLength={60} required />
        <Field
          title={t`How many more`}
          value={change}
          onChange={setChange}
          type="number"
          step={1}
          min={-9999}
          max={9999}
          required
          style={{ width: '7rem' }}
        />
        <Button type="submit" kind="outline">
          <Trans>Put there</Trans>
        </Button>
        <Told trouble={trouble} done={done && t`Counted.`} />
      </form>
    </section>
  )
}
