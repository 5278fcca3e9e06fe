import { plural, t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { ItemChoice, Job, Needed } from '../../api/types'
import { readOldPart, sayPart, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { Field } from '../../ui/Field'
import { money } from '../../ui/money'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'

type State = 'packed' | 'used'
type Said = State | 'left' | 'ordered'

/** Which thing of the catalogue stands in for a part: the old one's marks, what is like it, why another is not. */
export function PartChoice({
  job,
  needed,
  currency,
  into,
}: {
  job: Job
  needed: Needed
  currency: string
  into: State
}) {
  const { trouble, write } = useWrite()
  const [reading, setReading] = useState(false)
  const [all, setAll] = useState(false)
  // packed is what we pick; what is fitted is held beside all there are
  const shown = all || into === 'used' ? needed.items : needed.items.slice(0, 1)
  const say = async (state: Said, item: ItemChoice | null, store = '') => {
    const part = { part: needed.part, count: 1 }
    const outcome = sayPart(job.id, {
      ...part,
      state,
      number: item?.number ?? needed.number,
      price: item?.price ?? null,
      store,
    })
    if (!(await write(outcome))) return
    canUndo(job.id, {
      says: needed.text,
      run: () =>
        void sayPart(job.id, {
          ...part,
          state: needed.state ?? 'left',
          number: item?.number ?? needed.number,
          price: item?.price ?? null,
          store: needed.store,
        }),
    })
  }
  const taken = needed.state === 'used' || (needed.state === 'packed' && into === 'packed')
  const ordered = needed.state === 'ordered'
  return (
    <div className="border-base-300 mt-2 rounded-xl border p-3" role="group" aria-label={needed.text}>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className="text-lg">{needed.text}</b>
        <span className="text-soft text-sm">{needed.why}</span>
      </p>
      {needed.pair && <p className="text-sm">{needed.pair}</p>}
      {taken ? (
        <p className="mt-1 flex flex-wrap items-center gap-3">
          <b className="text-success">
            {needed.state === 'used'
              ? t`✓ fitted: ${needed.number || needed.text}`
              : t`✓ packed: ${needed.number || needed.text}`}
          </b>
          <Button kind="ghost" onClick={() => void say('left', null)}>
            <Trans>Not this one</Trans>
          </Button>
        </p>
      ) : (
        <>
          {ordered && (
            <p className="mt-1 flex flex-wrap items-center gap-3">
              <b className="text-warning">
                <Trans>On its way: {needed.number || needed.text}</Trans>
              </b>
              <Button kind="ghost" onClick={() => void say('left', null)}>
                <Trans>Not ordered after all</Trans>
              </Button>
            </p>
          )}
          <OldMarks job={job} needed={needed} open={reading} onOpen={setReading} />
          <ul className="mt-1">
            {shown.map((item) => (
              <ItemLine key={item.number} item={item} currency={currency}>
                <Takes item={item} into={into} onTake={(store) => void say(into, item, store)} />
                {into === 'packed' && item.held.length === 0 && item.verdict !== 'refused' && !ordered && (
                  <Button kind="ghost" onClick={() => void say('ordered', item)}>
                    <Trans>
                      Ordered<span className="sr-only">: {item.number}</span>
                    </Trans>
                  </Button>
                )}
              </ItemLine>
            ))}
          </ul>
          <div className="flex flex-wrap items-center gap-x-3">
            {needed.items.length === 0 && (
              <span className="text-soft">
                <Trans>None in the catalogue.</Trans>
              </span>
            )}
            {needed.items.length > shown.length && (
              <Button kind="ghost" className="-ml-3" onClick={() => setAll(true)}>
                <Plural
                  value={needed.items.length - shown.length}
                  one="# other in the catalogue"
                  other="# others in the catalogue"
                />
              </Button>
            )}
            {(all || needed.items.length === 0) && (
              <Button kind="ghost" className="-ml-3" onClick={() => void say(into, null)}>
                {into === 'used' ? t`Fitted one without a number` : t`Packed one without a number`}
              </Button>
            )}
          </div>
        </>
      )}
      <Trouble says={trouble} />
    </div>
  )
}

/** From where it is taken: each van or shelf that holds one, or as bought. */
function Takes({ item, into, onTake }: { item: ItemChoice; into: State; onTake: (store: string) => void }) {
  if (item.verdict === 'refused') return null
  const kind = item.pick ? 'neutral' : 'outline'
  const text = into === 'used' ? t`Fitted` : t`Pack it`
  return item.held.length > 0 ? (
    item.held.map(({ store, count }) => (
      <Button key={store} kind={kind} onClick={() => onTake(store)}>
        <Trans>
          {text}, from {store} ({count})
        </Trans>
        <span className="sr-only">: {item.number}</span>
      </Button>
    ))
  ) : (
    <Button kind={kind} onClick={() => onTake('')}>
      {text}
      <span className="sr-only">: {item.number}</span>
    </Button>
  )
}

/** A thing of the catalogue, and whether it is like the old one. */
function ItemLine({
  item,
  currency,
  children,
}: {
  item: ItemChoice
  currency: string
  children: React.ReactNode
}) {
  const more = [
    item.text,
    item.origin,
    item.contains.length > 0 && t`with ${item.contains.join(', ')}`,
    item.supplier && t`from ${item.supplier}`,
    item.days !== null && plural(item.days, { one: '# day', other: '# days' }),
  ]
  return (
    <li className="border-base-300 flex flex-wrap items-center gap-x-4 gap-y-1 border-b py-2 last:border-0">
      <span className={`min-w-48 flex-1 ${item.verdict === 'refused' ? 'text-soft' : ''}`}>
        <b>{item.number}</b>{' '}
        {item.verdict === 'fits' && item.pick && (
          <span className="badge badge-success">
            <Trans>our pick</Trans>
          </span>
        )}
        {item.verdict === 'refused' && (
          <span className="badge badge-error">
            <Trans>not this one</Trans>
          </span>
        )}
        <span className="text-soft block text-sm">{more.filter(Boolean).join(' · ')}</span>
        {item.reasons.map((reason) => (
          <span key={reason} className="block text-sm">
            {reason}
          </span>
        ))}
      </span>
      {item.price !== null && <span className="tabular-nums">{money(item.price, currency)}</span>}
      <span className="flex flex-wrap gap-2">{children}</span>
    </li>
  )
}

/** What is printed on the old part: read off it by whoever holds it. */
function OldMarks({
  job,
  needed,
  open,
  onOpen,
}: {
  job: Job
  needed: Needed
  open: boolean
  onOpen: (open: boolean) => void
}) {
  if (needed.asks.length === 0) return null
  if (open) return <ReadMarks job={job} needed={needed} onDone={() => onOpen(false)} />
  const known = needed.asks.flatMap(({ name, text }) =>
    needed.old?.marks[name] ? [`${text}: ${needed.old.marks[name]}`] : [],
  )
  return (
    <p className="mt-1 flex flex-wrap items-center gap-x-3">
      <span>
        {known.length > 0 ? (
          <Trans>On the old one: {known.join(' · ')}.</Trans>
        ) : (
          <Trans>Nothing is read off the old one yet.</Trans>
        )}
      </span>
      <Button kind={known.length > 0 ? 'ghost' : 'neutral'} onClick={() => onOpen(true)}>
        {known.length > 0 ? t`Read again` : t`Read it off`}
      </Button>
    </p>
  )
}

function ReadMarks({ job, needed, onDone }: { job: Job; needed: Needed; onDone: () => void }) {
  const [said, setSaid] = useState<Record<string, string>>({})
  const { trouble, write } = useWrite()
  const keep = async () => {
    const marks = Object.fromEntries(Object.entries(said).filter(([, typed]) => typed.trim()))
    const { id, outcome } = readOldPart(job.id, { kind: needed.part, marks })
    if (!(await write(outcome))) return
    canUndo(job.id, { says: needed.text, run: () => void withdraw(job.id, id, true) })
    onDone()
  }
  return (
    <form
      aria-label={t`On the old one`}
      className="bg-[var(--wash)] mt-2 grid gap-3 rounded-xl p-3 sm:grid-cols-2"
      onSubmit={(event) => {
        event.preventDefault()
        void keep()
      }}
    >
      {needed.asks.map(({ name, text, such_as, choices }) =>
        Object.keys(choices).length > 0 ? (
          <div key={name} className="sm:col-span-2">
            <Choice
              title={text}
              options={Object.entries(choices)}
              value={said[name] ?? ''}
              onChange={(code) => setSaid({ ...said, [name]: code })}
            />
          </div>
        ) : (
          <Field
            key={name}
            title={text}
            value={said[name] ?? ''}
            placeholder={such_as}
            maxLength={60}
            onChange={(typed) => setSaid({ ...said, [name]: typed })}
          />
        ),
      )}
      <div className="flex flex-wrap items-center gap-2 sm:col-span-2">
        <Button type="submit" kind="neutral" disabled={!Object.values(said).some((typed) => typed.trim())}>
          <Trans>That is printed on it</Trans>
        </Button>
        <Button kind="ghost" onClick={onDone}>
          <Trans>Close</Trans>
        </Button>
        <Trouble says={trouble} />
      </div>
    </form>
  )
}
