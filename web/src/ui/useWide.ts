import { useSyncExternalStore } from 'react'

const query = '(min-width: 48rem)'

/** Whether there is room, and most likely a keyboard. */
export function useWide(): boolean {
  return useSyncExternalStore(
    (listener) => {
      const media = window.matchMedia(query)
      media.addEventListener('change', listener)
      return () => media.removeEventListener('change', listener)
    },
    () => window.matchMedia(query).matches,
  )
}
