import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Photo, Wire } from '../../api/types'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { Trouble } from '../../ui/Trouble'
import { Tag } from '../bench/Counting'
import { Dots } from './Marked'
import { type Marks, useNote } from './note'

/** How far an arrow key moves a mark, share of the picture. */
const NUDGE = 0.02
const within = (share: number) => Math.min(1, Math.max(0, Math.round(share * 1000) / 1000))
const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-NUDGE, 0],
  ArrowRight: [NUDGE, 0],
  ArrowUp: [0, -NUDGE],
  ArrowDown: [0, NUDGE],
}

/** Which wire is where: choose one, touch it on the photo; arrows move it for those who work by keys. */
export function MarkWires({
  job,
  photo,
  wires,
  onClose,
}: {
  job: string
  photo: Photo
  wires: readonly Wire[]
  onClose: () => void
}) {
  const [marks, setMarks] = useState<Marks>(photo.wires)
  const [chosen, setChosen] = useState(
    (wires.find((wire) => !photo.wires.some((mark) => mark.key === wire.key)) ?? wires[0])?.key ?? '',
  )
  const { trouble, note } = useNote(job, photo)
  const place = (x: number, y: number, on = false) => {
    const put = { key: chosen, x: within(x), y: within(y) }
    const known = marks.some((mark) => mark.key === chosen)
    const next = known ? marks.map((mark) => (mark.key === chosen ? put : mark)) : [...marks, put]
    setMarks(next)
    const left = wires.find((wire) => !next.some((mark) => mark.key === wire.key))
    if (on && !known && left) setChosen(left.key)
  }
  const save = async () => {
    if (await note({ wires: marks })) onClose()
  }
  return (
    <Dialog title={t`Which wire is where?`} onClose={onClose}>
      <p>
        <Trans>Choose a wire, then touch its terminal on the photo.</Trans>
      </p>
      <ul className="my-2 flex flex-wrap gap-2">
        {wires.map((wire) => {
          const number = marks.findIndex((mark) => mark.key === wire.key) + 1
          return (
            <li key={wire.key}>
              <button
                type="button"
                aria-pressed={wire.key === chosen}
                className={`touch flex items-center gap-2 rounded-xl border px-2 text-left ${wire.key === chosen ? 'border-primary border-2' : 'border-base-300'}`}
                onClick={() => setChosen(wire.key)}
              >
                {number > 0 && <b>{number}</b>}
                <Tag wire={wire} small />
              </button>
            </li>
          )
        })}
      </ul>
      <button
        type="button"
        aria-label={t`The photo: touch where this wire is, or move it by the arrow keys`}
        className="relative mx-auto block w-fit cursor-crosshair touch-manipulation"
        onClick={(event) => {
          const { left, top, width, height } = event.currentTarget.getBoundingClientRect()
          // Enter and Space come without a place: the middle, for the arrows to move
          const byKey = event.detail === 0
          place(
            byKey ? 0.5 : (event.clientX - left) / width,
            byKey ? 0.5 : (event.clientY - top) / height,
            !byKey,
          )
        }}
        onKeyDown={(event) => {
          const by = ARROWS[event.key]
          if (!by) return
          event.preventDefault()
          const from = marks.find((mark) => mark.key === chosen) ?? { x: 0.5, y: 0.5 }
          place(from.x + by[0], from.y + by[1])
        }}
      >
        <img
          src={photo.url}
          alt=""
          width={photo.width}
          height={photo.height}
          className="max-h-[55vh] w-auto rounded-lg"
        />
        <Dots dots={marks.map((mark) => ({ ...mark, text: '' }))} chosen={chosen} />
      </button>
      <Trouble says={trouble} />
      <div className="mt-3 flex flex-wrap gap-2">
        <Button kind="neutral" className="touch" onClick={() => void save()}>
          <Trans>Keep the marks</Trans>
        </Button>
        {marks.some((mark) => mark.key === chosen) && (
          <Button
            kind="ghost"
            className="touch"
            onClick={() => setMarks(marks.filter((mark) => mark.key !== chosen))}
          >
            <Trans>Take this mark away</Trans>
          </Button>
        )}
      </div>
    </Dialog>
  )
}
