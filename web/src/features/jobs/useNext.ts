import { t } from '@lingui/core/macro'
import { useRef } from 'react'
import { useNavigate } from 'react-router'
import { jobNow, outbox } from '../../api/queries'
import type { Job, Step } from '../../api/types'
import { chooseCause, markStep } from '../../api/writes'
import { drawn, patiently, wentOn } from '../../app/ahead'
import { type Answering, isACheck } from '../../app/answering'
import { textOf, useSignedIn } from '../../app/signedIn'
import { canUndo } from '../../app/undo'

/** The one button: what it says, and what it does from where one stands. */
export type Next = {
  text: string
  run: () => unknown
  /** What Space does: the current step is done; absent where there is no step. */
  done?: (() => void) | undefined
}

/** Mark a step done, with what takes it back. */
export function stepDone(job: string, step: Step): void {
  void markStep(job, { step: step.id, state: 'done', why: '' })
  undoable(job, step)
}

function undoable(job: string, step: Step): void {
  canUndo(job, {
    says: step.does,
    run: () => void markStep(job, { step: step.id, state: 'undone', why: '' }),
  })
}

/** What a step asks does not hold: its seat is open again, and all that was asked of it since. */
export function stepFails(job: Job, { fails, goes_back }: Step): void {
  const again = goes_back.filter((step) => job.settled.includes(step))
  for (const step of again) void markStep(job.id, { step, state: 'undone', why: fails })
  canUndo(job.id, {
    says: fails,
    run: () => {
      for (const step of again) void markStep(job.id, { step, state: 'done', why: '' })
    },
  })
}

/** Say that a step cannot be done here, with what takes it back; what the server would not have of it. */
export async function stepNotPossible(job: string, step: Step, why: string): Promise<string | null> {
  const outcome = await markStep(job, { step: step.id, state: 'not_possible', why })
  undoable(job, step)
  return outcome.state === 'refused' ? outcome.problem.message : null
}

export function currentStep(job: Job, steps: readonly Step[]): Step | undefined {
  const settled = new Set(job.settled)
  return steps.find((step) => !settled.has(step.id))
}

export function stepsOf(job: Job, stage: string): readonly Step[] {
  switch (stage) {
    case 'make_safe':
      return job.safety
    case 'open':
      return job.open
    case 'mend':
      return job.mend
    case 'close':
      return job.close
    default:
      return []
  }
}

/** Where a check is done now: before the work, or after it. */
export const placeOfCheck = (job: Job, check: string): string =>
  `/jobs/${job.id}/${job.working_cause && !job.handed_over ? 'prove' : 'measure'}?check=${check}`

/** Where what comes next is done: its stage, and the check it is about. */
const placeOfNext = ({ code, stage, subject }: Job['next']): string =>
  isACheck(code) ? `${stage}?check=${subject ?? ''}` : stage

/**
 * What comes next follows from what was written: where that is still on its way, it is waited for, so that whoever saves
 * and presses Next at once is led on from what was saved; whoever has gone on by hand meanwhile is led nowhere. A step is
 * marked at once: that is known here.
 */
export function useNext(job: Job, stage: string, check: string | null, answering: Answering): Next {
  const now = useNextAsKnown(job, stage, check, answering)
  const latest = useRef(now)
  latest.current = now
  const run = async () => {
    const meanwhile = wentOn()
    await outbox.kept()
    if (outbox.waiting().some((write) => write.job === job.id)) {
      await patiently(outbox.flush())
      await drawn()
    }
    return meanwhile() ? undefined : latest.current.run()
  }
  return { ...now, run: now.run === now.done ? now.run : run }
}

function useNextAsKnown(job: Job, stage: string, check: string | null, answering: Answering): Next {
  const navigate = useNavigate()
  const { vocabulary } = useSignedIn()
  const { next } = job
  const step = currentStep(job, stepsOf(job, stage))
  // what is recorded is no mark: the form in sight takes it
  const done = step && !step.check_name ? () => stepDone(job.id, step) : undefined
  const go = (to: string) => () => void navigate(`/jobs/${job.id}/${to}`)
  const here = stage === next.stage
  /** What the form in sight does of it. */
  const answer = () => answering.get(next.code)?.()

  if (next.code === 'stop' && here)
    return {
      text: t`It is off and safe: go on`,
      run: () => void markStep(job.id, { step: 'complaint.stopped', state: 'done', why: '' }),
    }
  if (next.code === 'do_step' && here && step?.check_name) return { text: step.does, run: answer }
  if ((next.code === 'make_safe' || next.code === 'do_step') && here && step && done)
    return { text: t`Done: ${step.does}`, run: done, done }
  if ((next.code === 'make_safe' || next.code === 'do_step') && here && !step) {
    // all of it is done here, and the server does not know yet: on to what follows
    const following = job.stages.slice(job.stages.findIndex((row) => row.stage === stage) + 1)
    const to = following.find((row) => row.state !== 'done' && row.state !== 'not_needed')
    if (to) {
      const run = () => {
        const fresh = jobNow(job.id)?.next
        const known = fresh && (fresh.stage !== stage || fresh.code !== next.code)
        void navigate(`/jobs/${job.id}/${known ? placeOfNext(fresh) : to.stage}`)
      }
      return { text: t`On to: ${textOf(vocabulary.stages, to.stage).toLowerCase()}`, run }
    }
  }
  if (isACheck(next.code)) {
    const to = placeOfNext(next)
    return { text: next.text, run: here && check === next.subject ? answer : go(to), done }
  }
  if (next.code === 'choose_cause' && here && next.subject) {
    const fault = next.subject
    return {
      text: next.text,
      run: () =>
        void chooseCause(job.id, { kind: 'working', fault, severity: null, heat_unexplained: false }),
      done,
    }
  }
  const asks = ['gate', 'confirm_cause', 'hand_over', 'find_way_in', 'ask_again'] as const
  if ((asks as readonly string[]).includes(next.code) && here) return { text: next.text, run: answer, done }
  if (next.code === 'handed_over') return { text: next.text, run: go('record') }
  return { text: next.text, run: go(next.stage), done }
}
