import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { Suspense, useState } from 'react'
import { Link } from 'react-router'
import type { Job, Step } from '../../api/types'
import { markStep } from '../../api/writes'
import { textOf, useSignedIn } from '../../app/signedIn'
import { AskWhy } from '../../ui/AskWhy'
import { Button } from '../../ui/Button'
import { fetched } from '../../ui/fetched'
import { Key } from '../../ui/Key'
import { Trouble } from '../../ui/Trouble'
import { currentStep, stepDone, stepNotPossible } from '../jobs/useNext'
import { PhotoButton, Photos } from '../photos/Photos'
import { StepCheck } from '../works/StepCheck'

const SealBench = fetched(() => import('../bench/SealBench').then((m) => m.SealBench))
const LintFound = fetched(() => import('../works/LintFound').then((m) => m.LintFound))
const FittedParts = fetched(() => import('../stock/FittedParts').then((m) => m.FittedParts))

/** Steps in order: the current one large, with its cautions where the hands are; the others a quiet list. */
export function StepsPanel({
  job,
  title,
  steps,
  nothing,
}: {
  job: Job
  title: string
  steps: readonly Step[]
  nothing: string
}) {
  const marks = new Map(job.marks.map((mark) => [mark.step, mark]))
  const settled = new Set(job.settled)
  const current = currentStep(job, steps)
  const [trouble, setTrouble] = useState<string | null>(null)
  const minutes = steps.reduce((sum, step) => sum + step.minutes, 0)
  if (steps.length === 0) return <Nothing title={title} text={nothing} />
  const cannot = async (step: Step, why: string) => setTrouble(await stepNotPossible(job.id, step, why))
  return (
    <div>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-xl font-bold">{title}</h2>
        <p className="text-soft text-sm">
          {settled.size > 0 && t`${steps.filter((step) => settled.has(step.id)).length} of ${steps.length}`}
          {minutes > 0 && t` · about ${Math.round(minutes)} min in all (our estimate)`}
        </p>
      </div>
      {current ? (
        <CurrentStep
          key={current.id}
          job={job}
          step={current}
          onDone={() => stepDone(job.id, current)}
          onCannot={(why) => void cannot(current, why)}
        />
      ) : (
        <p className="text-success mt-3 text-lg font-bold">
          <Trans>✓ All of it is done.</Trans>
        </p>
      )}
      <Trouble says={trouble} />
      <ol className="border-base-300 mt-4 border-t">
        {steps.map((step) => {
          const mark = marks.get(step.id)
          const isSettled = settled.has(step.id)
          return (
            <li key={step.id} className="border-base-300 flex min-h-11 items-center gap-3 border-b py-1.5">
              <span
                aria-hidden="true"
                className={`w-5 text-center font-bold ${isSettled ? 'text-success' : 'text-soft'}`}
              >
                {isSettled ? (mark?.state === 'not_possible' ? '✕' : '✓') : step === current ? '▸' : '·'}
              </span>
              <span
                className={`flex-1 ${isSettled ? 'text-soft' : ''} ${step === current ? 'font-bold' : ''}`}
              >
                {step.does}
                {mark?.state === 'not_possible' && (
                  <span className="block text-sm">
                    <Trans>can't be done here: {mark.why}</Trans>
                  </span>
                )}
                <span className="sr-only">{isSettled ? t`, settled` : ''}</span>
              </span>
              {mark && (
                <Button
                  kind="ghost"
                  aria-label={t`Undo: ${step.does}`}
                  onClick={() => void markStep(job.id, { step: step.id, state: 'undone', why: '' })}
                >
                  <Trans>Undo</Trans>
                </Button>
              )}
            </li>
          )
        })}
      </ol>
    </div>
  )
}

function Nothing({ title, text }: { title: string; text: string }) {
  return (
    <div>
      <h2 className="text-xl font-bold">{title}</h2>
      <p className="mt-2">{text}</p>
    </div>
  )
}

function CurrentStep({
  job,
  step,
  onDone,
  onCannot,
}: {
  job: Job
  step: Step
  onDone: () => void
  onCannot: (why: string) => void
}) {
  const [asking, setAsking] = useState(false)
  const { qualifications } = useSignedIn().vocabulary
  return (
    <div data-act className="bg-[var(--wash)] mt-3 rounded-xl p-4">
      {step.act && <p className="text-soft text-sm">{step.act}</p>}
      <p className="text-2xl leading-snug font-bold">{step.does}</p>
      {step.why && <p className="mt-1">{step.why}</p>}
      {(step.driver || step.fasteners.length > 0) && (
        <p className="mt-2">
          {step.driver && <b>{step.driver}</b>}
          {step.driver && step.fasteners.length > 0 && ' · '}
          {step.fasteners.join(', ')}
        </p>
      )}
      {step.cautions.map((caution) => (
        <p key={caution} className="mt-2 flex gap-2 font-bold">
          <span aria-hidden="true">⚠</span> {caution}
        </p>
      ))}
      {(step.tools.length > 0 || (step.gear.length > 0 && step.act)) && (
        <p className="mt-2 text-sm">
          {step.tools.length > 0 && <Trans>With: {step.tools.join(', ')}. </Trans>}
          {step.gear.length > 0 && <Trans>On you: {step.gear.join(', ')}.</Trans>}
        </p>
      )}
      {step.qualified && (
        <p className="mt-2 text-sm">
          <Trans>
            This is {textOf(qualifications, step.qualified)}: only marked done by someone qualified for it.
          </Trans>
        </p>
      )}
      {step.check_name && <StepCheck job={job} step={step} />}
      {step.cuts && (
        <Suspense fallback={null}>
          <SealBench job={job} cuts={step.cuts} />
        </Suspense>
      )}
      {step.drawn && (
        <Link to={`/jobs/${job.id}/vent/paper`} className="touch inline-flex items-center underline">
          <Trans>The drawing, the cuts, the order</Trans>
        </Link>
      )}
      {step.lint && step.line && (
        <Suspense fallback={null}>
          <LintFound key={step.line} job={job} line={step.line} />
        </Suspense>
      )}
      {step.line && (
        <Suspense fallback={null}>
          <FittedParts job={job} line={step.line} />
        </Suspense>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        {step.check_name ? (
          <Button kind="ghost" className="h-[54px]" onClick={onDone}>
            <Trans>Done, nothing to record</Trans>
          </Button>
        ) : (
          <Button kind="neutral" className="h-[54px] px-6 text-lg" onClick={onDone}>
            <Trans>Done</Trans> <Key>{t`Space`}</Key>
          </Button>
        )}
        <Button kind="ghost" className="h-[54px]" aria-expanded={asking} onClick={() => setAsking(!asking)}>
          <Trans>Can't do this here</Trans>
        </Button>
        <PhotoButton job={job} step={step.id} />
      </div>
      <Photos job={job} step={step.id} />
      {asking && <AskWhy ask={t`Why not?`} says={t`Go on without it`} focus onSay={onCannot} />}
    </div>
  )
}
