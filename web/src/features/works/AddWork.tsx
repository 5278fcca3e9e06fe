import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { Suspense, useState } from 'react'
import { useSearchParams } from 'react-router'
import type { Act, Job } from '../../api/types'
import { orderWork, withdraw } from '../../api/writes'
import { useSignedIn } from '../../app/signedIn'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { fetched } from '../../ui/fetched'
import { Never } from '../../ui/Never'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { matching } from './find'
import type { Shape } from './TouchPart'

const TouchPart = fetched(() => import('./TouchPart').then((m) => m.TouchPart))

const MOST_FOUND = 8

/** An order by hand: any act on any part, found by its words. */
export function AddWork({ job }: { job: Job }) {
  const asked = useSearchParams()[0].get('add')
  return <AddingWork key={asked} job={job} asked={asked} />
}

/** asked: words of what somebody looked for, who is led here. */
function AddingWork({ job, asked }: { job: Job; asked: string | null }) {
  const { vocabulary } = useSignedIn()
  const [open, setOpen] = useState(asked !== null)
  const [words, setWords] = useState(asked ?? '')
  const { trouble, write } = useWrite()
  const listed = new Set(
    job.works.lines.filter((line) => line.wanted).map((line) => `${line.part}.${line.act}`),
  )
  const [touched, setTouched] = useState<Shape | null>(null)
  const found = matching(vocabulary.acts, words, vocabulary.trade_words, touched?.parts).filter(
    (act) => !listed.has(`${act.part}.${act.act}`),
  )
  const order = async (act: Act) => {
    const { id, outcome } = orderWork(job.id, { part: act.part, act: act.act, why: '' })
    if (!(await write(outcome))) return
    canUndo(job.id, { says: act.text, run: () => void withdraw(job.id, id, true) })
    setWords('')
    setTouched(null)
    setOpen(false)
  }
  if (!open)
    return (
      <Button kind="ghost" className="-ml-3 mt-1" onClick={() => setOpen(true)}>
        <Trans>+ Add to the list</Trans>
      </Button>
    )
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: Escape leaves what was opened, wherever in it one is
    <div
      className="border-base-300 mt-2 rounded-xl border p-3"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return
        event.stopPropagation()
        setOpen(false)
      }}
    >
      <label className="block">
        <span className="font-bold">
          <Trans>What is to be done?</Trans>
        </span>
        <input
          className="field mt-1"
          autoFocus
          value={words}
          maxLength={80}
          placeholder={t`part or act, such as: clean wheel`}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            // the first that is found is the one that was meant
            if (event.key === 'Enter' && words.trim() && found[0]) void order(found[0])
          }}
        />
      </label>
      <Suspense>
        <TouchPart job={job} touched={touched} onTouch={setTouched} />
      </Suspense>
      <ul aria-label={t`What can be done`}>
        {found.slice(0, touched ? found.length : MOST_FOUND).map((act) => (
          <li key={`${act.part}.${act.act}`}>
            <button
              type="button"
              className="touch hover:bg-base-200 flex w-full items-center gap-2 rounded-lg px-2 text-left"
              onClick={() => void order(act)}
            >
              <span className="flex-1">{act.text}</span>
              <span className="text-soft text-sm">{act.part_text}</span>
            </button>
          </li>
        ))}
      </ul>
      <Never typed={words} />
      {words.trim() && found.length === 0 && (
        <p className="text-soft">
          <Trans>Nothing is called so. Try the part’s name.</Trans>
        </p>
      )}
      <Trouble says={trouble} />
      <Button kind="ghost" className="-ml-3" onClick={() => setOpen(false)}>
        <Trans>Close</Trans>
      </Button>
    </div>
  )
}
