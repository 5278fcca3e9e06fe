import type { MessageDescriptor } from '@lingui/core'
import { msg, t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { asNumber } from '../../ui/numbers'
import type { Piece, Quantity, Turn } from './run'

export const PIECE_NAMES: Record<Piece['piece'], MessageDescriptor> = {
  straight: msg`Straight`,
  elbow: msg`Bend`,
  flexible: msg`Flexible`,
  pinch: msg`Pinch`,
  hood: msg`Hood`,
}

/** Bores that ducts are sold in, inches. */
export const BORES = ['3', '4', '5', '6'] as const

/** A bore as one of those; one of its own as it is. */
export const boreInInches = ({ value, unit }: Quantity): string =>
  unit === 'in'
    ? String(value)
    : unit === 'mm'
      ? String(Math.round(value / 25.4))
      : unit === 'cm'
        ? String(Math.round(value / 2.54))
        : ''

type Props = {
  piece: Piece
  bore: Quantity
  unit: 'ft' | 'm'
  onChange: (piece: Piece) => void
  onRemove: () => void
  onMove: (by: -1 | 1) => void
}

/** What there is to say of one piece; big steps for a thumb, and a field for the exact number. */
export function PieceFields({ piece, bore, unit, onChange, onRemove, onMove }: Props) {
  const set = (change: Partial<Piece>) => onChange({ ...piece, ...change })
  return (
    <div className="grid gap-2 pb-3 pl-7">
      <Choice
        title={t`Bore`}
        options={BORES.map((inches) => [inches, `${inches} in`] as const)}
        value={boreInInches(piece.diameter ?? bore)}
        onChange={(inches) => {
          const { diameter: _, ...rest } = piece
          const same = inches === boreInInches(bore)
          onChange(same ? rest : { ...rest, diameter: { value: Number(inches), unit: 'in' } })
        }}
      />
      {piece.length && (
        <Stepper
          title={t`Length, ${piece.length.unit}`}
          value={piece.length.value}
          step={piece.length.unit === 'ft' ? 1 : 0.25}
          least={0.1}
          onChange={(value) => set({ length: { value, unit: piece.length?.unit ?? unit } })}
        />
      )}
      {piece.piece === 'straight' && (
        <Choice
          title={t`Material`}
          options={[
            ['galvanised', 'galvanised'],
            ['aluminium', 'aluminium'],
            ['smooth', t`smooth plastic`],
          ]}
          value={piece.material ?? 'galvanised'}
          onChange={(material) => set({ material })}
        />
      )}
      {piece.piece === 'elbow' && (
        <>
          <Choice
            title={t`Angle`}
            options={[
              ['45', '45°'],
              ['90', '90°'],
            ]}
            value={String(piece.angle)}
            onChange={(angle) => set({ angle: Number(angle) })}
          />
          <Choice
            title={t`Kind`}
            options={[
              ['mitred', 'mitred'],
              ['4', 'smooth, 4 in'],
              ['6', '6 in'],
              ['8', '8 in'],
              ['10', '10 in'],
            ]}
            value={piece.style === 'mitred' ? 'mitred' : String(piece.radius?.value ?? 4)}
            onChange={(kind) =>
              kind === 'mitred'
                ? onChange({
                    piece: 'elbow',
                    angle: piece.angle ?? 90,
                    style: 'mitred',
                    'x-turn': piece['x-turn'] ?? 'left',
                  })
                : set({ style: 'smooth', radius: { value: Number(kind), unit: 'in' } })
            }
          />
          <Choice
            title={t`It turns`}
            options={[
              ['left', 'left'],
              ['right', 'right'],
              ['up', 'up'],
              ['down', 'down'],
            ]}
            value={piece['x-turn'] ?? 'left'}
            onChange={(turn) => set({ 'x-turn': turn as Turn })}
          />
        </>
      )}
      {piece.piece === 'flexible' && (
        <Stepper
          title={t`Hangs shorter than pulled straight by, %`}
          value={Math.round((piece.compression ?? 0) * 100)}
          step={5}
          least={0}
          most={90}
          onChange={(value) => set({ compression: value / 100 })}
        />
      )}
      {piece.piece === 'pinch' && (
        <Stepper
          title={t`Open area left, %`}
          value={Math.round((piece.open_share ?? 0.5) * 100)}
          step={5}
          least={1}
          most={100}
          onChange={(value) => set({ open_share: value / 100 })}
        />
      )}
      {piece.piece === 'hood' && (
        <Choice
          title={t`End`}
          options={[
            ['flap', t`hood with a flap`],
            ['open', t`open end`],
          ]}
          value={piece.style ?? 'flap'}
          onChange={(style) => set({ style })}
        />
      )}
      <div className="flex flex-wrap gap-2">
        <Button kind="ghost" onClick={() => onMove(-1)}>
          <Trans>↑ Earlier</Trans>
        </Button>
        <Button kind="ghost" onClick={() => onMove(1)}>
          <Trans>↓ Later</Trans>
        </Button>
        <Button kind="ghost" onClick={onRemove}>
          <Trans>Remove</Trans>
        </Button>
      </div>
    </div>
  )
}

function Stepper({
  title,
  value,
  step,
  least,
  most = 200,
  onChange,
}: {
  title: string
  value: number
  step: number
  least: number
  most?: number
  onChange: (value: number) => void
}) {
  const to = (next: number) => onChange(Math.min(most, Math.max(least, Math.round(next * 100) / 100)))
  return (
    <div>
      <span className="text-sm font-bold">{title}</span>
      <div className="mt-1 flex items-center gap-2">
        <Button
          kind="outline"
          className="text-xl"
          aria-label={`less: ${title}`}
          onClick={() => to(value - step)}
        >
          −
        </Button>
        <input
          className="field w-24 text-center text-xl font-bold"
          inputMode="decimal"
          aria-label={title}
          value={value}
          onChange={(event) => {
            const next = asNumber(event.target.value)
            if (Number.isFinite(next)) to(next)
          }}
        />
        <Button
          kind="outline"
          className="text-xl"
          aria-label={`more: ${title}`}
          onClick={() => to(value + step)}
        >
          +
        </Button>
      </div>
    </div>
  )
}
