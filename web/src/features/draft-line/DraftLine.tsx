import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useMemo } from 'react'
import type { Job, Q, Unit, Units, Vocabulary } from '../../api/types'
import { textOf } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { bare, digits, percentages, shown, unitFor } from '../../ui/numbers'
import { TableBehind } from '../../ui/TableBehind'
import { useElementWidth } from '../../ui/useElementWidth'
import { draftLineShape, NARROW } from './geometry'
import { Older } from './Older'
import { phrases } from './phrases'

type Props = {
  job: Job
  units: Units
  vocabulary: Vocabulary
  picked: string | null
  onPick: (element: string | null) => void
  /** Facts that wait on this device: the verdict has not heard them. */
  older: number
  /** Where the work is proven: the line after it lies over the one before. */
  proving?: boolean
  /** Where it was opened from a strip: what makes it one again. */
  onClose?: (() => void) | undefined
}

const HEIGHT = 168

/** The air's way, room to outdoors: pressure over its elements, and how likely each holds it up. */
export function DraftLine({
  job,
  units,
  vocabulary,
  picked,
  onPick,
  older,
  proving = false,
  onClose,
}: Props) {
  const [ref, width] = useElementWidth<HTMLDivElement>()
  const narrow = width > 0 && width < NARROW
  const pressure = unitFor('pressure', units, vocabulary)
  const flow = unitFor('flow', units, vocabulary)
  const line = job.verdict.draft_line
  const then = proving ? job.proof.line : null
  const shape = useMemo(() => {
    const box = {
      left: narrow ? 6 : 62,
      right: Math.max(width - (narrow ? 6 : 14), 100),
      top: 10,
      bottom: HEIGHT - 10,
    }
    return draftLineShape(
      line,
      box,
      pressure.factor,
      {
        point: (kind) => {
          const point = line.points.find((candidate) => candidate.kind === kind)
          const reading = job.verdict.readings[kind]
          if (!point) return ''
          const size = shown({ ...point.pressure, value: Math.abs(point.pressure.value) }, pressure)
          if (narrow) return size
          const healthy = reading?.healthy ? bare(reading.healthy, pressure) : '–'
          return point.pressure.value < 0
            ? t`suction ${size} · healthy ${healthy}`
            : t`${size} · healthy ${healthy}`
        },
        healthy: t`healthy`,
        room: t`room`,
        outdoors: t`outdoors`,
        branches: phrases.branches(line.stories.length),
        after: t`after`,
      },
      then,
    )
  }, [line, then, width, narrow, pressure, job.verdict.readings])

  const top = shape.ticks.at(-1)
  const names = new Map(vocabulary.elements.map((element) => [element.code, element.text]))
  const shares = percentages(job.verdict.elements.map((element) => element.probability))
  const percent = new Map(job.verdict.elements.map((element, i) => [element.element, shares[i] ?? 0]))
  const after = job.proof.rows.find((row) => row.kind === 'outlet_flow' && row.after)?.after
  const known = job.verdict.headline.code !== 'nothing_measured'

  return (
    <section className="card-paper relative px-2 pt-2 pb-3 sm:px-4" aria-label={t`Draft line`}>
      {onClose && (
        <Button kind="ghost" className="absolute bottom-1 right-1 z-10" onClick={onClose}>
          <Trans>Smaller</Trans>
        </Button>
      )}
      <Older readings={older} className="absolute top-2 left-1/2 z-10 -translate-x-1/2" />
      <div className="flex items-start justify-between gap-3 px-1 md:absolute md:top-4 md:right-5 md:w-[190px] md:flex-col-reverse md:items-end">
        <ul
          className="flex flex-wrap gap-x-4 gap-y-1 text-sm md:mt-3 md:flex-col md:items-end"
          aria-label={t`Heat and supply`}
        >
          {job.verdict.lamps.map((lamp) => (
            <li key={lamp.lamp} className="flex items-center gap-2">
              <LampMark state={lamp.state} />
              <span>
                <span className="text-soft">{lamp.name}</span> {lamp.text}
              </span>
            </li>
          ))}
        </ul>
        <FlowFigure job={job} unit={flow} after={after} />
      </div>
      <div ref={ref} data-act className="h-[168px] overflow-hidden md:mr-[190px]">
        {width > 0 && (
          <svg width={width} height={HEIGHT} role="img" aria-label={phrases.line(job, vocabulary, pressure)}>
            {!narrow &&
              shape.nodes
                .slice(1, -1)
                .map((node) => (
                  <line
                    key={node.at}
                    x1={node.x}
                    x2={node.x}
                    y1={8}
                    y2={HEIGHT}
                    className="stroke-base-300"
                    strokeWidth={1}
                  />
                ))}
            {shape.ticks.map((tick) => (
              <g key={tick.value}>
                <line
                  x1={narrow ? 6 : 62}
                  x2={width - (narrow ? 6 : 14)}
                  y1={tick.y}
                  y2={tick.y}
                  className="stroke-base-300"
                  strokeDasharray="2 5"
                />
                {!narrow && (
                  <text x={54} y={tick.y + 4} textAnchor="end" fontSize={13} className="fill-[var(--soft)]">
                    {tick === top
                      ? pressure.look
                      : digits(tick.value, pressure.digits > 0 && Math.abs(tick.value) < 10 ? 1 : 0)}
                  </text>
                )}
              </g>
            ))}
            <path d={shape.band} className="fill-[var(--healthy-band)]" />
            <path
              d={shape.healthy}
              className="fill-none stroke-[var(--healthy)]"
              strokeWidth={2}
              strokeDasharray="7 5"
            />
            {known && <path d={shape.nowArea} className="fill-[var(--now)]" opacity={0.08} />}
            <line
              x1={narrow ? 6 : 62}
              x2={width - (narrow ? 6 : 14)}
              y1={shape.zeroY}
              y2={shape.zeroY}
              className="stroke-base-content"
              strokeWidth={1.2}
            />
            {known &&
              shape.stories.map((story) => (
                <path
                  key={story.fault}
                  d={story.path}
                  className="fill-none stroke-[var(--now)]"
                  strokeWidth={2.4}
                  strokeDasharray="1 5.5"
                  strokeLinecap="round"
                />
              ))}
            {known && (
              <path
                d={shape.now}
                className="fill-none stroke-[var(--now)]"
                strokeWidth={then ? 2 : 3.5}
                strokeDasharray={then ? '4 4' : undefined}
                strokeLinejoin="round"
              />
            )}
            <path
              d={shape.after}
              className="fill-none stroke-base-content"
              strokeWidth={3.5}
              strokeLinejoin="round"
            />
            {shape.marks.map((mark) => (
              <g key={mark.kind}>
                <path
                  d={`M${mark.x} ${mark.low}V${mark.high}M${mark.x - 5} ${mark.low}h10M${mark.x - 5} ${mark.high}h10`}
                  className="fill-none stroke-base-content"
                  strokeWidth={1.3}
                />
                <circle
                  cx={mark.x}
                  cy={mark.y}
                  r={6.5}
                  className="fill-base-100 stroke-base-content"
                  strokeWidth={3}
                />
              </g>
            ))}
            {shape.labels.map((label) => (
              <g key={label.key}>
                {label.leader && (
                  <line
                    x1={label.leader.x}
                    y1={label.leader.y}
                    x2={label.box.x + label.box.width / 2}
                    y2={label.box.y > label.leader.y ? label.box.y : label.box.y + label.box.height}
                    className="stroke-[var(--soft)]"
                    strokeWidth={1}
                  />
                )}
                <text
                  x={label.box.x + 2}
                  y={label.box.y + label.size}
                  fontSize={label.size}
                  fontWeight={label.size > 13 ? 650 : 450}
                  fontStyle={label.key === 'branches' ? 'italic' : 'normal'}
                  className={
                    label.key === 'healthy'
                      ? 'fill-[var(--healthy)]'
                      : label.key === 'branches'
                        ? 'fill-[var(--now)]'
                        : label.size > 13
                          ? 'fill-base-content'
                          : 'fill-[var(--soft)]'
                  }
                >
                  {label.text}
                </text>
              </g>
            ))}
          </svg>
        )}
        <NodesTable job={job} vocabulary={vocabulary} pressure={pressure} />
      </div>
      <Segments
        shape={shape}
        narrow={narrow}
        names={names}
        percent={percent}
        suspicions={new Map(known ? job.verdict.elements.map((row) => [row.element, row]) : [])}
        picked={picked}
        onPick={onPick}
      />
    </section>
  )
}

