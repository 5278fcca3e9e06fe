import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Circumstance, Job, Told } from '../../api/types'
import { changeJob } from '../../api/writes'
import { finder } from '../../app/find'
import { textOf, useSignedIn } from '../../app/signedIn'
import { Toggles } from '../../ui/Choice'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { LastHere } from './LastHere'
import { MachineAndPlace } from './MachineAndPlace'

export function ComplaintPanel({ job }: { job: Job }) {
  const { vocabulary } = useSignedIn()
  const [said, setSaid] = useState(job.said)
  const { trouble, write } = useWrite()
  const [find, setFind] = useState('')
  const matches = finder(find, vocabulary.trade_words)
  const found = <T extends { code: string; text: string }>(options: T[], chosen: string[]) =>
    options.filter(({ code, text }) => chosen.includes(code) || matches(text))
  const save = async (change: Partial<Pick<Job, 'complaints' | 'circumstances' | 'said' | 'told'>>) => {
    await write(changeJob(job, change))
  }
  return (
    <div className="grid gap-5">
      <h2 className="text-xl font-bold">
        <Trans>What brings us here?</Trans>
      </h2>
      <LastHere job={job} />
      {job.stop && (
        <p role="alert" className="border-error text-error rounded-xl border-2 p-3 font-bold">
          {job.stop}
        </p>
      )}
      <label className="block max-w-sm">
        <span className="text-sm font-bold">
          <Trans>Find</Trans>
        </span>
        <input
          className="field mt-1"
          type="search"
          placeholder={t`any word for it: fan, stat, filter …`}
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
      </label>
      <Toggles
        title={t`It …`}
        options={found(vocabulary.complaints, job.complaints)}
        values={job.complaints}
        onChange={(complaints) =>
          void save({
            complaints,
            told: Object.fromEntries(Object.entries(job.told).filter(([code]) => complaints.includes(code))),
          })
        }
      />
      {job.complaints.map((code) => (
        <ToldOf
          key={code}
          title={textOf(vocabulary.complaints, code)}
          told={job.told[code] ?? { since: '', how_often: '', what: '' }}
          onChange={(told) => void save({ told: { ...job.told, [code]: told } })}
        />
      ))}
      <Toggles
        title={t`Known of it`}
        options={found(vocabulary.circumstances, job.circumstances)}
        values={job.circumstances}
        onChange={(circumstances) => void save({ circumstances })}
      />
      <Moves
        circumstances={vocabulary.circumstances.filter(({ code }) => job.circumstances.includes(code))}
      />
      <label className="block">
        <span className="font-bold">
          <Trans>In the customer's words</Trans>
        </span>
        <textarea
          className="field mt-1 min-h-24 py-2"
          value={said}
          maxLength={4000}
          onChange={(event) => setSaid(event.target.value)}
          onBlur={() => said !== job.said && void save({ said })}
        />
      </label>
      <Trouble says={trouble} />
      {!job.handed_over && <MachineAndPlace job={job} />}
    </div>
  )
}

/** Since when, how often, what it does: kept when the field is left. */
function ToldOf({ title, told, onChange }: { title: string; told: Told; onChange: (told: Told) => void }) {
  const [draft, setDraft] = useState(told)
  const leave = () => {
    if (JSON.stringify(draft) !== JSON.stringify(told)) onChange(draft)
  }
  const field = (key: keyof Told, label: string, hint: string) => (
    <label>
      <span className="text-soft text-sm">{label}</span>
      <input
        className="field"
        value={draft[key]}
        maxLength={120}
        placeholder={hint}
        aria-label={`${title}: ${label}`}
        onChange={(event) => setDraft({ ...draft, [key]: event.target.value })}
        onBlur={leave}
      />
    </label>
  )
  return (
    <details className="-my-3" open={Boolean(told.since || told.how_often || told.what)}>
      <summary className="touch flex cursor-pointer items-center">
        <b>{title}</b>
        <span className="text-soft">
          <Trans>: since when, how often?</Trans>
        </span>
      </summary>
      <div className="grid gap-2 sm:grid-cols-3">
        {field('since', t`since`, t`autumn`)}
        {field('how_often', t`how often`, t`every load`)}
        {field('what', t`what it does`, t`stops, hums, clicks`)}
      </div>
    </details>
  )
}

/** What a circumstance makes likelier, and where that is from: one press away. */
function Moves({ circumstances }: { circumstances: Circumstance[] }) {
  if (circumstances.length === 0) return null
  return (
    <details className="-my-3">
      <summary className="touch flex cursor-pointer items-center font-bold">
        <Trans>What that makes likelier</Trans>
      </summary>
      <ul className="grid gap-1">
        {circumstances.map(({ code, text, moves, source }) => (
          <li key={code}>
            <b>{text}</b>: {moves.join(', ')}. <span className="text-soft">{source}.</span>
          </li>
        ))}
      </ul>
    </details>
  )
}
