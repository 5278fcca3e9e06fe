import { useEffect } from 'react'

/** The screen stays on while a step is open: hands are elsewhere. Where the browser cannot, nothing happens. */
export function useAwake(on: boolean): void {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | undefined
    let over = false
    const take = () => {
      if (document.visibilityState !== 'visible') return
      navigator.wakeLock.request('screen').then(
        (got) => {
          if (over) void got.release()
          else lock = got
        },
        () => undefined, // battery saver, or no permission: the screen goes dark as it always did
      )
    }
    take()
    document.addEventListener('visibilitychange', take)
    return () => {
      over = true
      document.removeEventListener('visibilitychange', take)
      void lock?.release()
    }
  }, [on])
}
