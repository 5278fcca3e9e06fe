import { plural, t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { useWays } from '../../api/queries'
import type { Job, Way } from '../../api/types'
import { chooseWay } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { minutes } from './bench'

/** Ways in side by side with why the first is first; what to take from the van. */
export function WaysPanel({ job, open }: { job: Job; open: boolean }) {
  const found = useWays(job)
  if (!found.data || found.data.ways.length === 0) return null
  const { ways, tools, to_mend, used_up, gear, schools, no_way, for_two, avoided } = found.data
  const chosen = ways.find((way) => way.chosen)
  const begun = job.bench?.compartments.some((place) => place.state !== 'waiting')
  const choose = (way: { avoid: string[]; through: string[] }, says: string) => {
    const before = chosen
    void chooseWay(job.id, { also: null, ...way })
    if (before)
      canUndo(job.id, {
        says,
        run: () => void chooseWay(job.id, { also: null, avoid: before.avoid, through: before.through }),
      })
  }
  const without = (operations: readonly string[]) =>
    operations.length > 0 && operations.every((id) => avoided.includes(id))
  /** Keep these out of the way, or let them in again. */
  const turn = (operations: readonly string[], says: string) =>
    choose(
      {
        avoid: without(operations)
          ? avoided.filter((id) => !operations.includes(id))
          : [...new Set([...avoided, ...operations])],
        through: [],
      },
      says,
    )
  return (
    <details className="mt-4" open={open}>
      <summary className="touch flex cursor-pointer items-center gap-2 font-bold">
        {begun
          ? t`The way on`
          : ways.length > 1
            ? t`${ways.length} ways in, and the kit`
            : t`The way in, and the kit`}
      </summary>
      {avoided.length > 0 && (
        <p>
          <Plural value={avoided.length} one="Going round # operation." other="Going round # operations." />{' '}
          <button
            type="button"
            className="touch underline"
            onClick={() => choose({ avoid: [], through: [] }, t`all ways again`)}
          >
            <Trans>Allow them again</Trans>
          </button>
        </p>
      )}
      {no_way && (
        <p role="status" className="text-primary font-bold">
          <Trans>As wanted it does not go: {no_way}. This is the quickest without regard to that.</Trans>
        </p>
      )}
      <div className="mt-2 grid gap-3 sm:grid-cols-2">
        {ways.map((way, i) => (
          <WayCard
            key={way.by}
            way={way}
            first={i === 0}
            alone={ways.length === 1}
            onChoose={() => choose({ avoid: way.avoid, through: way.through }, t`way in: ${way.by}`)}
          />
        ))}
      </div>
      {schools.map((text) => (
        <p key={text} className="text-soft mt-2 text-sm">
          {text}
        </p>
      ))}
      <div className="mt-3 grid gap-3 sm:grid-cols-2">
        <div>
          <h3 className="font-bold">
            <Trans>Before you leave the van</Trans>
          </h3>
          <ul className="list-disc pl-5">
            {tools.map((tool) => (
              <li key={tool.text}>
                {tool.text}
                {tool.fits_also.length > 0 && (
                  <span className="text-soft">
                    {' '}
                    <Trans>(or {tool.fits_also.join(', ')})</Trans>
                  </span>
                )}{' '}
                <button
                  type="button"
                  className="touch text-sm underline"
                  onClick={() => turn(tool.operations, t`without ${tool.text}`)}
                >
                  <Trans>not in the bag</Trans>
                </button>
              </li>
            ))}
          </ul>
        </div>
        <div>
          {for_two.length > 0 && (
            <button
              type="button"
              className="chip"
              aria-pressed={without(for_two)}
              onClick={() => turn(for_two, t`alone today`)}
            >
              <Trans>Alone today</Trans>
            </button>
          )}
          {to_mend.length > 0 && (
            <p>
              <b>
                <Trans>To mend:</Trans>
              </b>{' '}
              {to_mend.join(', ')}
            </p>
          )}
          {gear.length > 0 && (
            <p>
              <b>
                <Trans>On you:</Trans>
              </b>{' '}
              {gear.join(', ')}
            </p>
          )}
          {used_up.length > 0 && (
            <p className="mt-1">
              <b>
                <Trans>New parts:</Trans>
              </b>{' '}
              {used_up.join(', ')}
            </p>
          )}
        </div>
      </div>
    </details>
  )
}

function WayCard({
  way,
  first,
  alone,
  onChoose,
}: {
  way: Way
  first: boolean
  alone: boolean
  onChoose: () => void
}) {
  return (
    <div className={`rounded-xl border p-3 ${way.chosen ? 'border-primary border-2' : 'border-base-300'}`}>
      <p className="font-bold first-letter:uppercase">{way.by}</p>
      <p className="mt-1 flex items-baseline gap-2">
        <span className="text-2xl font-bold whitespace-nowrap">
          <Trans>{Math.round(way.total_minutes)} min</Trans>
        </span>
        <span className="text-soft text-sm">
          <Trans>
            {Math.round(way.open_minutes)} open, {Math.round(way.close_minutes)} close
          </Trans>
        </span>
      </p>
      <p className="text-sm">
        <Trans>
          {way.screws} out{way.loosened > 0 && t`, ${way.loosened} loosened`}
          {way.wires > 0 && plural(way.wires, { one: ', # wire', other: ', # wires' })} · {way.drivers.length}{' '}
          drivers, {way.driver_changes} changes
          {way.people > 1 && t` · ${way.people} people`}
        </Trans>
      </p>
      <p className="mt-1 text-sm">{way.why}</p>
      {!way.optimal && (
        <p className="text-soft text-sm">
          <Trans>The best found; a quicker one would spare {Math.ceil(way.gap_minutes)} min at most.</Trans>
        </p>
      )}
      {!alone &&
        (way.chosen ? (
          <p className="text-success mt-2 font-bold">✓ {first ? t`our pick` : t`chosen`}</p>
        ) : (
          <Button kind="outline" className="mt-2" onClick={onChoose}>
            <Trans>Go this way</Trans>
          </Button>
        ))}
    </div>
  )
}

export const planWords = (job: Job): string => {
  const { bench } = job
  if (!bench) return ''
  return t`${minutes(bench.open_minutes)} in, ${minutes(bench.close_minutes)} back (estimate)`
}
