import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import type { Job, LogIn } from '../../api/types'
import { recordLog, withdraw } from '../../api/writes'
import { useAnswerInput } from '../../app/answering'
import { textOf, useSignedIn } from '../../app/signedIn'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { unitFor } from '../../ui/numbers'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { LiveInstruments } from './LiveInstruments'
import { LogPlot } from './LogPlot'
import {
  clock,
  keepRun,
  LEAST_SPOTS,
  LONG_RUN_MINUTES,
  minutesSince,
  type OpenRun,
  openRun,
  points,
} from './run'

/** A reading over a run: timed by hand, from an instrument, or from a file; the shape says what fades or switches. */
export function LogPanel({ job, phase }: { job: Job; phase: 'before' | 'after' }) {
  const { me, vocabulary } = useSignedIn()
  const [run, setRun] = useState<OpenRun | null>(() => openRun(job.id))
  const [kind, setKind] = useState(run?.kind ?? 'hood_flow')
  const { trouble, write } = useWrite()
  const dimensionOf = (code: string) =>
    vocabulary.log_kinds.find((entry) => entry.code === code)?.dimension ?? 'flow'
  const unit = unitFor(dimensionOf(kind), me.units, vocabulary)
  const keep = (next: OpenRun | null) => {
    keepRun(job.id, next)
    setRun(next)
  }

  const save = async (facts: Pick<LogIn, 'csv' | 'kind' | 'unit' | 'minutes' | 'values' | 'instrument'>) => {
    const { id, outcome } = recordLog(job.id, {
      ...facts,
      phase,
      heat_on: false,
      visit: null,
      supersedes: null,
    })
    const taken = await write(outcome)
    if (taken) canUndo(job.id, { says: t`log`, run: () => void withdraw(job.id, id, true) })
    return taken
  }
  const logs = job.logs.filter((log) => log.in_force && log.phase === phase)
  return (
    <div>
      <h2 className="text-xl font-bold">
        <Trans>A long run</Trans>
      </h2>
      <p className="text-soft">
        <Trans>
          A motor that starts well and fails when hot looks fine on arrival. Screen cleaned, let it run, and
          read the same thing again and again.
        </Trans>
      </p>
      {!run && (
        <label className="mt-3 block max-w-sm">
          <span className="font-bold">
            <Trans>What is read?</Trans>
          </span>
          <select className="field mt-1" value={kind} onChange={(event) => setKind(event.target.value)}>
            {vocabulary.log_kinds.map((entry) => (
              <option key={entry.code} value={entry.code}>
                {entry.text}
              </option>
            ))}
          </select>
        </label>
      )}
      {run ? (
        <Timed
          run={run}
          unit={unit.look}
          onSpot={(typed) =>
            keep({ ...run, spots: [...run.spots, { minute: minutesSince(run.began, Date.now()), typed }] })
          }
          onDrop={() => keep(null)}
          onSave={() =>
            void save({
              csv: null,
              kind: run.kind,
              unit: unit.unit,
              instrument: run.instrument,
              ...points(run.spots),
            }).then((saved) => saved && keep(null))
          }
        />
      ) : (
        <div className="mt-3 flex flex-wrap items-center gap-2">
          <Button kind="neutral" onClick={() => keep({ kind, instrument: '', began: Date.now(), spots: [] })}>
            <Trans>Start the clock</Trans>
          </Button>
          <label className="btn btn-outline touch">
            <Trans>From a file (CSV)</Trans>
            <input
              type="file"
              accept=".csv,text/csv"
              className="sr-only"
              onChange={(event) => {
                const file = event.target.files?.[0]
                event.target.value = ''
                if (file)
                  void file
                    .text()
                    .then((csv) => save({ csv, kind, unit: '', minutes: [], values: [], instrument: '' }))
              }}
            />
          </label>
        </div>
      )}
      <Trouble says={trouble} />
      <LiveInstruments job={job} phase={phase} onRun={(facts) => save({ csv: null, ...facts })} />
      {logs.map((log) => (
        <section key={log.id} className="border-base-300 mt-4 border-t pt-3" aria-label={t`A saved run`}>
          <h3 className="text-lg font-bold">{log.text}</h3>
          <p className="text-soft text-sm">
            {textOf(vocabulary.log_kinds, log.kind)}, {log.by}
          </p>
          <LogPlot log={log} dimension={dimensionOf(log.kind)} />
          <Button kind="ghost" className="-ml-3" onClick={() => void withdraw(job.id, log.id, true)}>
            <Trans>Take it back</Trans>
          </Button>
        </section>
      ))}
    </div>
  )
}

function Timed({
  run,
  unit,
  onSpot,
  onSave,
  onDrop,
}: {
  run: OpenRun
  unit: string
  onSpot: (typed: string) => void
  onSave: () => void
  onDrop: () => void
}) {
  const answer = useAnswerInput()
  const { vocabulary } = useSignedIn()
  const [typed, setTyped] = useState('')
  const [now, setNow] = useState(Date.now())
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000)
    return () => clearInterval(timer)
  }, [])
  const gone = minutesSince(run.began, now)
  const due = run.spots.length === 0 || gone - (run.spots.at(-1)?.minute ?? 0) >= 5
  return (
    <section className="card-paper mt-3 p-3" aria-label={t`The run being timed`}>
      <p className="text-3xl font-bold" role="timer">
        {clock(gone)}
        <span className="text-soft text-base font-normal">
          {' '}
          <Trans>of about {LONG_RUN_MINUTES} min</Trans>
        </span>
      </p>
      <p className={due ? 'text-primary font-bold' : 'text-soft'}>
        {due
          ? t`Read it now: ${textOf(vocabulary.log_kinds, run.kind)}.`
          : t`The next reading in a few minutes; other checks go on meanwhile.`}
      </p>
      <form
        className="mt-2 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (!typed.trim()) return
          onSpot(typed.trim())
          setTyped('')
        }}
      >
        <label className="min-w-0 flex-1">
          <span className="sr-only">
            <Trans>Reading at this minute</Trans>
          </span>
          <input
            className="field h-[54px] text-2xl font-bold"
            ref={answer}
            inputMode="decimal"
            autoComplete="off"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
        <span className="self-center">{unit}</span>
        <Button type="submit" kind="outline" className="h-[54px]">
          <Trans>Note it</Trans>
        </Button>
      </form>
      <p className="text-soft mt-2">
        <Trans>
          {run.spots.length} noted
          {run.spots.length > 0 && `: ${run.spots.map((spot) => spot.typed).join(', ')}`}
        </Trans>
      </p>
      <div className="mt-1 flex flex-wrap gap-2">
        <Button kind="neutral" disabled={run.spots.length < LEAST_SPOTS} onClick={onSave}>
          <Trans>Save the run</Trans>
        </Button>
        <Button kind="ghost" onClick={onDrop}>
          <Trans>Drop it</Trans>
        </Button>
      </div>
      {run.spots.length < LEAST_SPOTS && (
        <p className="text-soft text-sm">
          <Trans>{LEAST_SPOTS - run.spots.length} more before it can be saved.</Trans>
        </p>
      )}
    </section>
  )
}
