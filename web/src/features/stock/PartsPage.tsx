import { t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { Refused, sentence } from '../../api/client'
import { rowsOf } from '../../api/queries'
import { bringSheet, useItems } from '../../api/stock'
import type { Brought, CatalogueItem } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { useKeys } from '../../app/useKeys'
import { Button } from '../../ui/Button'
import { FileButton } from '../../ui/FileButton'
import { money } from '../../ui/money'
import { Failed, Waiting } from '../../ui/states'
import { TYPED, useSettled } from '../../ui/useSettled'
import { Reckoning } from './Reckoning'
import { Shelves } from './Shelves'

/** What the workshop sells: its catalogue, found by any word; its vans and shelves; what a job is reckoned by. */
export function PartsPage() {
  const { me } = useSignedIn()
  const navigate = useNavigate()
  const [words, setWords] = useState('')
  const items = useItems(useSettled(words, TYPED))
  const rows = rowsOf(items.data)
  useKeys({ Escape: () => void navigate('/jobs') }, me.habits.single_keys)
  useEffect(() => {
    document.title = t`Parts · Warm Draft`
  }, [])
  if (items.isError && !items.data) return <Failed error={items.error} again={() => void items.refetch()} />
  return (
    <>
      <TopBar>
        <h1 className="text-lg font-bold">
          <Trans>Parts</Trans>
        </h1>
      </TopBar>
      <main className="mx-auto grid max-w-[1280px] grid-cols-[minmax(0,1fr)] gap-4 px-3 pt-4 pb-16 sm:px-6">
        <section className="card-paper p-4" aria-label={t`Catalogue`}>
          <label className="block">
            <span className="text-xl font-bold">
              <Trans>Catalogue</Trans>
            </span>
            <input
              className="field mt-1"
              type="search"
              value={words}
              maxLength={200}
              placeholder={t`a number, a part, a machine, a supplier`}
              onChange={(event) => setWords(event.target.value)}
            />
          </label>
          {items.isPending && <Waiting what={t`the catalogue`} />}
          {items.data && rows.length === 0 && (
            <p className="mt-2">
              {words.trim() ? t`Nothing is called so.` : t`Nothing yet: bring in a sheet below.`}
            </p>
          )}
          <ul className="mt-2">
            {rows.map((item) => (
              <Row key={item.number} item={item} currency={me.currency} />
            ))}
          </ul>
          {items.hasNextPage && (
            <Button kind="ghost" onClick={() => void items.fetchNextPage()}>
              <Trans>More</Trans>
            </Button>
          )}
        </section>
        {me.may.includes('keep_the_catalogue') && <BringIn />}
        <Shelves />
        <Reckoning />
      </main>
    </>
  )
}

function Row({ item, currency }: { item: CatalogueItem; currency: string }) {
  const held = Object.entries(item.held).map(([store, count]) => `${store}: ${count}`)
  const more = [
    item.text,
    item.original === true && t`the maker's`,
    item.superseded_by && t`sold now as ${item.superseded_by}`,
    item.fits.length > 0 && t`for ${item.fits.join(', ')}`,
  ]
  return (
    <li className="border-base-300 flex flex-wrap items-baseline gap-x-4 border-b py-1.5 last:border-0">
      <b className="min-w-32">{item.number}</b>
      <span className="min-w-48 flex-1">
        {item.part}
        <span className="text-soft block text-sm">{more.filter(Boolean).join(' · ')}</span>
      </span>
      {held.length > 0 && <span className="text-success font-bold">{held.join(', ')}</span>}
      <span className="text-right tabular-nums">
        {item.offers.map((offer) => (
          <span key={offer.supplier} className="block">
            <span className="text-soft text-sm">{offer.supplier}</span> {money(offer.price, currency)}
          </span>
        ))}
      </span>
    </li>
  )
}

/** A sheet in, whole or not at all; what is damaged is named by line and column. */
function BringIn() {
  const [whole, setWhole] = useState(false)
  const [came, setCame] = useState<Brought | null>(null)
  const [wrong, setWrong] = useState<{ says: string; rows: readonly { path: string; message: string }[] }>()
  const [busy, setBusy] = useState(false)
  const bring = async (file: File) => {
    setBusy(true)
    setCame(null)
    setWrong(undefined)
    try {
      setCame(await bringSheet(file, whole))
    } catch (error) {
      setWrong({ says: sentence(error), rows: error instanceof Refused ? error.problem.fields : [] })
    }
    setBusy(false)
  }
  return (
    <section className="card-paper p-4" aria-label={t`A sheet`}>
      <h2 className="text-xl font-bold">
        <Trans>A sheet in and out</Trans>
      </h2>
      <p className="text-soft mt-1">
        <Trans>
          CSV, a row for each number and supplier; numbers and kinds are needed, the rest may be left out.
          What is damaged is named by line and column, and then nothing is taken.
        </Trans>
      </p>
      <label className="touch mt-2 flex items-center gap-3">
        <input
          type="checkbox"
          className="checkbox"
          checked={whole}
          onChange={(event) => setWhole(event.target.checked)}
        />
        <Trans>It is the whole catalogue: what it lacks goes</Trans>
      </label>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <FileButton
          text={busy ? t`Being read …` : t`Bring in a sheet`}
          name={t`Catalogue sheet`}
          accept=".csv,text/csv"
          kind="neutral"
          disabled={busy}
          onFile={(chosen) => void bring(chosen)}
        />
        <a className="touch inline-flex items-center underline" href="/api/v1/stock/items.csv">
          <Trans>Take the catalogue out as a sheet</Trans>
        </a>
      </div>
      <div aria-live="polite">
        {came && (
          <p className="text-success mt-2 font-bold">
            <Plural value={came.numbers} one="# number read" other="# numbers read" />
            {t`: ${came.new} new, ${came.changed} changed, ${came.removed} gone.`}
          </p>
        )}
        {wrong && (
          <div role="alert" className="border-error mt-2 rounded-xl border-2 p-3">
            <p className="font-bold">{wrong.says}</p>
            <ul>
              {wrong.rows.map((row) => (
                <li key={row.path + row.message}>
                  <b>{row.path}</b>: {row.message}
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
    </section>
  )
}