/** The flow as far as the facts tell it: how it is known, and where it lies; nothing while nothing speaks of it. */
function FlowFigure({ job, unit, after }: { job: Job; unit: Unit; after: Q | null | undefined }) {
  const { flow } = job.verdict
  if (flow.kind === 'unknown' && !after)
    return (
      <p className="text-soft text-right text-sm">
        {flow.text}
        <span className="block">
          <Trans>
            a healthy one: {bare(flow.healthy, unit)} {unit.look}
          </Trans>
        </span>
      </p>
    )
  return (
    <p className="text-right leading-tight">
      {flow.kind !== 'unknown' && (
        <>
          <span className="text-3xl leading-none font-bold md:block md:text-[2.75rem]">
            {bare(flow.value, unit)}
          </span>{' '}
          <span className="text-soft text-sm whitespace-nowrap">
            <Trans>
              {unit.look} of {bare(flow.healthy, unit)}
              <span className="sr-only"> healthy, through the outlet</span>
            </Trans>
          </span>
          <span className="block text-sm">
            {flow.text}
            {', '}
            <Trans>
              {bare(flow.low, unit)} to {bare(flow.high, unit)}
            </Trans>
          </span>
        </>
      )}
      {after && (
        <span className="mt-1 block text-sm">
          <Trans>
            before the work; <b>{bare(after, unit)}</b> after
          </Trans>
        </span>
      )}
    </p>
  )
}

