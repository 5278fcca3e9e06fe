import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { useWaiting } from '../../api/queries'
import type { Job } from '../../api/types'
import { markStep, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { useWide } from '../../ui/useWide'
import { currentStep } from '../jobs/useNext'
import { AddOperation } from './AddOperation'
import { BenchStep } from './BenchStep'
import { minutes, screwsOut } from './bench'
import { Cutaway } from './Cutaway'
import { GatePanel } from './GatePanel'
import { Surprise } from './Surprise'
import { Tray } from './Tray'
import { useAwake } from './useAwake'
import { planWords, WaysPanel } from './WaysPanel'

/** Opening and closing, one operation at a time: the one thing to do large, its screws counted, the rest a quiet list. */
export function BenchPanel({
  job,
  stage,
  asked,
  onAsk,
  trayOpen,
  onTray,
}: {
  job: Job
  stage: 'open' | 'close'
  asked: boolean
  onAsk: () => void
  trayOpen: boolean
  onTray: (open: boolean) => void
}) {
  const closing = stage === 'close'
  const steps = closing ? job.close : job.open
  const current = currentStep(job, steps)
  // what was picked to look at gives way to what comes next
  const [picked, setPicked] = useState<{ at: string | undefined; id: string } | null>(null)
  const [drawing, setDrawing] = useState(false)
  const [inserting, setInserting] = useState(false)
  const wide = useWide()
  const waiting = useWaiting(job.id)
  const step = (picked?.at === current?.id && steps.find((row) => row.id === picked?.id)) || current
  const marks = new Map(job.marks.map((mark) => [mark.step, mark]))
  const settled = new Set(job.settled)
  const out = screwsOut(job.bench?.compartments ?? [])
  const off = new Set(job.marks.filter((mark) => mark.state === 'done').map((mark) => mark.step))
  const lastOff = job.open.filter((row) => off.has(row.id)).at(-1)?.operation ?? null
  // by hand nobody knows how far it is: it is open once all that is wanted is within reach
  const farEnough = !job.by_hand || job.works.unreached.length === 0
  useAwake(current !== undefined)
  if (!job.bench) return null
  const undone = (id: string) => void markStep(job.id, { step: id, state: 'undone', why: '' })
  return (
    <div>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-xl font-bold">{closing ? t`Close` : t`Open`}</h2>
        <p className="text-soft text-sm">
          <Trans>
            {steps.filter((row) => settled.has(row.id)).length} of {steps.length}
            {!closing && ` · ${planWords(job)}`}
          </Trans>
        </p>
      </div>
      {!wide && (
        <div className="mt-2 flex gap-2">
          <Button kind="outline" className="flex-1" onClick={() => onTray(true)}>
            <Trans>Tray · {out === 0 ? t`empty` : t`${out} out`}</Trans>
          </Button>
          {job.bench.drawing && (
            <Button
              kind="outline"
              className="flex-1"
              aria-expanded={drawing}
              onClick={() => setDrawing(!drawing)}
            >
              <Trans>Cut-away</Trans>
            </Button>
          )}
        </div>
      )}
      {!wide && drawing && (
        <div className="mt-2">
          <Cutaway job={job} step={step} />
        </div>
      )}
      {job.bench.no_way && (
        <p role="status" className="text-primary mt-2 font-bold">
          <Trans>No way round that: {job.bench.no_way}</Trans>
        </p>
      )}
      {step ? (
        <BenchStep
          key={step.id}
          job={job}
          step={step}
          number={steps.indexOf(step) + 1}
          closing={closing}
          current={step === current}
          settled={settled.has(step.id)}
          asked={asked}
          onAsk={onAsk}
        />
      ) : (
        <p
          className={`mt-3 text-lg font-bold ${(closing ? job.bench.gate.clear : farEnough) ? 'text-success' : 'text-soft'}`}
        >
          {closing
            ? t`All of it is marked as back.`
            : farEnough
              ? t`✓ It is open.`
              : t`Not far enough in yet.`}
        </p>
      )}
      {closing && !current && (
        <div className="mt-4">
          <GatePanel job={job} older={waiting.length > 0} />
        </div>
      )}
      <ol className="border-base-300 mt-4 border-t">
        {steps.map((row, i) => {
          const mark = marks.get(row.id)
          const took = job.bench?.taken[row.id]
          return (
            <li key={row.id} className="border-base-300 flex min-h-11 items-center gap-3 border-b py-1">
              <span
                aria-hidden="true"
                className={`w-5 text-center font-bold ${settled.has(row.id) ? 'text-success' : 'text-soft'}`}
              >
                {settled.has(row.id)
                  ? mark?.state === 'not_possible'
                    ? '✕'
                    : '✓'
                  : row === current
                    ? '▸'
                    : '·'}
              </span>
              <button
                type="button"
                className={`touch flex-1 text-left ${mark ? 'text-soft' : ''} ${row === step ? 'font-bold' : ''}`}
                aria-current={row === step ? 'step' : undefined}
                onClick={() => setPicked({ at: current?.id, id: row.id })}
              >
                {i + 1}. {row.does}
                {mark?.state === 'not_possible' && (
                  <span className="block text-sm">
                    <Trans>can't be done here: {mark.why}</Trans>
                  </span>
                )}
                <span className="sr-only">{mark ? t`, settled` : ''}</span>
              </button>
              <span className="text-soft text-sm whitespace-nowrap">
                {took !== undefined ? (
                  <>
                    {minutes(took)}{' '}
                    <span className="sr-only">
                      <Trans>taken</Trans>
                    </span>{' '}
                    <span className="hidden sm:inline">
                      <Trans>of {minutes(row.minutes)}</Trans>
                    </span>
                  </>
                ) : (
                  minutes(row.minutes)
                )}
              </span>
              {mark && (
                <Button
                  kind="ghost"
                  className="px-2"
                  aria-label={t`Undo: ${row.does}`}
                  onClick={() => undone(row.id)}
                >
                  <Trans>Undo</Trans>
                </Button>
              )}
            </li>
          )
        })}
      </ol>
      <div className="mt-2 flex flex-wrap gap-2">
        {!closing && <Surprise job={job} />}
        {!closing && !job.by_hand && (
          <Button kind="ghost" aria-expanded={inserting} onClick={() => setInserting(!inserting)}>
            <Trans>Put a step in</Trans>
          </Button>
        )}
        {steps.some((row) => marks.has(row.id)) && (
          <Button
            kind="ghost"
            onClick={() => {
              const done = steps.filter((row) => marks.has(row.id))
              const impossible = new Set(done.filter((row) => marks.get(row.id)?.state === 'not_possible'))
              for (const row of [...done].reverse()) undone(row.id)
              canUndo(job.id, {
                says: t`all of ${stage}`,
                run: () => {
                  for (const row of done)
                    void markStep(job.id, {
                      step: row.id,
                      state: impossible.has(row) ? 'not_possible' : 'done',
                      why: marks.get(row.id)?.why ?? '',
                    })
                },
              })
            }}
          >
            <Trans>Undo all of this stage</Trans>
          </Button>
        )}
      </div>
      {!closing && (inserting || job.by_hand) && (
        <AddOperation job={job} after={lastOff} byHand={job.by_hand} />
      )}
      {!closing && <Departures job={job} />}
      {closing && current && (
        <details className="mt-4">
          <summary className="touch flex cursor-pointer items-center font-bold">
            <Trans>What the gate will ask: {job.bench.gate.discrepancies.length} to settle so far</Trans>
          </summary>
          <GatePanel job={job} older={waiting.length > 0} />
        </details>
      )}
      {!closing && !job.by_hand && (
        <WaysPanel job={job} open={!job.bench.compartments.some((row) => row.state !== 'waiting')} />
      )}
      {trayOpen && !wide && (
        <Dialog title={t`Tray`} onClose={() => onTray(false)}>
          <Tray job={job} current={step?.operation ?? undefined} />
        </Dialog>
      )}
    </div>
  )
}

/** What this machine has besides its layout, and what of it is not there: each to be taken back. */
function Departures({ job }: { job: Job }) {
  const put = job.by_hand ? [] : job.added
  if (put.length + job.absent.length === 0) return null
  return (
    <ul className="mt-3">
      {put.map((row) => (
        <li key={row.id} className="border-base-300 flex min-h-11 items-center gap-2 border-b">
          <span className="text-soft flex-1">
            <Trans>put in: {row.does}</Trans>
          </span>
          <Button
            kind="ghost"
            className="px-2"
            aria-label={t`Undo: ${row.does}`}
            onClick={() => {
              void markStep(job.id, { step: `open.${row.operation}`, state: 'undone', why: '' })
              void withdraw(job.id, row.id, true)
            }}
          >
            <Trans>Undo</Trans>
          </Button>
        </li>
      ))}
      {job.absent.map((row) => (
        <li key={row.step} className="border-base-300 flex min-h-11 items-center gap-2 border-b">
          <span className="text-soft flex-1">
            <Trans>not on this machine: {row.does}</Trans>
          </span>
          <Button
            kind="ghost"
            className="px-2"
            aria-label={t`Undo: ${row.does}`}
            onClick={() => void markStep(job.id, { step: row.step, state: 'undone', why: '' })}
          >
            <Trans>Undo</Trans>
          </Button>
        </li>
      ))}
    </ul>
  )
}
