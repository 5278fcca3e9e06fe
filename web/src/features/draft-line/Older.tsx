import { Plural } from '@lingui/react/macro'

/** Facts wait on this device: what is drawn has not heard them. */
export function Older({ readings, className = '' }: { readings: number; className?: string }) {
  if (readings === 0) return null
  return (
    <p role="status" className={`badge badge-warning ${className}`}>
      <Plural value={readings} one="Older than # reading" other="Older than # readings" />
    </p>
  )
}
