import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { Link } from 'react-router'
import type { Job } from '../../api/types'
import { textOf, useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { shown, unitFor } from '../../ui/numbers'

/** What is known of one element, why, and what to check. */
export function ElementCard({ element, job, onClose }: { element: string; job: Job; onClose: () => void }) {
  const { me, vocabulary } = useSignedIn()
  const pressure = unitFor('pressure', me.units, vocabulary)
  const line = job.verdict.draft_line
  const i = line.healthy.findIndex((node) => node.at === element)
  const drop = (profile: readonly { pressure: { value: number } }[]) =>
    Math.abs((profile[i - 1]?.pressure.value ?? 0) - (profile[i]?.pressure.value ?? 0))
  const faults = job.verdict.faults.filter((fault) => fault.element === element && fault.told)
  const zones = new Set(
    vocabulary.faults.filter((fault) => fault.element === element).map((fault) => fault.zone),
  )
  const check = job.verdict.next_checks.find(
    (entry) => entry.worth_it && entry.splits.some((zone) => zones.has(zone)),
  )
  const pinned = line.now[i - 1]?.pinned && line.now[i]?.pinned
  const q = (value: number) => shown({ value, unit: 'Pa' }, pressure)
  return (
    <section
      className="card-paper grid gap-2 p-4 sm:grid-cols-[1fr_auto]"
      aria-label={textOf(vocabulary.elements, element)}
    >
      <div>
        <h2 className="text-lg font-bold">{textOf(vocabulary.elements, element)}</h2>
        <p>
          <Trans>
            {element === 'blower' ? t`Gives` : t`Takes`} {q(drop(line.healthy))} when healthy;{' '}
            {pinned
              ? t`now ${q(drop(line.now))}.`
              : t`now not known yet: nothing measured on both its sides.`}
          </Trans>
        </p>
        {faults.length > 0 ? (
          <ul className="mt-1">
            {faults.map((fault) => (
              <li key={fault.fault}>
                <b>{fault.text}</b>, {Math.round(fault.probability * 100)} %
                {fault.severity_text && ` · ${fault.severity_text}`}
              </li>
            ))}
          </ul>
        ) : (
          <p className="text-soft mt-1">
            <Trans>Nothing speaks for a fault here.</Trans>
          </p>
        )}
      </div>
      <div className="flex items-start gap-2">
        {check && (
          <Link
            className="btn btn-outline touch h-auto py-1"
            to={`/jobs/${job.id}/measure?check=${check.check}`}
          >
            <Trans>
              {check.text}, {Math.round(check.minutes)} min
            </Trans>
          </Link>
        )}
        <Button kind="ghost" onClick={onClose}>
          <Trans>Close</Trans>
        </Button>
      </div>
    </section>
  )
}
