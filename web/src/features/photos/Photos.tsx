import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { Suspense, useEffect, useMemo, useRef, useState } from 'react'
import { useWaiting } from '../../api/queries'
import type { Job, Photo, Wire } from '../../api/types'
import { addPhoto, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { fetched } from '../../ui/fetched'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { colourOf, nameOf } from '../bench/bench'
import { type Dot, Marked } from './Marked'
import { useNote } from './note'
import { shrink } from './shrink'

const MarkWires = fetched(() => import('./MarkWires').then((m) => m.MarkWires))

/** Takes a photo (or a file) of a step; it is made small here and goes out like every write. */
export function PhotoButton({ job, step }: { job: Job; step: string }) {
  const input = useRef<HTMLInputElement>(null)
  const { trouble, write } = useWrite()
  const take = async (file: File | undefined) => {
    if (!file) return
    const { id, outcome } = addPhoto(job.id, await shrink(file), step)
    if (await write(outcome)) canUndo(job.id, { says: t`photo`, run: () => void withdraw(job.id, id, true) })
  }
  return (
    <>
      <Button kind="ghost" className="h-[54px]" onClick={() => input.current?.click()}>
        <Trans>Take a photo</Trans>
      </Button>
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        className="sr-only"
        tabIndex={-1}
        aria-label={t`Photo`}
        onChange={(event) => {
          void take(event.target.files?.[0])
          event.target.value = ''
        }}
      />
      {trouble && (
        <p role="alert" className="text-error w-full">
          {trouble}
        </p>
      )}
    </>
  )
}

/** Photos of a step, those that wait on the device among them; large where hands work by them.
 *  wires: of the step, so that each can be marked on a photo. */
export function Photos({
  job,
  step,
  wires = [],
  large = false,
}: {
  job: Job
  step: string
  wires?: readonly Wire[]
  large?: boolean
}) {
  const size = large ? 'max-h-80 w-auto max-w-full rounded-lg' : 'h-24 w-auto rounded-lg'
  const photos = job.photos.filter((photo) => photo.step === step)
  const waiting = useWaiting(job.id).flatMap(({ id, path, body }) => {
    const of = new URLSearchParams(path.split('?')[1]).get('step')
    return body instanceof Blob && of === step ? [{ id, body }] : []
  })
  if (photos.length + waiting.length === 0) return null
  return (
    <ul className="mt-3 flex flex-wrap gap-2" aria-label={t`Photos`}>
      {photos.map((photo, i) => (
        <li key={photo.id}>
          <Marked dots={dotsOf(photo, wires)}>
            <a href={photo.url} target="_blank" rel="noreferrer">
              <img
                src={photo.url}
                width={photo.width}
                height={photo.height}
                alt={t`${i + 1} of this step, by ${photo.by}`}
                className={size}
              />
            </a>
          </Marked>
          {!job.handed_over && <Said job={job} photo={photo} wires={wires} />}
        </li>
      ))}
      {waiting.map(({ id, body }) => (
        <li key={id}>
          <WaitingPhoto blob={body} size={size} />
        </li>
      ))}
    </ul>
  )
}

/** The marks of a photo, each wire in its own words and colour. */
const dotsOf = (photo: Photo, wires: readonly Wire[]): Dot[] =>
  photo.wires.map((mark) => {
    const wire = wires.find((row) => row.key === mark.key)
    return {
      ...mark,
      colour: wire && colourOf(wire),
      text: wire ? nameOf(wire) : mark.key,
    }
  })

/** What is said of a photo: whether the customer gets it, and which wire is where. */
function Said({ job, photo, wires }: { job: Job; photo: Photo; wires: readonly Wire[] }) {
  const [marking, setMarking] = useState(false)
  const { trouble, note } = useNote(job.id, photo)
  return (
    <div className="flex flex-wrap items-center gap-x-3">
      <Button
        kind="ghost"
        className="touch px-2"
        aria-pressed={photo.on_record}
        onClick={() => void note({ on_record: !photo.on_record })}
      >
        {photo.on_record ? t`✓ On the record` : t`Put on the record`}
      </Button>
      {wires.length > 0 && (
        <Button kind="ghost" className="touch px-2" onClick={() => setMarking(true)}>
          {photo.wires.length > 0 ? t`Wires marked` : t`Mark the wires`}
        </Button>
      )}
      <Trouble says={trouble} />
      {marking && (
        <Suspense>
          <MarkWires job={job.id} photo={photo} wires={wires} onClose={() => setMarking(false)} />
        </Suspense>
      )}
    </div>
  )
}

function WaitingPhoto({ blob, size }: { blob: Blob; size: string }) {
  const url = useMemo(() => URL.createObjectURL(blob), [blob])
  useEffect(() => () => URL.revokeObjectURL(url), [url])
  return <img src={url} alt={t`waits on this device`} className={`${size} opacity-60`} />
}
