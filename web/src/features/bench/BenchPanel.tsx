import { useEffect, useState } from 'react'
import { useWaiting } from '../../api/queries'
import type { Job, Step } from '../../api/types'
import { markStep } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { AskWhy } from '../../ui/AskWhy'
import { Dialog } from '../../ui/Dialog'
import { Key } from '../../ui/Key'
import { useWide } from '../../ui/useWide'
import { currentStep, stepDone } from '../jobs/useNext'
import { PhotoButton, Photos } from '../photos/Photos'
import { minutes, placeOf, screwsOut } from './bench'
import { CountRow, PartRows, say, WireRows } from './Counting'
import { Cutaway } from './Cutaway'
import { GatePanel } from './GatePanel'
import { Tray } from './Tray'
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
  const wide = useWide()
  const waiting = useWaiting(job.id)
  const step = (picked?.at === current?.id && steps.find((row) => row.id === picked?.id)) || current
  const marks = new Map(job.marks.map((mark) => [mark.step, mark]))
  const out = screwsOut(job.bench?.compartments ?? [])
  useAwake(current !== undefined)
  if (!job.bench) return null
  const undone = (id: string) => void markStep(job.id, { step: id, state: 'undone', why: '' })
  return (
    <div>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-xl font-bold">{closing ? 'Close' : 'Open'}</h2>
        <p className="text-soft text-sm">
          {steps.filter((row) => marks.has(row.id)).length} of {steps.length}
          {!closing && ` · ${planWords(job)}`}
        </p>
      </div>
      {!wide && (
        <div className="mt-2 flex gap-2">
          <button type="button" className="btn btn-outline touch flex-1" onClick={() => onTray(true)}>
            Tray · {out === 0 ? 'empty' : `${out} out`}
          </button>
          <button
            type="button"
            className="btn btn-outline touch flex-1"
            aria-expanded={drawing}
            onClick={() => setDrawing(!drawing)}
          >
            Cut-away
          </button>
        </div>
      )}
      {!wide && drawing && (
        <div className="mt-2">
          <Cutaway job={job} step={step} />
        </div>
      )}
      {job.bench.no_way && (
        <p role="status" className="text-primary mt-2 font-bold">
          No way round that: {job.bench.no_way}
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
          settled={marks.has(step.id)}
          asked={asked}
          onAsk={onAsk}
        />
      ) : (
        <p
          className={`mt-3 text-lg font-bold ${closing && !job.bench.gate.shut ? 'text-soft' : 'text-success'}`}
        >
          {closing ? 'All of it is marked as back.' : '✓ It is open.'}
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
                className={`w-5 text-center font-bold ${mark ? 'text-success' : 'text-soft'}`}
              >
                {mark ? (mark.state === 'done' ? '✓' : '✕') : row === current ? '▸' : '·'}
              </span>
              <button
                type="button"
                className={`touch flex-1 text-left ${mark ? 'text-soft' : ''} ${row === step ? 'font-bold' : ''}`}
                aria-current={row === step ? 'step' : undefined}
                onClick={() => setPicked({ at: current?.id, id: row.id })}
              >
                {i + 1}. {row.does}
                {mark?.state === 'not_possible' && (
                  <span className="block text-sm">can't be done here: {mark.why}</span>
                )}
                <span className="sr-only">{mark ? ', settled' : ''}</span>
              </button>
              <span className="text-soft text-sm whitespace-nowrap">
                {took !== undefined ? (
                  <>
                    {minutes(took)} <span className="sr-only">taken</span>{' '}
                    <span className="hidden sm:inline">of {minutes(row.minutes)}</span>
                  </>
                ) : (
                  minutes(row.minutes)
                )}
              </span>
              {mark && (
                <button
                  type="button"
                  className="btn btn-ghost touch px-2"
                  aria-label={`Undo: ${row.does}`}
                  onClick={() => undone(row.id)}
                >
                  Undo
                </button>
              )}
            </li>
          )
        })}
      </ol>
      <div className="mt-2 flex flex-wrap gap-2">
        {!closing && <Surprise job={job} />}
        {steps.some((row) => marks.has(row.id)) && (
          <button
            type="button"
            className="btn btn-ghost touch"
            onClick={() => {
              const done = steps.filter((row) => marks.has(row.id))
              const impossible = new Set(done.filter((row) => marks.get(row.id)?.state === 'not_possible'))
              for (const row of [...done].reverse()) undone(row.id)
              canUndo(job.id, {
                says: `all of ${stage}`,
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
            Undo all of this stage
          </button>
        )}
      </div>
      {closing && current && (
        <details className="mt-4">
          <summary className="touch flex cursor-pointer items-center font-bold">
            What the gate will ask: {job.bench.gate.problems.length} to settle so far
          </summary>
          <GatePanel job={job} older={waiting.length > 0} />
        </details>
      )}
      {!closing && (
        <WaysPanel job={job} open={!job.bench.compartments.some((row) => row.state !== 'waiting')} />
      )}
      {trayOpen && !wide && (
        <Dialog title="Tray" onClose={() => onTray(false)}>
          <Tray job={job} current={step?.operation ?? undefined} />
        </Dialog>
      )}
    </div>
  )
}

function BenchStep({
  job,
  step,
  number,
  closing,
  current,
  settled,
  asked,
  onAsk,
}: {
  job: Job
  step: Step
  number: number
  closing: boolean
  current: boolean
  settled: boolean
  asked: boolean
  onAsk: () => void
}) {
  const [trouble, setTrouble] = useState<string | null>(null)
  const [asking, setAsking] = useState(false)
  const place = placeOf(job, step)
  const hidden = place?.fasteners.find((row) => row.hidden)
  const holds = place?.fasteners.find((row) => row.holds)
  const count = place?.fasteners.reduce((sum, row) => sum + row.expected, 0) ?? 0
  const cannot = async (why: string) => {
    setAsking(false)
    const outcome = await markStep(job.id, { step: step.id, state: 'not_possible', why })
    setTrouble(outcome.state === 'refused' ? outcome.problem.message : null)
    canUndo(job.id, {
      says: step.does,
      run: () => void markStep(job.id, { step: step.id, state: 'undone', why: '' }),
    })
  }
  return (
    <div className="mt-3">
      <p className="text-soft text-sm">
        {number}
        {place && ` · ${place.area}`}
        {step.people > 1 && ` · ${step.people} people`}
      </p>
      <p className="text-2xl leading-snug font-bold">{step.does}</p>
      {step.why && <p className="mt-1">{step.why}</p>}
      {(step.driver || count > 0) && (
        <div className="mt-2 grid grid-cols-2 gap-2">
          {step.driver && (
            <p className="border-base-300 rounded-xl border px-3 py-2 leading-tight">
              <b className="text-lg">{step.driver}</b>
              <span className="text-soft block text-sm">
                {step.same_driver
                  ? 'same as the last step'
                  : step.driver_also.length > 0
                    ? `or ${step.driver_also.join(', ')}`
                    : 'take it up'}
              </span>
            </p>
          )}
          {place && count > 0 && (
            <p className="border-base-300 rounded-xl border px-3 py-2 leading-tight">
              {place.fasteners.map((row) => (
                <span key={row.key} className="block">
                  <b className="text-lg">{row.text}</b>
                  {row.state === 'loosened' && (
                    <span className="text-primary block text-sm font-bold">
                      {closing ? 'tight again: they never came out' : 'only loosened, they stay in'}
                    </span>
                  )}
                </span>
              ))}
              {hidden && !closing && <span className="text-soft block text-sm">{hidden.hidden}</span>}
            </p>
          )}
        </div>
      )}
      {step.latch && <p className="mt-2">{step.latch}</p>}
      {holds && (
        <p className="mt-2">
          {closing ? 'Start them all by hand' : 'Low ones first'}; {holds.holds}:{' '}
          {closing ? 'that one next, then the rest' : 'that one last'}.
        </p>
      )}
      {closing &&
        step.check.map((check) => (
          <p key={check} className="mt-2 flex gap-2">
            <span aria-hidden="true">☐</span> <b>{check}</b>
          </p>
        ))}
      {closing && place?.fasteners.some((row) => row.goes_into === 'plastic') && (
        <p className="mt-2">Into plastic: by hand only, snug and no more.</p>
      )}
      {step.cautions.length > 0 && (
        <div className="border-primary bg-[var(--wash)] mt-3 rounded-lg border-l-4 px-3 py-2">
          {step.cautions.map((caution) => (
            <p key={caution} className="flex gap-2 font-bold">
              <span aria-hidden="true">⚠</span> {caution}
            </p>
          ))}
          {place?.fasteners.some((row) => row.drop_hazard) && (
            <p className="flex gap-2 font-bold">
              <span aria-hidden="true">⚠</span> The duct is open below: cover it before a screw is in the
              hand.
            </p>
          )}
          {step.gear.length > 0 && <p className="mt-1 text-sm">On you: {step.gear.join(', ')}.</p>}
        </div>
      )}
      {place?.fasteners.map((row) => (
        <CountRow
          key={row.key}
          job={job}
          step={step}
          row={row}
          closing={closing}
          asked={asked && current}
          onAsk={onAsk}
        />
      ))}
      {place && <WireRows job={job} step={step} wires={place.wires} closing={closing} />}
      {place && closing && <PartRows job={job} step={step} parts={place.parts} />}
      <div className="mt-4 flex flex-wrap gap-2">
        {current && (
          <button
            type="button"
            className="btn btn-neutral touch h-[54px] px-6 text-lg"
            onClick={() => stepDone(job.id, step)}
          >
            {closing ? 'Back' : 'Off'}: done <Key>Space</Key>
          </button>
        )}
        {!settled && (
          <button
            type="button"
            className="btn btn-ghost touch h-[54px]"
            aria-expanded={asking}
            onClick={() => setAsking(!asking)}
          >
            Can't do this here
          </button>
        )}
        <PhotoButton job={job} step={step.id} />
      </div>
      {asking && <AskWhy ask="Why not?" says="Go another way" focus onSay={(why) => void cannot(why)} />}
      {trouble && (
        <p role="alert" className="text-error mt-2">
          {trouble}
        </p>
      )}
      <Photos job={job} step={step.id} />
    </div>
  )
}

/** A panel or a screw that the layout does not know: named, counted, and asked for at the gate like any other. */
function Surprise({ job }: { job: Job }) {
  const [asking, setAsking] = useState(false)
  const [count, setCount] = useState(1)
  if (!asking)
    return (
      <button type="button" className="btn btn-ghost touch" onClick={() => setAsking(true)}>
        Something else came off
      </button>
    )
  return (
    <div className="w-full">
      <fieldset>
        <legend className="text-sm">How many screws held it?</legend>
        <div className="mt-1 flex flex-wrap gap-2">
          {[1, 2, 3, 4, 5, 6].map((number) => (
            <button
              key={number}
              type="button"
              className="chip"
              aria-pressed={number === count}
              onClick={() => setCount(number)}
            >
              {number}
            </button>
          ))}
        </div>
      </fieldset>
      <AskWhy
        ask="What was it, and where?"
        says="Into the tray"
        most={60}
        focus
        onSay={(what) => {
          say(job.id, `open.surprise: ${what}`, 'fastener', 'screw', 'out', count, '', {
            state: 'out',
            number: 0,
          })
          setAsking(false)
        }}
      />
    </div>
  )
}

/** The screen stays on while a step is open: hands are elsewhere. Where the browser cannot, nothing happens. */
function useAwake(on: boolean): void {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | undefined
    let over = false
    const take = () => {
      if (document.visibilityState !== 'visible') return
      navigator.wakeLock.request('screen').then(
        (got) => {
          if (over) void got.release()
          else lock = got
        },
        () => undefined, // battery saver, or no permission: the screen goes dark as it always did
      )
    }
    take()
    document.addEventListener('visibilitychange', take)
    return () => {
      over = true
      document.removeEventListener('visibilitychange', take)
      void lock?.release()
    }
  }, [on])
}
