import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Job, Verdict } from '../../api/types'
import { chooseCause } from '../../api/writes'
import { textOf, useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { allOf, oneOf } from '../../ui/lists'
import { percentages, shown, unitFor } from '../../ui/numbers'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'

const MOST_SHOWN = 4

export function CausePanel({ job }: { job: Job }) {
  const { vocabulary } = useSignedIn()
  const { verdict } = job
  const { trouble, write } = useWrite()
  const choose = async (fault: string, heat_unexplained = false) => {
    await write(chooseCause(job.id, { kind: 'working', fault, severity: null, heat_unexplained }))
  }
  const first = verdict.faults.filter((fault) => fault.told).slice(0, MOST_SHOWN)
  const rest = 1 - first.reduce((sum, fault) => sum + fault.probability, 0)
  const shares = percentages([...first.map((fault) => fault.probability), Math.max(rest, 0)])
  return (
    <div>
      <h2 data-act className="text-2xl leading-tight font-bold">
        {verdict.headline.text}
      </h2>
      <p className="text-soft mt-1">{verdict.headline.why}</p>
      <Misfits verdict={verdict} />
      <ul className="mt-3 grid gap-2">
        {first.map((fault, i) => (
          <li key={fault.fault} data-act={i === 0 ? '' : undefined}>
            <FaultBar
              name={fault.text}
              detail={[i === 0 ? fault.sure_text : '', fault.severity_text ?? ''].filter(Boolean).join(' · ')}
              share={shares[i] ?? 0}
            >
              <Button
                kind={job.working_cause?.fault === fault.fault ? 'neutral' : 'ghost'}
                aria-pressed={job.working_cause?.fault === fault.fault}
                onClick={() => void choose(fault.fault)}
              >
                {job.working_cause?.fault === fault.fault ? t`Chosen` : t`Go with it`}
                <span className="sr-only">: {fault.text}</span>
              </Button>
            </FaultBar>
          </li>
        ))}
        <li>
          <FaultBar name={t`Everything else`} detail="" share={shares[first.length] ?? 0} />
        </li>
      </ul>
      <Trouble says={trouble} />
      <Consequences job={job} first={first[0]?.fault} onNotFound={(fault) => void choose(fault, true)} />
      <Pairs verdict={verdict} />
      {verdict.own_reference && (
        <p className="text-soft mt-2">
          <Trans>Held against what this machine itself read when it was healthy.</Trans>
        </p>
      )}
      {verdict.otherwise
        .filter((row) => row.told)
        .map((row) => (
          <p key={row.code + row.profile} role="note" className="border-accent mt-3 rounded-xl border-2 p-3">
            <b>⚠ {Math.round(row.probability * 100)} %</b> {row.text}
          </p>
        ))}
      {verdict.inseparable.length > 0 && (
        <p className="mt-3">
          <b>
            <Trans>Look alike so far:</Trans>
          </b>{' '}
          {verdict.inseparable
            .map((group) => group.map((fault) => textOf(vocabulary.faults, fault).toLowerCase()).join(', '))
            .join('; ')}
          .
        </p>
      )}
      <ForAndAgainst verdict={verdict} />
      <Learned verdict={verdict} />
      <label className="mt-4 block">
        <span className="block text-sm font-bold">
          <Trans>You know better? Go with</Trans>
        </span>
        <select
          className="field mt-1 max-w-sm"
          value=""
          onChange={(event) => event.target.value && void choose(event.target.value)}
        >
          <option value="">
            <Trans>another cause …</Trans>
          </option>
          {vocabulary.faults.map((fault) => (
            <option key={fault.code} value={fault.code}>
              {fault.text}
            </option>
          ))}
        </select>
      </label>
    </div>
  )
}

/** What got hot hangs under its cause; without one, the sentence that then stands on the record. */
function Consequences({
  job,
  first,
  onNotFound,
}: {
  job: Job
  first: string | undefined
  onNotFound: (fault: string) => void
}) {
  const { consequences } = job.verdict
  if (consequences.length === 0) return null
  return (
    <section className="border-accent mt-3 rounded-xl border-2 p-3" aria-label={t`What got hot`}>
      <ul>
        {consequences.map((row) => (
          <li key={row.part}>
            <span aria-hidden="true">↳ </span>
            <b>{row.text}</b>
          </li>
        ))}
      </ul>
      <p className="text-soft mt-1 text-sm">
        <Trans>Replaced with its cause, never instead of it.</Trans>
      </p>
      {job.opened.length > 0 && first && (
        <Button kind="ghost" className="-ml-3" onClick={() => onNotFound(first)}>
          <Trans>Go on with “cause of the heat not found”</Trans>
        </Button>
      )}
    </section>
  )
}

const PAIRS_SHOWN = 3

/** Two things at once, where one does not explain what was read. */
function Pairs({ verdict }: { verdict: Verdict }) {
  const { vocabulary } = useSignedIn()
  if (!verdict.pairs_told) return null
  return (
    <p className="mt-3">
      <b>
        <Trans>Two at once, {Math.round(verdict.pair_share * 100)} %:</Trans>
      </b>{' '}
      {verdict.pairs
        .slice(0, PAIRS_SHOWN)
        .map(
          ({ faults, probability }) =>
            `${allOf(faults.map((fault) => textOf(vocabulary.faults, fault).toLowerCase()))} (${Math.round(probability * verdict.pair_share * 100)} %)`,
        )
        .join('; ')}
      .
    </p>
  )
}

function Misfits({ verdict }: { verdict: Verdict }) {
  const { me, vocabulary } = useSignedIn()
  return verdict.misfits.map((misfit) => {
    const kind = vocabulary.kinds.find((entry) => entry.kind === misfit.reading)
    if (!kind || !misfit.expected_low || !misfit.expected_high) return null
    const unit = unitFor(kind.dimension, me.units, vocabulary)
    return (
      <p key={misfit.reading} role="alert" className="border-error mt-3 rounded-xl border-2 p-3">
        <Trans>
          <b>⚠ {kind.text}</b>: beside the other readings it should be {shown(misfit.expected_low, unit)} to{' '}
          {shown(misfit.expected_high, unit)}. It is left out until it is taken again.
        </Trans>{' '}
        {misfit.slip_text}
      </p>
    )
  })
}

function FaultBar({
  name,
  detail,
  share,
  children,
}: {
  name: string
  detail: string
  share: number
  children?: React.ReactNode
}) {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 sm:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_3.2rem_7rem]">
      <span className="min-w-0">
        <span className="block leading-tight font-bold">{name}</span>
        <span className="text-soft block text-sm">{detail}</span>
      </span>
      <svg
        className="hidden h-3.5 w-full sm:block"
        viewBox="0 0 100 14"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <rect width="100" height="14" rx="4" className="fill-base-200" />
        <rect width={share} height="14" className="fill-accent" />
      </svg>
      <span className="text-right text-lg font-bold">{share} %</span>
      <span className="col-span-2 sm:col-span-1 sm:text-right">{children}</span>
    </div>
  )
}

