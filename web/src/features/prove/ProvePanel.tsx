import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { ReactNode } from 'react'
import { Link, useSearchParams } from 'react-router'
import type { Comparison, Job, ProofLine, Vocabulary } from '../../api/types'
import { isACheck } from '../../app/answering'
import { useSignedIn } from '../../app/signedIn'
import { bare, inUnit, unitFor } from '../../ui/numbers'
import { MeasurePanel } from '../measure/MeasurePanel'

const TONE = {
  not_measured: '',
  proven: 'text-success',
  shown: 'text-success',
  better: 'text-warning',
  left: 'text-warning',
  short: 'text-warning',
  unchanged: 'text-error',
  lower: 'text-error',
} as const satisfies Record<Job['proof']['code'], string>

/** Readings after the work, each beside before and healthy; first the sentence that says whether it worked. */
export function ProvePanel({ job, check }: { job: Job; check: string | null }) {
  const { proof } = job
  const next = isACheck(job.next.code) && job.next.stage === 'prove' ? job.next.subject : null
  const { vocabulary } = useSignedIn()
  const [search] = useSearchParams()
  const view = search.get('view')
  // a reading is wanted, or asked for
  const wants = next !== null || proof.code === 'not_measured' || proof.settles.length > 0
  // a check that was asked for stands there until it is done, or done again
  const open = check !== null && (search.get('again') !== null || !doneSince(job, vocabulary, check))
  const rest = next ?? proof.settles[0]?.check ?? proof.again[0] ?? check ?? 'outlet_flow'
  const wanted = open ? check : rest
  const measuring = wants || open || view !== null
  const told = (
    <div>
      <h2
        data-act={measuring ? undefined : ''}
        className={`text-2xl leading-tight font-bold ${TONE[proof.code]}`}
      >
        {proof.text}
      </h2>
      {proof.code !== 'not_measured' && (
        <>
          <p className="mt-1 text-lg">{proof.advice}</p>
          <FlowReached proof={proof} />
        </>
      )}
      <ProvingList job={job} />
      <ProofLines lines={proof.lines} />
      {proof.rows.length > 0 && <ProofTable rows={proof.rows} />}
      {proof.settles.length > 1 && !job.handed_over && (
        <div className="mt-3">
          <p className="text-soft">
            <Trans>It would be settled as well by:</Trans>
          </p>
          <ul>
            {proof.settles.slice(1).map((row) => (
              <li key={row.check}>
                <Link
                  to={`/jobs/${job.id}/prove?check=${row.check}`}
                  className="touch inline-flex items-center underline"
                >
                  {row.text}
                </Link>
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  )
  if (job.handed_over)
    return (
      <div className="grid gap-5">
        {told}
        <p className="border-base-300 border-t pt-4">
          <Trans>Handed over: the record stands as it is.</Trans>
        </p>
      </div>
    )
  const measure = <MeasurePanel job={job} check={wanted} phase="after" />
  // what is wanted stands first: a reading, or what the readings say
  if (measuring)
    return (
      <div className="grid gap-5">
        {measure}
        <div className="border-base-300 border-t pt-4">{told}</div>
      </div>
    )
  return (
    <div className="grid gap-5">
      {told}
      <details className="border-base-300 border-t pt-2">
        <summary className="touch flex cursor-pointer items-center font-bold">
          <Trans>Measure once more</Trans>
        </summary>
        {measure}
      </details>
    </div>
  )
}

/** What this job asks to be proven, in the order one walks: done, to do, or only offered. */
function ProvingList({ job }: { job: Job }) {
  const asked = job.proving.filter((row) => row.done || row.check)
  if (asked.length === 0) return null
  const next = isACheck(job.next.code) && job.next.stage === 'prove' ? job.next.subject : null
  return (
    <ol className="mt-3" aria-label={t`What is proven, in order`}>
      {asked.map((row) => (
        <li
          key={row.name}
          className="border-base-300 flex items-baseline gap-2 border-t py-1.5 first:border-0"
        >
          <span aria-hidden="true" className={row.done ? 'text-success' : 'text-soft'}>
            {row.done ? '✓' : row.must ? '○' : '·'}
          </span>
          <Row job={job} row={row}>
            <span className={row.done || job.handed_over ? '' : 'underline'}>{row.text}</span>
            {row.check === next && (
              <b className="text-primary ml-2">
                <Trans>next</Trans>
              </b>
            )}
            {!row.must && !row.done && <Trans> (if you like)</Trans>}
            <span className="text-soft block text-sm">{row.why}</span>
          </Row>
        </li>
      ))}
    </ol>
  )
}

/** What is still to be done leads to where it is done: the whole row, for a thumb. */
function Row({ job, row, children }: { job: Job; row: Job['proving'][number]; children: ReactNode }) {
  if (row.done || job.handed_over) return <span>{children}</span>
  return (
    <Link to={`/jobs/${job.id}/prove?check=${row.check}`} className="touch block grow">
      {children}
    </Link>
  )
}

/** Whether a check was done after the work. */
function doneSince({ readings, findings }: Job, { checks }: Vocabulary, check: string): boolean {
  const kind = checks.find((row) => row.check === check)?.observes
  const since = (fact: { phase: string; in_force: boolean }) => fact.phase === 'after' && fact.in_force
  return (
    readings.some((reading) => since(reading) && reading.kind === kind) ||
    findings.some((finding) => since(finding) && finding.check === check)
  )
}

/** The lines of the work: which are shown, and by what. */
export function ProofLines({ lines }: { lines: readonly ProofLine[] }) {
  if (lines.length === 0) return null
  return (
    <ul className="mt-3">
      {lines.map((line) => (
        <li key={`${line.part}.${line.act}.${line.fault}`} className="flex items-baseline gap-2">
          <span
            aria-hidden="true"
            className={line.proven ? 'text-success' : line.proven === null ? 'text-soft' : 'text-error'}
          >
            {line.proven === null ? '○' : line.proven ? '✓' : '✗'}
          </span>
          {line.text}
        </li>
      ))}
    </ul>
  )
}

/** Where the true flow lies, nine in ten, against what is asked of it. */
function FlowReached({ proof }: { proof: Job['proof'] }) {
  const { me, vocabulary } = useSignedIn()
  const unit = unitFor('flow', me.units, vocabulary)
  const at = (value: number) => inUnit(value, unit)
  const low = at(proof.flow.low.value)
  const high = at(proof.flow.high.value)
  const limit = at(proof.limit.value)
  const most = Math.max(high, limit) * 1.08
  const x = (value: number) => (value / most) * 300
  return (
    <figure className="mt-2">
      <svg viewBox="0 0 300 34" className="h-auto w-full max-w-xl" aria-hidden="true">
        <rect x="0" width="300" y="10" height="10" rx="5" className="fill-base-300" />
        <rect
          x={x(low)}
          width={Math.max(x(high) - x(low), 4)}
          y="7"
          height="16"
          rx="4"
          className={low >= limit ? 'fill-success' : high < limit ? 'fill-error' : 'fill-warning'}
        />
        <line x1={x(limit)} x2={x(limit)} y1="1" y2="29" className="stroke-base-content" strokeWidth="2" />
      </svg>
      <figcaption className="text-soft">
        <Trans>
          True flow {bare(proof.flow.low, unit)} to {bare(proof.flow.high, unit)} {unit.look}, nine in ten; it
          has to reach {bare(proof.limit, unit)}.
        </Trans>
      </figcaption>
    </figure>
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
          <th className="pl-3 text-right font-normal">
            <Trans>before</Trans>
          </th>
          <th className="pl-3 text-right font-normal">
            <Trans>after</Trans>
          </th>
          <th className="pl-3 text-right font-normal">
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