function LampMark({ state }: { state: string }) {
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" className="shrink-0">
      {state === 'suspect' ? (
        <path d="M7 1l6 12H1z" className="fill-warning" />
      ) : (
        <circle
          cx="7"
          cy="7"
          r="5"
          strokeWidth="2"
          className={state === 'unknown' ? 'fill-none stroke-[var(--soft)]' : 'fill-success stroke-success'}
          strokeDasharray={state === 'unknown' ? '2 2' : undefined}
        />
      )}
    </svg>
  )
}

/** The line as numbers: at each place what a healthy machine has, what this one has, and what was read there. */
function NodesTable({ job, vocabulary, pressure }: { job: Job; vocabulary: Vocabulary; pressure: Unit }) {
  const { healthy, now, points } = job.verdict.draft_line
  const read = new Map(points.map((point) => [point.at, bare(point.pressure, pressure)]))
  return (
    <TableBehind
      caption={t`Static pressure along the air's way, ${pressure.look}`}
      head={[t`place`, t`healthy`, t`now`, t`read`]}
      rows={healthy.map(({ at, pressure: usual }, i) => {
        const node = now[i]
        return [
          textOf(vocabulary.nodes, at),
          bare(usual, pressure),
          node?.pinned ? bare(node.pressure, pressure) : '–',
          read.get(at) ?? '–',
        ]
      })}
    />
  )
}

type Element = Job['verdict']['elements'][number]
/** Suspicions that a wedge stands for. */
const LOUD: ReadonlySet<Element['suspicion']> = new Set(['likely', 'suspect'])

type SegmentsProps = {
  shape: ReturnType<typeof draftLineShape>
  narrow: boolean
  names: Map<string, string>
  percent: Map<string, number>
  /** How suspect each element is; empty where nothing was measured. */
  suspicions: Map<string, Element>
  picked: string | null
  onPick: (element: string | null) => void
}

/** The elements under the line, on its own axis: warmth, figure, word and a wedge for how likely each is the cause. */
function Segments({ shape, narrow, names, percent, suspicions, picked, onPick }: SegmentsProps) {
  const hot = shape.segments
    .map(({ element }) => ({ element, share: percent.get(element) ?? 0 }))
    .filter(({ element, share }) => suspicions.has(element) && share >= 5)
    .sort((a, b) => b.share - a.share)
    .slice(0, 3)
  return (
    <>
      <div
        className="relative h-12 sm:h-14"
        role="group"
        aria-label={t`Elements of the air's way`}
        onKeyDown={(event) => {
          const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
          if (step === 0) return
          const all = [...event.currentTarget.querySelectorAll('button')]
          all[all.findIndex((button) => button.matches(':focus')) + step]?.focus()
          event.preventDefault()
        }}
      >
        {shape.segments.map(({ element, x, width }) => {
          const share = suspicions.has(element) ? (percent.get(element) ?? 0) : 0
          const suspicion = suspicions.get(element)
          const name = names.get(element) ?? element
          const inset = narrow ? 0 : 2
          return (
            <button
              key={element}
              type="button"
              aria-pressed={picked === element}
              onClick={() => onPick(picked === element ? null : element)}
              style={{
                left: x + inset,
                width: width - 2 * inset,
                background:
                  share > 0
                    ? `color-mix(in oklab, var(--suspect) ${Math.min(12 + share, 70)}%, var(--color-base-100))`
                    : undefined,
              }}
              className={`absolute top-0 h-full cursor-pointer overflow-hidden rounded-lg border px-0.5 leading-tight ${
                picked === element ? 'border-base-content border-2' : 'border-base-300'
              }`}
            >
              <span className={narrow ? 'sr-only' : 'block text-[13px]'}>{name} </span>
              <span className={`block font-bold ${narrow ? 'text-[13px]' : 'text-[15px]'}`}>
                {suspicion && LOUD.has(suspicion.suspicion) && (
                  <span aria-hidden="true">▲{narrow ? '' : ' '}</span>
                )}
                {narrow ? share >= 5 && share : share > 0 ? `${share} %` : '–'}
              </span>
              <span className="sr-only"> {suspicion?.suspicion_text}</span>
            </button>
          )
        })}
      </div>
      <p className="mt-1.5 flex min-h-6 justify-between gap-2 px-1 text-sm sm:hidden">
        <span className="text-soft whitespace-nowrap">
          <Trans>room →</Trans>
        </span>
        <span className="font-bold">
          {hot.map(({ element, share }) => `${names.get(element)} ${share}`).join(' · ')}
          {hot.length > 0 && ' %'}
        </span>
      </p>
    </>
  )
}
