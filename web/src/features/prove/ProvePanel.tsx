import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Comparison, Job } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { bare, inUnit, unitFor } from '../../ui/numbers'
import { MeasurePanel } from '../measure/MeasurePanel'

/** Readings after the work, each beside before and healthy; then the sentence that says whether it worked. */
export function ProvePanel({ job, check }: { job: Job; check: string | null }) {
  const tone = { not_measured: '', proven: 'text-success', better: 'text-warning', unchanged: 'text-error' }[
    job.proof.code
  ]
  const wanted = check ?? job.proof.rows.find((row) => row.after === null)?.kind ?? 'outlet_flow'
  return (
    <div>
      <h2 className={`text-2xl leading-tight font-bold ${tone}`}>{job.proof.text}</h2>
      {job.proof.rows.length > 0 && <ProofTable rows={job.proof.rows} />}
      <div className="border-base-300 mt-5 border-t pt-4">
        {job.handed_over ? (
          <p>
            <Trans>Handed over: the record stands as it is.</Trans>
          </p>
        ) : (
          <MeasurePanel job={job} check={wanted} phase="after" />
        )}
      </div>
    </div>
  )
}

/** kept: the words of the kinds as a record froze them. */
export function ProofTable({
  rows,
  kept = {},
}: {
  rows: readonly Comparison[]
  kept?: Readonly<Record<string, string>>
}) {
  const { me, vocabulary } = useSignedIn()
  return (
    <table className="mt-3 w-full text-left">
      <thead className="text-soft text-sm">
        <tr>
          <th className="font-normal">
            <Trans>reading</Trans>
          </th>
          <th className="text-right font-normal">
            <Trans>before</Trans>
          </th>
          <th className="text-right font-normal">
            <Trans>after</Trans>
          </th>
          <th className="text-right font-normal">
            <Trans>healthy</Trans>
          </th>
          <th className="hidden w-1/3 pl-4 font-normal sm:table-cell">
            <span className="sr-only">
              <Trans>drawn</Trans>
            </span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const kind = vocabulary.kinds.find((entry) => entry.kind === row.kind)
          const unit = unitFor(kind?.dimension ?? 'flow', me.units, vocabulary)
          return (
            <tr key={`${row.kind}${row.heat_on}`} className="border-base-300 border-t">
              <th scope="row" className="py-1.5 pr-2 leading-tight font-normal">
                {kept[row.kind] ?? kind?.text}
                {row.heat_on && t`, heat on`} <span className="text-soft">{unit.look}</span>
                <span className="text-soft block text-sm">{row.text}</span>
              </th>
              <td className="pl-3 text-right whitespace-nowrap">
                {row.before ? bare(row.before, unit) : '–'}
              </td>
              <td className="pl-3 text-right font-bold whitespace-nowrap">
                {row.after ? bare(row.after, unit) : '–'}
              </td>
              <td className="pl-3 text-right whitespace-nowrap">{bare(row.healthy, unit)}</td>
              <td className="hidden pl-4 sm:table-cell">
                <Bar row={row} at={(value) => inUnit(value, unit)} />
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

/** Before (hollow) to after (full) on a scale with the healthy band. */
function Bar({ row, at }: { row: Comparison; at: (value: number) => number }) {
  const low = at(row.healthy_low.value)
  const high = at(row.healthy_high.value)
  const values = [row.before, row.after].flatMap((q) => (q ? [at(q.value)] : []))
  const least = Math.min(low, ...values)
  const most = Math.max(high, ...values)
  const x = (value: number) => 6 + ((value - least) / Math.max(most - least, 1e-9)) * 168
  return (
    <svg viewBox="0 0 180 24" className="h-6 w-full" aria-hidden="true">
      <rect
        x={x(low)}
        width={Math.max(x(high) - x(low), 2)}
        y="4"
        height="16"
        rx="4"
        className="fill-[var(--healthy-band)]"
      />
      {row.before && row.after && (
        <line
          x1={x(at(row.before.value))}
          x2={x(at(row.after.value))}
          y1="12"
          y2="12"
          className="stroke-base-content"
          strokeWidth="2"
        />
      )}
      {row.before && (
        <circle
          cx={x(at(row.before.value))}
          cy="12"
          r="5"
          className="fill-base-100 stroke-base-content"
          strokeWidth="2"
        />
      )}
      {row.after && <circle cx={x(at(row.after.value))} cy="12" r="6" className="fill-base-content" />}
    </svg>
  )
}
