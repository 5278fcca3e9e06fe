import { registerSW } from 'virtual:pwa-register'
import { useSyncExternalStore } from 'react'

const LOOK_EVERY = 3600_000 // ms

let fresh = false
const listeners = new Set<() => void>()

/** Once for the app, however many bars there are. */
const update = registerSW({
  onNeedRefresh: () => {
    fresh = true
    for (const listener of listeners) listener()
  },
  onRegisteredSW: (_url, registration) => {
    if (registration) setInterval(() => void registration.update().catch(() => undefined), LOOK_EVERY)
  },
})

const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** A newer release is on the device: it comes in when the person takes it, never under their hands. */
export const useRelease = () => ({
  fresh: useSyncExternalStore(subscribe, () => fresh),
  take: () => void update(true),
})
