import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useMemo, useRef } from 'react'
import { useWaiting } from '../../api/queries'
import type { Job } from '../../api/types'
import { addPhoto, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { useWrite } from '../../ui/useWrite'
import { shrink } from './shrink'

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

/** Photos of a step, those that wait on the device among them. */
export function Photos({ job, step }: { job: Job; step: string }) {
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
          <a href={photo.url} target="_blank" rel="noreferrer">
            <img
              src={photo.url}
              width={photo.width}
              height={photo.height}
              alt={t`${i + 1} of this step, by ${photo.by}`}
              className="h-24 w-auto rounded-lg"
            />
          </a>
        </li>
      ))}
      {waiting.map(({ id, body }) => (
        <li key={id}>
          <WaitingPhoto blob={body} />
        </li>
      ))}
    </ul>
  )
}

function WaitingPhoto({ blob }: { blob: Blob }) {
  const url = useMemo(() => URL.createObjectURL(blob), [blob])
  useEffect(() => () => URL.revokeObjectURL(url), [url])
  return <img src={url} alt={t`waits on this device`} className="h-24 w-auto rounded-lg opacity-60" />
}
