import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { useLint } from '../../api/stock'
import type { Job, Lint } from '../../api/types'
import { foundLint, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Field } from '../../ui/Field'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { lintInWords } from './lint'
import { VaneCounter } from './VaneCounter'

/** How much lint there was, on five drawings or weighed, and what else lay there; at a wheel, which vanes are done. */
export function LintFound({ job, line }: { job: Job; line: string }) {
  const { data } = useLint(job, line)
  const known = job.dealt.lint.filter((row) => row.line === line)
  const [more, setMore] = useState(false)
  if (!data) return null
  return (
    <section aria-label={t`What was found`} className="mt-3">
      {known.map((row) => (
        <p key={row.id} className="flex flex-wrap items-center gap-3">
          <span>
            <b className="text-success">✓</b> {lintInWords(row)}
          </span>
          {row.id && !job.handed_over && (
            <Button kind="ghost" onClick={() => void withdraw(job.id, String(row.id), true)}>
              <Trans>Take it back</Trans>
            </Button>
          )}
        </p>
      ))}
      {known.length === 0 || more ? (
        <Asked key={known.length} job={job} lint={data} onKept={() => setMore(false)} />
      ) : (
        <Button kind="ghost" className="-ml-3" onClick={() => setMore(true)}>
          <Trans>+ Found more</Trans>
        </Button>
      )}
      {data.vanes !== null && <VaneCounter at={`${job.id} ${line}`} vanes={data.vanes} />}
    </section>
  )
}

function Asked({ job, lint, onKept }: { job: Job; lint: Lint; onKept: () => void }) {
  const [grams, setGrams] = useState('')
  const [objects, setObjects] = useState('')
  const { trouble, setTrouble, write } = useWrite()
  const keep = async (grade: number | null) => {
    const weighed = grams.trim() === '' ? null : Number(grams.replace(',', '.'))
    if (Number.isNaN(weighed)) return setTrouble(t`'${grams}' is no number of grams.`)
    const said = { act: lint.act, grade, grams: weighed, objects }
    const { id, outcome } = foundLint(job.id, said)
    if (!(await write(outcome))) return
    canUndo(job.id, { says: t`what was found`, run: () => void withdraw(job.id, id, true) })
    onKept()
  }
  return (
    <div className="border-base-300 rounded-xl border p-3">
      <p className="font-bold">
        <Trans>How much lint was there? The drawing that is most like it:</Trans>
      </p>
      <ul className="mt-1 grid grid-cols-5 gap-2">
        {lint.grades.map((row) => (
          <li key={row.grade}>
            <button
              type="button"
              className="hover:bg-base-200 w-full rounded-xl p-1 text-center"
              aria-label={row.text}
              onClick={() => void keep(row.grade)}
            >
              <Drawing free={row.free} wheel={lint.vanes !== null} />
              <span className="text-soft block text-xs leading-tight">{row.text}</span>
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-2 grid items-end gap-2 sm:grid-cols-2">
        <Field title={t`or weighed, g`} value={grams} onChange={setGrams} inputMode="decimal" maxLength={8} />
        <Field title={t`What else lay there`} value={objects} onChange={setObjects} maxLength={200} />
        <Button
          kind="outline"
          className="justify-self-start"
          disabled={!grams.trim() && !objects.trim()}
          onClick={() => void keep(null)}
        >
          <Trans>Keep</Trans>
        </Button>
      </div>
      <Trouble says={trouble} />
    </div>
  )
}

const LINT = ['M4 0Q1 6 4 12', 'M8 -3Q4 4 9 9', 'M-6 -8Q-2 -3 -7 3', 'M-2 6Q3 9 -3 13'] as const

const VANES = Array.from({ length: 12 }, (_, i) => i * 30)

/** A duct looked into, or a vane from its edge: what is free of it is white. */
function Drawing({ free, wheel }: { free: number; wheel: boolean }) {
  const within = 36 * Math.sqrt(free)
  return (
    <svg viewBox="-44 -44 88 88" className="mx-auto block w-full max-w-20" aria-hidden="true">
      <circle r="40" className="fill-base-content/45 stroke-base-content" strokeWidth="4" />
      {free < 1 &&
        LINT.map((d, i) => (
          <path
            key={d}
            d={d}
            transform={`rotate(${i * 95}) translate(0 -${(38 + within) / 2})`}
            className="stroke-base-100/70 fill-none"
            strokeWidth="1.5"
          />
        ))}
      <circle r={within} className="fill-base-100" />
      {wheel &&
        VANES.map((angle) => (
          <path
            key={angle}
            d="M0 -38Q5 -31 2 -24"
            transform={`rotate(${angle})`}
            className="stroke-base-content fill-none"
            strokeWidth={1.5 + 7 * (1 - free)}
          />
        ))}
    </svg>
  )
}
