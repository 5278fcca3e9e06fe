import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { Link } from 'react-router'
import { unheard } from '../../api/optimistic'
import { useWaiting } from '../../api/queries'
import type { Job } from '../../api/types'
import { withdraw } from '../../api/writes'
import { textOf, useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'

/** What was measured and seen, each beside what it should be; taken back, never overwritten. */
export function FactList({ job, phase }: { job: Job; phase: 'before' | 'after' }) {
  const { vocabulary } = useSignedIn()
  const readings = job.readings.filter((reading) => reading.phase === phase && reading.in_force)
  const findings = job.findings.filter((finding) => finding.phase === phase && finding.in_force)
  const misfit = new Set(job.verdict.misfits.flatMap((row) => row.ids))
  const compared = new Map(job.proof.rows.map((row) => [`${row.kind}${row.heat_on}`, row]))
  const waiting = useWaiting(job.id)
  if (readings.length + findings.length + unheard(waiting) === 0) return null
  const stage = phase === 'before' ? 'measure' : 'prove'
  return (
    <section className="border-base-300 mt-4 border-t pt-3">
      <h3 className="font-bold">
        <Trans>So far</Trans>
      </h3>
      <ul>
        {waiting
          .filter((write) => unheard([write]) > 0)
          .map((write) => (
            <li key={write.id} className="border-base-300 flex min-h-11 items-center gap-x-3 border-b py-1">
              <span aria-hidden="true">⏳</span>
              <span>
                {write.says}{' '}
                <span className="text-soft">
                  <Trans>· waits on this device</Trans>
                </span>
              </span>
            </li>
          ))}
        {readings.map((reading) => {
          const row = compared.get(`${reading.kind}${reading.heat_on}`)
          const unit = vocabulary.units.find((entry) => entry.unit === reading.unit)
          return (
            <li
              key={reading.id}
              className="border-base-300 flex min-h-11 flex-wrap items-center gap-x-3 border-b py-1"
            >
              <span className="min-w-0 flex-1">
                {textOf(
                  vocabulary.kinds.map((kind) => ({ code: kind.kind, text: kind.text })),
                  reading.kind,
                )}{' '}
                <b>
                  {reading.value} {unit?.look ?? reading.unit}
                </b>
                {reading.heat_on && t`, heat on`}
                <span
                  className={`block text-sm ${misfit.has(reading.id) ? 'text-error font-bold' : 'text-soft'}`}
                >
                  {misfit.has(reading.id)
                    ? t`⚠ fits nothing beside the others: take it again`
                    : phase === 'before'
                      ? row?.was
                      : row?.text}
                </span>
              </span>
              <Link
                className="btn btn-ghost touch"
                to={`/jobs/${job.id}/${stage}?check=${reading.kind}&again=${reading.id}`}
              >
                <Trans>Again</Trans>
              </Link>
              <Button kind="ghost" onClick={() => void withdraw(job.id, reading.id, true)}>
                <Trans>Take back</Trans>
              </Button>
            </li>
          )
        })}
        {findings.map((finding) => {
          const check = vocabulary.checks.find((entry) => entry.check === finding.check)
          const result = [...(check?.results ?? []), ...vocabulary.no_evidence]
          return (
            <li
              key={finding.id}
              className="border-base-300 flex min-h-11 flex-wrap items-center gap-x-3 border-b py-1"
            >
              <span className="min-w-0 flex-1">
                {check?.do}: <b>{textOf(result, finding.result)}</b>
                {finding.why && <span className="text-soft block text-sm">{finding.why}</span>}
              </span>
              <Button kind="ghost" onClick={() => void withdraw(job.id, finding.id, true)}>
                <Trans>Take back</Trans>
              </Button>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
