import { t } from '@lingui/core/macro'
import type { Heard } from './microphone'

/** Quieter than this, dB below full scale, nothing of the machine is heard; up to here it is as it should be. */
const QUIET_DB = -45
const LOW_DB = -60
const HIGH_DB = -3

/** How loud it is, and whether that is right: words beside the bar, for nobody reads a bar behind a machine. */
export function Level({ heard }: { heard: Heard }) {
  const db = 20 * Math.log10(Math.max(heard.level, 1e-6))
  const share = Math.min(1, Math.max(0, (db - LOW_DB) / -LOW_DB))
  const said = heard.clipped
    ? t`too loud: hold it further away`
    : db < QUIET_DB
      ? t`hardly anything: is it uncovered?`
      : t`good`
  const tone = heard.clipped || db > HIGH_DB ? 'fill-error' : db < QUIET_DB ? 'fill-warning' : 'fill-success'
  return (
    <div className="flex flex-col gap-1 sm:flex-row sm:items-center sm:gap-3">
      <svg viewBox="0 0 300 18" className="h-5 w-full min-w-0" preserveAspectRatio="none" aria-hidden="true">
        <rect width="300" height="18" rx="6" className="fill-base-300" />
        <rect width={300 * share} height="18" rx="6" className={tone} />
      </svg>
      <span
        className={`shrink-0 leading-tight sm:w-44 ${heard.clipped ? 'text-error font-bold' : ''}`}
        role="status"
      >
        {said}
      </span>
    </div>
  )
}
