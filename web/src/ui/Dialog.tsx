import { Trans } from '@lingui/react/macro'
import { type ReactNode, useEffect, useRef } from 'react'
import { Button } from './Button'

type Props = { title: string; onClose: () => void; children: ReactNode }

/** A modal dialog of the browser's own: focus stays inside, Escape closes. */
export function Dialog({ title, onClose, children }: Props) {
  const ref = useRef<HTMLDialogElement>(null)
  useEffect(() => {
    const dialog = ref.current
    if (!dialog || dialog.open) return
    dialog.showModal()
    dialog.querySelector<HTMLElement>('[data-first]')?.focus() // or the browser takes the first there is
  }, [])
  return (
    <dialog
      ref={ref}
      onClose={onClose}
      aria-labelledby="dialog-title"
      className="card-paper m-auto w-[min(34rem,calc(100vw-1.5rem))] p-5 text-base-content backdrop:bg-black/50"
    >
      <div className="flex items-start justify-between gap-4">
        <h2 id="dialog-title" className="text-xl font-bold">
          {title}
        </h2>
        <Button kind="ghost" onClick={() => ref.current?.close()}>
          <Trans>Close</Trans>
        </Button>
      </div>
      <div className="mt-3">{children}</div>
    </dialog>
  )
}
