import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Job, Q } from '../../api/types'
import { drawRun } from '../../api/writes'
import { worded } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { Choice } from '../../ui/Choice'
import { shown, unitFor, wayUnit } from '../../ui/numbers'
import { Trouble } from '../../ui/Trouble'
import { HeldAgainst } from './HeldAgainst'
import { BORES, boreInInches, PIECE_NAMES, PieceFields } from './PieceFields'
import { RunDrawing } from './RunDrawing'
import { EMPTY, fresh, type Piece, type Vent } from './run'
import { useDrawn } from './useDrawn'

/** The vent run, piece by piece as it goes from the machine to the outdoors; what it loses, and what it breaks. */
export function RunEditor({ job }: { job: Job }) {
  const { me, vocabulary } = useSignedIn()
  const recorded = (job.vent as Vent | null) ?? EMPTY
  const {
    drawn: draft,
    draw: setDraft,
    trouble,
  } = useDrawn(job, recorded, (vent, version) =>
    drawRun(job.id, vent.pieces.length > 0 ? vent : null, version),
  )
  const [picked, setPicked] = useState<number | null>(null)
  const way = wayUnit(me.units, vocabulary)
  const unit = way.unit === 'ft' ? 'ft' : 'm'
  const pressure = unitFor('pressure', me.units, vocabulary)

  const setPieces = (pieces: Piece[]) => setDraft({ ...draft, pieces })
  const add = (kind: Piece['piece']) => {
    const at =
      draft.pieces.at(-1)?.piece === 'hood' && kind !== 'hood' ? draft.pieces.length - 1 : draft.pieces.length
    setPieces([...draft.pieces.slice(0, at), fresh(kind, unit), ...draft.pieces.slice(at)])
    setPicked(at)
  }
  const run = job.run
  const length = (q: Q) => shown(q, way)
  return (
    <div>
      <h2 className="text-xl font-bold">
        <Trans>The vent run</Trans>
      </h2>
      <p className="text-soft">
        <Trans>From the wall behind the machine to the hood; the transition is not part of it.</Trans>
      </p>
      <Link to={`/jobs/${job.id}/vent`} className="btn btn-outline touch mt-2">
        <Trans>Draw a new run</Trans>
      </Link>
      {draft.pieces.length > 0 && (
        <div className="mt-2">
          <RunDrawing pieces={draft.pieces} picked={picked} />
        </div>
      )}
      <div className="mt-2">
        <Choice
          title={t`Bore of the run`}
          options={BORES.map((inches) => [inches, `${inches} in`] as const)}
          value={boreInInches(draft.diameter)}
          onChange={(inches) => setDraft({ ...draft, diameter: { value: Number(inches), unit: 'in' } })}
        />
      </div>
      <ol className="mt-2">
        {draft.pieces.map((piece, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a piece is its place in the run
          <li key={i} className="border-base-300 border-b">
            <button
              type="button"
              className="touch flex w-full items-center gap-2 py-1 text-left"
              aria-expanded={picked === i}
              onClick={() => setPicked(picked === i ? null : i)}
            >
              <span className="text-soft w-5">{i + 1}</span>
              <span className="flex-1">{worded(PIECE_NAMES[piece.piece])}</span>
              <span className="font-bold">
                {run?.pieces[i] ? shown(run.pieces[i].pressure_drop, pressure) : '…'}
              </span>
            </button>
            {picked === i && (
              <PieceFields
                piece={piece}
                bore={draft.diameter}
                unit={unit}
                onChange={(changed) => setPieces(draft.pieces.map((old, k) => (k === i ? changed : old)))}
                onRemove={() => {
                  setPieces(draft.pieces.filter((_, k) => k !== i))
                  setPicked(null)
                }}
                onMove={(by) => {
                  const moved = [...draft.pieces]
                  const [taken] = moved.splice(i, 1)
                  if (!taken) return
                  moved.splice(Math.max(0, i + by), 0, taken)
                  setPieces(moved)
                  setPicked(Math.min(Math.max(0, i + by), moved.length - 1))
                }}
              />
            )}
          </li>
        ))}
      </ol>
      <div className="mt-3 flex flex-wrap gap-2" role="group" aria-label={t`Add a piece`}>
        {(Object.keys(PIECE_NAMES) as Piece['piece'][]).map((kind) => (
          <button key={kind} type="button" className="chip" onClick={() => add(kind)}>
            + {worded(PIECE_NAMES[kind]).toLowerCase()}
          </button>
        ))}
      </div>
      {draft.pieces.length === 0 && (
        <p className="mt-2">
          <Trans>Nothing drawn: the verdict goes by a usual run. Add the pieces in the air's order.</Trans>
        </p>
      )}
      <Trouble says={trouble} />
      {run && (
        <section className="mt-4" aria-label={t`What it loses and breaks`}>
          <p className={`text-lg font-bold ${run.within_allowance ? '' : 'text-error'}`}>
            <Trans>
              {length(run.length)} of {length(run.allowed_length)} allowed
              {run.within_allowance ? '' : t`: too long`} · {shown(run.pressure_drop, pressure)} lost
            </Trans>
          </p>
          <ul className="mt-1 grid gap-1">
            {run.warnings.map((warning) => (
              <li key={warning.code}>
                <span aria-hidden="true">⚠ </span>
                {warning.text} <span className="text-soft">({warning.topic})</span>
              </li>
            ))}
          </ul>
          <HeldAgainst
            job={job.id}
            unit={unit}
            value={draft.code_profile}
            onChange={(code_profile) => setDraft({ ...draft, code_profile })}
          />
          <p className="text-soft mt-1 text-sm">
            {run.code_profile.source}. {run.check}
          </p>
        </section>
      )}
    </div>
  )
}
