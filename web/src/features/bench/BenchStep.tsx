import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job, Step } from '../../api/types'
import { markStep } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { AskWhy } from '../../ui/AskWhy'
import { Button } from '../../ui/Button'
import { Key } from '../../ui/Key'
import { Trouble } from '../../ui/Trouble'
import { useWide } from '../../ui/useWide'
import { stepDone, stepFails, stepNotPossible } from '../jobs/useNext'
import { PhotoButton, Photos } from '../photos/Photos'
import { StepCheck } from '../works/StepCheck'
import { placeOf } from './bench'
import { CountRow, PartRows, WireRows } from './Counting'
import { WheelBench } from './WheelBench'

/** The operation in hand: what to do, with what, what to mind, what to count. */
export function BenchStep({
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
  const wide = useWide()
  const place = placeOf(job, step)
  const hidden = place?.fasteners.find((row) => row.hidden)
  const holds = place?.fasteners.find((row) => row.holds)
  const count = place?.fasteners.reduce((sum, row) => sum + row.expected, 0) ?? 0
  const cannot = async (why: string) => {
    setAsking(false)
    setTrouble(await stepNotPossible(job.id, step, why))
  }
  return (
    <div className="mt-3">
      <p className="text-soft text-sm">
        {number}
        {place && ` · ${place.area}`}
        {step.people > 1 && t` · ${step.people} people`}
      </p>
      <p data-act className="text-2xl leading-snug font-bold">
        {step.does}
      </p>
      {step.why && <p className="mt-1">{step.why}</p>}
      {(step.driver || count > 0) && (
        <div className="mt-2 grid grid-cols-2 gap-2">
          {step.driver && (
            <p className="border-base-300 rounded-xl border px-3 py-2 leading-tight">
              <b className="text-lg">{step.driver}</b>
              <span className="text-soft block text-sm">
                {step.same_driver
                  ? t`same as the last step`
                  : step.driver_also.length > 0
                    ? t`or ${step.driver_also.join(', ')}`
                    : t`take it up`}
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
                      {closing ? t`tight again: they never came out` : t`only loosened, they stay in`}
                    </span>
                  )}
                </span>
              ))}
              {hidden && !closing && <span className="text-soft block text-sm">{hidden.hidden}</span>}
            </p>
          )}
        </div>
      )}
      {/* what was photographed as it came off is wanted now that it goes back */}
      {closing && place && <Photos job={job} step={place.step} wires={place.wires} large />}
      {step.latch && <p className="mt-2">{step.latch}</p>}
      {holds && (
        <p className="mt-2">
          {closing ? t`Start them all by hand` : t`Low ones first`}; {holds.holds}:{' '}
          {closing ? t`that one next, then the rest` : t`that one last`}.
        </p>
      )}
      {closing &&
        step.check.map((check) => (
          <p key={check} className="mt-2 flex gap-2">
            <span aria-hidden="true">☐</span> <b>{check}</b>
          </p>
        ))}
      {closing && place?.fasteners.some((row) => row.goes_into === 'plastic') && (
        <p className="mt-2">
          <Trans>Into plastic: by hand only, snug and no more.</Trans>
        </p>
      )}
      {step.cautions.length > 0 && (
        <div data-act className="border-primary bg-[var(--wash)] mt-3 rounded-lg border-l-4 px-3 py-2">
          {step.cautions.map((caution) => (
            <p key={caution} className="flex gap-2 font-bold">
              <span aria-hidden="true">⚠</span> {caution}
            </p>
          ))}
          {place?.fasteners.some((row) => row.drop_hazard) && (
            <p className="flex gap-2 font-bold">
              <Trans>
                <span aria-hidden="true">⚠</span> The duct is open below: cover it before a screw is in the
                hand.
              </Trans>
            </p>
          )}
          {step.gear.length > 0 && (
            <p className="mt-1 text-sm">
              <Trans>On you: {step.gear.join(', ')}.</Trans>
            </p>
          )}
        </div>
      )}
      {step.seat && !settled && (
        <WheelBench at={`${job.id} ${step.operation}`} seat={step.seat} closing={closing} />
      )}
      {place?.fasteners.map((row) => (
        <CountRow
          key={row.key}
          job={job}
          place={place}
          row={row}
          closing={closing}
          asked={asked && current}
          onAsk={onAsk}
        />
      ))}
      {step.check_name && !settled && <StepCheck job={job} step={step} />}
      {place && <WireRows job={job} place={place} closing={closing} />}
      {place && closing && <PartRows job={job} place={place} />}
      <div className="mt-4 flex flex-wrap gap-2">
        {current && step.check_name && (
          <Button kind="ghost" className="h-[54px]" onClick={() => stepDone(job.id, step)}>
            <Trans>Go on without it</Trans>
          </Button>
        )}
        {current && !step.check_name && (
          <Button
            data-act={wide ? '' : undefined}
            kind="neutral"
            className="h-[54px] px-6 text-lg"
            onClick={() => stepDone(job.id, step)}
          >
            {step.fails ? t`It holds` : <Trans>{closing ? t`Back` : t`Off`}: done</Trans>}{' '}
            <Key>{t`Space`}</Key>
          </Button>
        )}
        {current && step.fails && (
          <Button kind="outline" className="h-[54px]" onClick={() => stepFails(job, step)}>
            {step.fails}
          </Button>
        )}
        {!settled && (
          <Button kind="ghost" className="h-[54px]" aria-expanded={asking} onClick={() => setAsking(!asking)}>
            <Trans>Can't do this here</Trans>
          </Button>
        )}
        {!closing && !settled && !job.by_hand && (
          <Button
            kind="ghost"
            className="h-[54px]"
            onClick={() => {
              const said = { step: step.id, why: '' }
              void markStep(job.id, { ...said, state: 'not_there' })
              canUndo(job.id, {
                says: step.does,
                run: () => void markStep(job.id, { ...said, state: 'undone' }),
              })
            }}
          >
            <Trans>Not on this machine</Trans>
          </Button>
        )}
        <PhotoButton job={job} step={step.id} />
      </div>
      {asking && (
        <AskWhy ask={t`Why not?`} says={t`Go another way`} focus onSay={(why) => void cannot(why)} />
      )}
      <Trouble says={trouble} />
      <Photos job={job} step={step.id} wires={closing ? [] : place?.wires} />
    </div>
  )
}
