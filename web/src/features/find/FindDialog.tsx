import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { rowsOf, useJobs } from '../../api/queries'
import type { Job } from '../../api/types'
import { finder } from '../../app/find'
import { useSignedIn } from '../../app/signedIn'
import { Dialog } from '../../ui/Dialog'
import { Never } from '../../ui/Never'
import { TYPED, useSettled } from '../../ui/useSettled'
import { placeOfCheck, stepsOf } from '../jobs/useNext'

/** So many of each sort are shown, and a search for jobs begins once nobody has typed for so long, ms. */
const MOST = 5

type Found = { key: string; text: string; beside: string; to: string }

/** One field that finds a check, a step, a part or another job, by whatever the trade calls it. */
export function FindDialog({ job, onClose }: { job: Job; onClose: () => void }) {
  const navigate = useNavigate()
  const [typed, setTyped] = useState('')
  const words = useSettled(typed.trim(), TYPED)
  const jobs = useJobs('any', words, words !== '')
  const here = useFound(job, typed)
  const elsewhere = words === '' || typed.trim() === '' ? [] : rowsOf(jobs.data).slice(0, MOST)
  const found: Found[] = [
    ...here,
    ...elsewhere.map((row) => ({
      key: row.id,
      text: [row.place, row.machine].filter(Boolean).join(', '),
      beside: t`job`,
      to: `/jobs/${row.id}`,
    })),
  ]
  const go = (to: string) => {
    onClose()
    void navigate(to)
  }
  return (
    <Dialog title={t`Find`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          if (found[0]) go(found[0].to)
        }}
      >
        <input
          type="search"
          className="field"
          data-first
          aria-label={t`A check, a step, a part, a job`}
          placeholder={t`stat, fan, vanes, filter, a place …`}
          value={typed}
          maxLength={200}
          onChange={(event) => setTyped(event.target.value)}
        />
      </form>
      <ul className="mt-2 max-h-[60vh] overflow-y-auto" aria-label={t`Found`}>
        {found.map((row) => (
          <li key={row.key}>
            <button
              type="button"
              className="touch hover:bg-base-200 flex w-full items-center gap-3 rounded-lg px-2 py-1 text-left"
              onClick={() => go(row.to)}
            >
              <span className="flex-1 leading-tight">{row.text}</span>
              <span className="text-soft text-sm">{row.beside}</span>
            </button>
          </li>
        ))}
      </ul>
      <Never typed={typed} />
      {typed.trim() !== '' && found.length === 0 && !jobs.isFetching && (
        <p className="mt-2">
          <Trans>Nothing here is called so.</Trans>
        </p>
      )}
    </Dialog>
  )
}

/** What of this job is meant by what was typed. */
function useFound(job: Job, typed: string): Found[] {
  const { vocabulary } = useSignedIn()
  if (!typed.trim()) return []
  const meant = finder(typed, vocabulary.trade_words)
  const base = `/jobs/${job.id}`
  const checks = vocabulary.checks
    .filter((check) => meant(`${check.do} ${check.instrument}`))
    .map((check) => ({
      key: `check ${check.check}`,
      text: check.do,
      beside: t`check`,
      to: placeOfCheck(job, check.check),
    }))
  const steps = vocabulary.stages.flatMap((stage) =>
    stepsOf(job, stage.code)
      .filter((step) => meant(step.does))
      .map((step) => ({ key: step.id, text: step.does, beside: stage.text, to: `${base}/${stage.code}` })),
  )
  const parts = vocabulary.acts
    .filter((act) => meant(`${act.text} ${act.part_text}`))
    .map((act) => ({
      key: `act ${act.part}.${act.act}`,
      text: act.text,
      beside: t`list of works`,
      to: `${base}/cause?add=${encodeURIComponent(act.text)}`,
    }))
  return [checks, steps, parts].flatMap((rows) => rows.slice(0, MOST))
}
