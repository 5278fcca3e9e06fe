import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Job } from '../../api/types'
import { textOf, useSignedIn } from '../../app/signedIn'
import { undoLast } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Key } from '../../ui/Key'
import { whole } from '../../ui/numbers'
import type { Next } from './useNext'

/** What comes next: one button, always in the same place. */
export function NextCard({ job, next, undo }: { job: Job; next: Next; undo: string | undefined }) {
  const { vocabulary } = useSignedIn()
  const isCheck = job.next.code === 'check'
  const check = isCheck ? vocabulary.checks.find((entry) => entry.check === job.next.subject) : undefined
  const gain = check && job.verdict.next_checks.find((entry) => entry.check === check.check)
  const then =
    gain &&
    job.verdict.next_checks.find(
      (entry) => entry.check !== check.check && entry.worth_it && entry.place === gain.place,
    )
  const working = job.handed_over ? null : job.working_cause
  const cause = job.verdict.faults.find((fault) => fault.fault === working?.fault)
  return (
    <aside aria-label={t`What comes next`}>
      {/* the same place on every stage, whatever stands above it; a phone has its own bar */}
      <p
        data-bar
        className="no-print fixed right-[max(1.5rem,calc(50vw-616px))] bottom-4 z-20 hidden w-[min(542px,calc((100vw-60px)/2.25))] items-center gap-2 md:flex"
      >
        <Button
          kind="primary"
          className="h-auto min-h-[64px] min-w-0 flex-1 justify-between py-2 text-left text-lg leading-tight shadow-lg"
          onClick={next.run}
        >
          {next.text} <Key>n</Key>
        </Button>
        {undo && (
          <Button
            kind="outline"
            className="bg-base-100 h-[64px] max-w-[11rem]"
            onClick={() => undoLast(job.id)}
          >
            <span className="truncate">
              <Trans>Undo: {undo}</Trans>
            </span>{' '}
            <Key>u</Key>
          </Button>
        )}
      </p>
      {(check || working) && (
        <div className={`card-paper p-4 sm:p-5 ${check ? 'border-accent border-2' : ''}`}>
          {isCheck && (
            <p className="text-primary text-sm font-bold">
              <Trans>Most worth doing next</Trans>
            </p>
          )}
          <h2 className={`mt-0.5 text-xl font-bold ${isCheck ? '' : 'sr-only'}`}>{next.text}</h2>
          {check && gain && (
            <>
              <dl className="mt-2 grid grid-cols-2 gap-x-4">
                <div>
                  <dt className="sr-only">
                    <Trans>Time</Trans>
                  </dt>
                  <dd>
                    <span className="text-2xl font-bold">
                      <Trans>{Math.round(gain.minutes)} min</Trans>
                    </span>
                    <span className="text-soft block text-sm">
                      {check.access}, {check.instrument}
                    </span>
                  </dd>
                </div>
                {gain.gain && (
                  <div>
                    <dt className="sr-only">
                      <Trans>Gain</Trans>
                    </dt>
                    <dd>
                      <span className="text-2xl font-bold">
                        {whole(gain.gain.now)} → {whole(gain.gain.after)} %
                      </span>
                      <span className="text-soft block text-sm">
                        {gain.gain.of === 'place'
                          ? t`sure of the place, on average`
                          : t`sure of the cause, on average`}
                      </span>
                    </dd>
                  </div>
                )}
              </dl>
              <p className="mt-2 min-h-10 text-sm">
                {gain.splits.length > 1 && (
                  <Trans>
                    Tells apart: {gain.splits.map((zone) => textOf(vocabulary.zones, zone)).join(', ')}.
                  </Trans>
                )}
              </p>
            </>
          )}
          {isCheck && job.readings.length + job.findings.length > 0 && (
            <p className="text-soft mt-2 text-sm">{job.verdict.choose}</p>
          )}
          {then && (
            <p className="text-soft mt-3 text-sm">
              <Trans>
                While you are there: {then.text.charAt(0).toLowerCase()}
                {then.text.slice(1)}, {Math.round(then.hands_on_minutes)} min.
              </Trans>
            </p>
          )}
          {!check && working && (
            <p>
              <span className="text-soft">
                <Trans>Working on:</Trans>
              </span>{' '}
              <b>{working.text}</b>
              {cause && t`, ${whole(cause.probability)} % by the readings`}
              {cause?.severity_text && <span className="text-soft block text-sm">{cause.severity_text}</span>}
            </p>
          )}
        </div>
      )}
    </aside>
  )
}
