import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Job, Units, Vocabulary } from '../../api/types'
import { bare, percentages, unitFor } from '../../ui/numbers'
import { Older } from './Older'

const WIDE = 300
const HIGH = 34

/** The draft line while hands are in the machine, on a phone: a strip that stays, and opens when pressed. */
export function DraftStrip({
  job,
  units,
  vocabulary,
  older,
  onOpen,
}: {
  job: Job
  units: Units
  vocabulary: Vocabulary
  /** Facts that wait on this device. */
  older: number
  onOpen: () => void
}) {
  const { draft_line, elements, flow } = job.verdict
  const pressures = draft_line.now.map((node) => node.pressure.value)
  const most = Math.max(1, ...pressures.map(Math.abs))
  const points = pressures.map(
    (value, i) =>
      `${((WIDE * i) / Math.max(1, pressures.length - 1)).toFixed(1)},${(HIGH / 2 - (value / most) * (HIGH / 2 - 3)).toFixed(1)}`,
  )
  const unit = unitFor('flow', units, vocabulary)
  const shares = percentages(elements.map((element) => element.probability))
  const hot = elements[0]
  const name = vocabulary.elements.find((element) => element.code === hot?.element)?.text
  return (
    <section aria-label={t`Draft line`} className="relative">
      <Older readings={older} className="absolute top-1 left-3 z-10" />
      <button
        type="button"
        className="card-paper touch flex w-full items-center gap-3 px-3 py-1.5 text-left"
        onClick={onOpen}
      >
        <span className="sr-only">
          <Trans>Open the draft line.</Trans>{' '}
        </span>
        <svg
          viewBox={`0 0 ${WIDE} ${HIGH}`}
          className="h-9 min-w-0 flex-1"
          preserveAspectRatio="none"
          aria-hidden="true"
        >
          <path d={`M0 ${HIGH / 2}H${WIDE}`} className="stroke-base-300" strokeWidth={1} />
          <polyline points={points.join(' ')} className="fill-none stroke-[var(--now)]" strokeWidth={2.5} />
        </svg>
        <span className="text-sm whitespace-nowrap">
          <b>
            {name} {shares[0] ?? 0} %
          </b>
          <span className="text-soft block">
            {flow.kind === 'unknown' ? (
              flow.text
            ) : (
              <Trans>
                {bare(flow.value, unit)} {unit.look} of {bare(flow.healthy, unit)}
              </Trans>
            )}
          </span>
        </span>
      </button>
    </section>
  )
}
