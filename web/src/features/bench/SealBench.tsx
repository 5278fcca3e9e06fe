import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { useSeal } from '../../api/stock'
import type { Job, Seal, Step } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { Choice } from '../../ui/Choice'
import { Field } from '../../ui/Field'
import { Schools } from '../../ui/Schools'
import { TYPED, useSettled } from '../../ui/useSettled'

type Shape = 'round' | 'corners'

/** How long foam or felt is cut, by the edge it goes round; where its ends meet, what glue, what a gap would cost. */
export function SealBench({ job, cuts }: { job: Job; cuts: NonNullable<Step['cuts']> }) {
  const { me } = useSignedIn()
  const [shape, setShape] = useState<Shape>(cuts === 'foam' ? 'corners' : 'round')
  const [across, setAcross] = useState('')
  const [down, setDown] = useState('')
  const [lap, setLap] = useState('')
  const such = me.units.way === 'ft' ? '12 in' : '300 mm'
  const asked = { cuts, across, down: shape === 'corners' ? down : '', lap: cuts === 'felt' ? lap : '' }
  const whole = across.trim() !== '' && (shape === 'round' || down.trim() !== '')
  const { data, error } = useSeal(job, useSettled(whole ? JSON.stringify(asked) : '', TYPED))
  return (
    <section aria-label={t`Cut to length`} className="border-base-300 mt-3 rounded-xl border p-3">
      <div className="grid gap-3 sm:grid-cols-2">
        <div className="grid gap-3">
          <Choice
            title={t`The edge it goes round`}
            options={
              [
                ['corners', t`with corners`],
                ['round', t`round`],
              ] as const
            }
            value={shape}
            onChange={setShape}
          />
          <Field
            title={shape === 'round' ? t`Across, rim to rim` : t`Across`}
            value={across}
            onChange={setAcross}
            placeholder={such}
            maxLength={30}
            inputMode="text"
          />
          {shape === 'corners' && (
            <Field title={t`Down`} value={down} onChange={setDown} placeholder={such} maxLength={30} />
          )}
          {cuts === 'felt' && (
            <Field title={t`Lap of its kind, if any`} value={lap} onChange={setLap} maxLength={30} />
          )}
        </div>
        {data ? <Cut seal={data} /> : error && <p role="alert">{error.message}</p>}
      </div>
    </section>
  )
}

function Cut({ seal }: { seal: Seal }) {
  return (
    <div aria-live="polite">
      <p className="text-2xl leading-tight font-bold">{seal.text}</p>
      <EdgeDrawing round={seal.round} joint={seal.joint_at} />
      <p>{seal.joint}</p>
      <p className="mt-1">{seal.glue}</p>
      <ul className="text-soft mt-2 text-sm">
        {seal.gaps.map((gap) => (
          <li key={gap.area_cm2}>{gap.text}</li>
        ))}
      </ul>
      <Schools schools={seal.schools} />
    </div>
  )
}

/** The edge, the seal round it, and where its ends meet. */
function EdgeDrawing({ round, joint }: { round: boolean; joint: Seal['joint_at'] }) {
  const [x, y] = joint === 'top' ? [100, 12] : [round ? 148 : 172, 60]
  return (
    <svg viewBox="0 0 200 120" className="my-2 block h-28" role="img" aria-label={t`Where its ends meet`}>
      {round ? (
        <circle cx="100" cy="60" r="48" fill="none" className="stroke-accent" strokeWidth="10" />
      ) : (
        <rect
          x="28"
          y="12"
          width="144"
          height="96"
          rx="10"
          fill="none"
          className="stroke-accent"
          strokeWidth="10"
        />
      )}
      <circle cx={x} cy={y} r="9" className="fill-base-100 stroke-base-content" strokeWidth="3" />
      <path d={`M${x - 6} ${y + 6} L${x + 6} ${y - 6}`} className="stroke-base-content" strokeWidth="3" />
    </svg>
  )
}
