import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useMemo } from 'react'
import type { Job, Units, Vocabulary } from '../../api/types'
import { bare, percentages, unitFor } from '../../ui/numbers'
import { draftLineShape } from './geometry'
import { Older } from './Older'

const WIDE = 290
const HIGH = 34
const BOX = { left: 0, right: WIDE, top: 0, bottom: HIGH }
/** The strip has no room for words. */
const WORDLESS = { point: () => '', healthy: '', room: '', outdoors: '', branches: '', after: '' }

/** The draft line while hands are in the machine, on a phone: a strip that stays, and opens when pressed. */
export function DraftStrip({
  job,
  units,
  vocabulary,
  older,
  proving = false,
  onOpen,
}: {
  job: Job
  units: Units
  vocabulary: Vocabulary
  /** Facts that wait on this device. */
  older: number
  /** Where the work is proven: the line after it lies over the one before. */
  proving?: boolean
  onOpen: () => void
}) {
  const { draft_line, elements, flow, headline } = job.verdict
  const then = proving ? job.proof.line : null
  const shape = useMemo(() => draftLineShape(draft_line, BOX, 1, WORDLESS, then), [draft_line, then])
  const known = headline.code !== 'nothing_measured'
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
          <path d={shape.band} className="fill-[var(--healthy-band)]" />
          <path d={`M0 ${shape.zeroY}H${WIDE}`} className="stroke-base-300" strokeWidth={1} />
          {known &&
            shape.stories.map((story) => (
              <path
                key={story.fault}
                d={story.path}
                className="fill-none stroke-[var(--now)]"
                vectorEffect="non-scaling-stroke"
                strokeWidth={1.5}
                strokeDasharray="2 4"
              />
            ))}
          {known && (
            <path
              d={shape.now}
              className="fill-none stroke-[var(--now)]"
              vectorEffect="non-scaling-stroke"
              strokeWidth={then ? 1.5 : 2.5}
              strokeDasharray={then ? '4 4' : undefined}
            />
          )}
          <path
            d={shape.after}
            className="fill-none stroke-base-content"
            strokeWidth={2.5}
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        <span className="text-sm leading-[1.2] whitespace-nowrap">
          <b>
            {name} {shares[0] ?? 0} %
          </b>
          {flow.kind !== 'unknown' && (
            <span className="block">
              <Trans>
                {bare(flow.value, unit)} {unit.look} of {bare(flow.healthy, unit)}
              </Trans>
            </span>
          )}
          <span className="text-soft block">{flow.text}</span>
        </span>
      </button>
    </section>
  )
}
