import { useRegisterSW } from 'virtual:pwa-register/react'

const LOOK_EVERY = 3600_000 // ms

/** A newer release is on the device: it comes in when the person takes it, never under their hands. */
export function useRelease(): { fresh: boolean; take: () => void } {
  const {
    needRefresh: [fresh],
    updateServiceWorker,
  } = useRegisterSW({
    onRegisteredSW: (_url, registration) => {
      if (registration) setInterval(() => void registration.update().catch(() => undefined), LOOK_EVERY)
    },
  })
  return { fresh, take: () => void updateServiceWorker(true) }
}
