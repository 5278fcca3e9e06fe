import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { Button } from '../../ui/Button'

/** How far one is stays while one looks elsewhere: by job and line, on this device. */
const kept = (at: string) => `warm-draft vanes ${at}`

/** Counted vane by vane, so that none is left out: the next one is marked, those that are clean are filled. */
export function VaneCounter({ at, vanes }: { at: string; vanes: number }) {
  const [done, setDone] = useState(() => Math.min(vanes, Number(sessionStorage.getItem(kept(at))) || 0))
  const count = (to: number) => {
    sessionStorage.setItem(kept(at), String(to))
    setDone(to)
  }
  const all = done >= vanes
  const angles = Array.from({ length: vanes }, (_, i) => (360 * i) / vanes)
  return (
    <div className="mt-3 flex flex-wrap items-center gap-4" role="group" aria-label={t`Vane by vane`}>
      <svg viewBox="-50 -50 100 100" className="w-36" aria-hidden="true">
        <circle r="30" className="stroke-base-300 fill-none" strokeWidth="2" />
        {angles.map((angle, i) => (
          <path
            key={angle}
            d="M0 -45L0 -31"
            transform={`rotate(${angle})`}
            className={i < done ? 'stroke-success' : i === done ? 'stroke-primary' : 'stroke-base-content/35'}
            strokeWidth={i === done ? 4.5 : 2.8}
          />
        ))}
        <path d="M-4 -22L4 -22L0 -28Z" className="fill-base-content" />
      </svg>
      <div>
        <p className="text-xl font-bold" aria-live="polite">
          {all ? t`✓ All ${vanes} vanes` : t`${done} of ${vanes} vanes`}
        </p>
        <p className="text-soft text-sm">
          <Trans>Mark the first one with chalk, go round one way.</Trans>
        </p>
        <div className="mt-1 flex flex-wrap gap-2">
          <Button kind="outline" className="h-[54px] px-6" disabled={all} onClick={() => count(done + 1)}>
            <Trans>Clean: next</Trans>
          </Button>
          {done > 0 && (
            <Button kind="ghost" className="h-[54px]" onClick={() => count(done - 1)}>
              <Trans>One back</Trans>
            </Button>
          )}
        </div>
      </div>
    </div>
  )
}