/** What this workshop's own jobs made likelier here than we assume, and by how many jobs. */
function Learned({ verdict }: { verdict: Verdict }) {
  if (verdict.learned.length === 0) return null
  return (
    <section className="mt-4">
      <h3 className="font-bold">
        <Trans>What our jobs taught</Trans>
      </h3>
      <ul className="mt-1">
        {verdict.learned.map((row) => (
          <li key={`${row.holds} ${row.fault}`}>{row.text}</li>
        ))}
      </ul>
    </section>
  )
}

/** What each fact adds to the odds of the leading fault: for to the right, against to the left. */
function ForAndAgainst({ verdict }: { verdict: Verdict }) {
  const { vocabulary } = useSignedIn()
  const rows = verdict.for_and_against
  const first = rows[0]
  if (!first) return null
  const most = Math.max(...rows.map((row) => Math.abs(row.nats)), 1)
  const name = (row: (typeof rows)[number]) =>
    'reading' in row
      ? (vocabulary.kinds.find((kind) => kind.kind === row.reading)?.text ?? row.reading)
      : (vocabulary.checks.find((check) => check.check === row.check)?.do ?? '')
  const group = verdict.inseparable.find((faults) => faults.includes(first.towards)) ?? [first.towards]
  return (
    <section className="mt-4">
      <h3 className="font-bold">
        <Trans>
          What speaks for{' '}
          {group.length > 3
            ? t`those that look alike`
            : oneOf(group.map((fault) => textOf(vocabulary.faults, fault).toLowerCase()))}
        </Trans>
      </h3>
      <ul className="mt-1 grid gap-1">
        {rows.map((row) => {
          const length = (Math.abs(row.nats) / most) * 48
          return (
            <li
              key={`${'reading' in row ? row.reading : row.check}${row.ids[0]}`}
              className="grid grid-cols-[minmax(0,1fr)_5.5rem_8rem] items-center gap-3"
            >
              <span className="leading-tight">{name(row)}</span>
              <svg viewBox="0 0 100 12" className="h-3 w-full" preserveAspectRatio="none" aria-hidden="true">
                <rect x="49.5" width="1" height="12" className="fill-base-content" />
                <rect
                  x={row.nats >= 0 ? 50.5 : 49.5 - length}
                  width={length}
                  y="2"
                  height="8"
                  className={row.nats >= 0 ? 'fill-accent' : 'fill-info'}
                />
              </svg>
              <span className="text-soft text-sm">{row.text}</span>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
