import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job } from '../../api/types'
import { Button } from '../../ui/Button'
import { Field } from '../../ui/Field'
import { asNumber } from '../../ui/numbers'
import { PhotoButton } from '../photos/Photos'
import { type Flat, laidUnder, movedTo, type Plan, toLength, type Underlay } from './plan'

/** The step that photos of the wall behind are of. */
const STEP = 'plan.wall'
type Fits = 'across' | 'up' | 'move'
/** A photo that is being fitted: which way, and the first of two points once it was tapped. */
export type Fitting = { fits: Fits; one: Flat | null; other: Flat | null }

type Props = {
  job: Job
  plan: Plan
  fitting: Fitting | null
  onFitting: (fitting: Fitting | null) => void
  onPhoto: (photo: Underlay | undefined) => void
}

/** A photo of the wall behind under the plan, drawn to scale by two lengths that are known. */
export function UnderPhoto({ job, plan, fitting, onFitting, onPhoto }: Props) {
  const [typed, setTyped] = useState('')
  const taken = job.photos.filter((photo) => photo.step === STEP)
  const under = plan.photo
  const begin = (fits: Fits) => {
    setTyped('')
    onFitting({ fits, one: null, other: null })
  }
  const scale = () => {
    if (!under || !fitting?.one || !fitting.other || fitting.fits === 'move') return
    onPhoto(toLength(under, fitting.fits, fitting.one, fitting.other, asNumber(typed) / plan.cell.value))
    onFitting(null)
  }
  return (
    <details className="mt-3">
      <summary className="touch flex cursor-pointer items-center font-bold">
        <Trans>A photo of the wall under it</Trans>
      </summary>
      <div className="flex flex-wrap items-center gap-2">
        <PhotoButton job={job} step={STEP} />
        {taken.map((photo) => (
          <button
            key={photo.id}
            type="button"
            className="touch rounded-lg aria-pressed:outline-2"
            aria-pressed={photo.id === under?.id}
            aria-label={t`Lay this photo under it`}
            onClick={() => onPhoto(laidUnder(plan, photo))}
          >
            <img src={photo.url} alt="" className="h-14 rounded-lg" />
          </button>
        ))}
      </div>
      {under && (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <Button kind="outline" aria-pressed={fitting?.fits === 'across'} onClick={() => begin('across')}>
            <Trans>A width that is known</Trans>
          </Button>
          <Button kind="outline" aria-pressed={fitting?.fits === 'up'} onClick={() => begin('up')}>
            <Trans>A height that is known</Trans>
          </Button>
          <Button kind="outline" aria-pressed={fitting?.fits === 'move'} onClick={() => begin('move')}>
            <Trans>Move it</Trans>
          </Button>
          <Button kind="ghost" onClick={() => onPhoto(undefined)}>
            <Trans>Take the photo away</Trans>
          </Button>
        </div>
      )}
      {under && fitting && (
        <form
          className="mt-2 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            scale()
          }}
        >
          <p className="w-full" aria-live="polite">
            {asks(fitting)}
          </p>
          {fitting.fits !== 'move' && fitting.other && (
            <>
              <Field
                title={t`How far apart they are, ${plan.cell.unit}`}
                value={typed}
                onChange={setTyped}
                inputMode="decimal"
                maxLength={12}
              />
              <Button type="submit" kind="primary" disabled={!(asNumber(typed) > 0)}>
                <Trans>Draw it to scale</Trans>
              </Button>
            </>
          )}
        </form>
      )}
    </details>
  )
}

/** What a tap on the photo is for. */
function asks({ fits, one, other }: Fitting): string {
  if (fits === 'move') return one ? t`Tap where it belongs.` : t`Tap a point of the photo, facing the wall.`
  if (!one) return t`Tap one end of it on the photo, facing the wall.`
  return other ? t`Say how long that is.` : t`Tap its other end.`
}

/** A point tapped while a photo is fitted: what comes of the fitting, and of the photo where it moves. */
export function pointed(
  fitting: Fitting,
  photo: Underlay,
  at: Flat,
): { fitting: Fitting | null; photo: Underlay } {
  if (!fitting.one) return { fitting: { ...fitting, one: at }, photo }
  if (fitting.fits === 'move') return { fitting: null, photo: movedTo(photo, fitting.one, at) }
  return { fitting: { ...fitting, other: at }, photo }
}
