import { useWays } from '../../api/queries'
import type { Job, Way, Ways } from '../../api/types'
import { chooseWay } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { minutes } from './bench'

/** Ways in side by side with why the first is first; what else is worth doing while open; what to take from the van. */
export function WaysPanel({ job, open }: { job: Job; open: boolean }) {
  const found = useWays(job)
  if (!found.data || found.data.ways.length === 0) return null
  const { ways, along, tools, used_up, gear, schools, no_way, for_two, avoided } = found.data
  const chosen = ways.find((way) => way.chosen)
  const begun = job.bench?.compartments.some((place) => place.state !== 'waiting')
  const wanted = along.filter((row) => row.wanted).map((row) => row.part)
  const choose = (way: { also: string[]; avoid: string[]; through: string[] }, says: string) => {
    const before = chosen
    void chooseWay(job.id, way)
    if (before)
      canUndo(job.id, {
        says,
        run: () => void chooseWay(job.id, { also: wanted, avoid: before.avoid, through: before.through }),
      })
  }
  const without = (operations: readonly string[]) =>
    operations.length > 0 && operations.every((id) => avoided.includes(id))
  /** Keep these out of the way, or let them in again. */
  const turn = (operations: readonly string[], says: string) =>
    choose(
      {
        also: wanted,
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
          ? 'The way on'
          : ways.length > 1
            ? `${ways.length} ways in, and the kit`
            : 'The way in, and the kit'}
      </summary>
      {avoided.length > 0 && (
        <p>
          Going round {avoided.length} {avoided.length === 1 ? 'operation' : 'operations'}.{' '}
          <button
            type="button"
            className="touch underline"
            onClick={() => choose({ also: wanted, avoid: [], through: [] }, 'all ways again')}
          >
            Allow them again
          </button>
        </p>
      )}
      {no_way && (
        <p role="status" className="text-primary font-bold">
          As wanted it does not go: {no_way}. This is the quickest without regard to that.
        </p>
      )}
      <div className="mt-2 grid gap-3 sm:grid-cols-2">
        {ways.map((way, i) => (
          <WayCard
            key={way.by}
            way={way}
            first={i === 0}
            alone={ways.length === 1}
            onChoose={() =>
              choose({ also: wanted, avoid: way.avoid, through: way.through }, `way in: ${way.by}`)
            }
          />
        ))}
      </div>
      {schools.map((text) => (
        <p key={text} className="text-soft mt-2 text-sm">
          {text}
        </p>
      ))}
      <Along
        along={along}
        onToggle={(part) =>
          choose(
            {
              also: wanted.includes(part) ? wanted.filter((other) => other !== part) : [...wanted, part],
              avoid: [],
              through: [],
            },
            'what to do along',
          )
        }
      />
      <div className="mt-3 grid gap-3 sm:grid-cols-2">
        <div>
          <h3 className="font-bold">Before you leave the van</h3>
          <ul className="list-disc pl-5">
            {tools.map((tool) => (
              <li key={tool.text}>
                {tool.text}
                {tool.fits_also.length > 0 && (
                  <span className="text-soft"> (or {tool.fits_also.join(', ')})</span>
                )}{' '}
                <button
                  type="button"
                  className="touch text-sm underline"
                  onClick={() => turn(tool.operations, `without ${tool.text}`)}
                >
                  not in the bag
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
              onClick={() => turn(for_two, 'alone today')}
            >
              Alone today
            </button>
          )}
          {gear.length > 0 && (
            <p>
              <b>On you:</b> {gear.join(', ')}
            </p>
          )}
          {used_up.length > 0 && (
            <p className="mt-1">
              <b>New parts:</b> {used_up.join(', ')}
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
        <span className="text-2xl font-bold whitespace-nowrap">{Math.round(way.total_minutes)} min</span>
        <span className="text-soft text-sm">
          {Math.round(way.open_minutes)} open, {Math.round(way.close_minutes)} close
        </span>
      </p>
      <p className="text-sm">
        {way.screws} out{way.loosened > 0 && `, ${way.loosened} loosened`}
        {way.wires > 0 && `, ${way.wires} ${way.wires === 1 ? 'wire' : 'wires'}`} · {way.drivers.length}{' '}
        drivers, {way.driver_changes} changes
        {way.people > 1 && ` · ${way.people} people`}
      </p>
      <p className="mt-1 text-sm">{way.why}</p>
      {!way.optimal && <p className="text-soft text-sm">The best found; not proven the quickest.</p>}
      {!alone &&
        (way.chosen ? (
          <p className="text-success mt-2 font-bold">✓ {first ? 'our pick' : 'chosen'}</p>
        ) : (
          <button type="button" className="btn btn-outline touch mt-2" onClick={onChoose}>
            Go this way
          </button>
        ))}
    </div>
  )
}

function Along({ along, onToggle }: { along: Ways['along']; onToggle: (part: string) => void }) {
  if (along.length === 0) return null
  return (
    <div className="mt-3">
      <h3 className="font-bold">Worth doing while it is open</h3>
      <ul className="mt-1 flex flex-wrap gap-2">
        {along.slice(0, 8).map((row) => (
          <li key={row.part}>
            <button
              type="button"
              className="chip text-left"
              aria-pressed={row.wanted}
              onClick={() => onToggle(row.part)}
            >
              {row.text}
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}

export const planWords = (job: Job): string => {
  const { bench } = job
  if (!bench) return ''
  return `about ${minutes(bench.open_minutes)} to open, ${minutes(bench.close_minutes)} to close (estimate)`
}
