import { plural, t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Compartment, Job } from '../../api/types'
import { inTray, screwsOut, times } from './bench'
import { Tag } from './Counting'
import { Screw } from './Screw'

/** The tray: a compartment a step, screws as they lie; opening fills it, closing empties it. */
export function Tray({ job, current }: { job: Job; current?: string | undefined }) {
  // what neither came out nor was loosened leaves no compartment
  const places = (job.bench?.compartments ?? []).filter(
    (place) => place.fasteners.length + place.wires.length > 0,
  )
  const areas = inTray(places)
  const wires = places.flatMap((place) =>
    place.wires.filter((wire) => wire.off).map((wire) => ({ place, wire })),
  )
  const out = screwsOut(places)
  return (
    <div>
      <p className="flex items-baseline justify-between gap-2">
        <b className="text-lg">
          <Trans>Tray</Trans>
        </b>
        <span className="text-soft text-sm">
          {out === 0
            ? t`empty`
            : plural(out, { one: '# fastener out or loose', other: '# fasteners out or loose' })}
        </span>
      </p>
      {areas.length === 0 && (
        <p className="text-soft mt-1">
          <Trans>Fills as you open: what comes out lies here, by the step it belongs to.</Trans>
        </p>
      )}
      {areas.map((area) => (
        <section key={area.area} className="mt-3" aria-label={t`Tray: ${area.area}`}>
          <h3 className="text-soft text-sm font-bold">{area.area}</h3>
          <div className="mt-1 grid grid-cols-2 gap-2">
            {area.places.map((place) => (
              <Lying key={place.operation} place={place} current={place.operation === current} />
            ))}
          </div>
        </section>
      ))}
      {wires.length > 0 && (
        <section className="mt-3" aria-label={t`Wires that are off`}>
          <h3 className="text-soft text-sm font-bold">
            <Trans>Wires off</Trans>
          </h3>
          <ul className="mt-1 grid grid-cols-2 gap-2">
            {wires.map(({ place, wire }) => (
              <li
                key={`${place.operation}${wire.key}`}
                className={`rounded-lg border px-2 py-1 ${wire.contradicts ? 'border-primary border-2' : 'border-base-300'}`}
              >
                <Tag wire={wire} small />
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}

function Lying({ place, current }: { place: Compartment; current: boolean }) {
  const here = place.fasteners.filter((row) => row.came > 0)
  const empty = here.every((row) => row.left === 0)
  return (
    <div
      className={`rounded-lg border px-2 py-1.5 ${current ? 'border-primary border-2' : 'border-base-300'}`}
    >
      <p className="flex justify-between gap-1 text-sm leading-tight">
        <span className="line-clamp-2">
          <b>{place.number}</b> {place.title}
        </span>
        {empty && <span className="text-success font-bold">✓</span>}
      </p>
      {here.map((row) => (
        <div key={row.key} className="mt-1">
          {row.state === 'loosened' ? (
            <p className="text-sm">
              {row.left > 0 ? t`${row.left} loose, still in: tighten` : t`${row.back} tight again`}
            </p>
          ) : row.left > 0 ? (
            <>
              <span className="flex flex-wrap gap-x-1 gap-y-0.5">
                {times(Math.min(row.left, 12)).map((n) => (
                  <Screw key={n} row={row} />
                ))}
                {row.counted &&
                  times(Math.min(4, row.expected - row.came)).map((n) => <Screw key={n} row={row} missing />)}
              </span>
              <span className="text-soft block text-sm">
                {row.left}
                {row.length_mm !== null && t` × ${row.length_mm} mm`}
                {row.goes_into === 'plastic' && t`, plastic: by hand`}
                {row.differs && t`; ${row.came} came, ${row.expected} expected`}
              </span>
            </>
          ) : (
            <p className="text-soft text-sm">
              <Trans>
                {row.back} back{row.missing > 0 && t`, ${row.missing} missing`}
                {row.moved > 0 && t`, ${row.moved} moved`}
              </Trans>
            </p>
          )}
        </div>
      ))}
    </div>
  )
}
