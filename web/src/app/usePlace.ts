import { useLayoutEffect } from 'react'
import { useLocation } from 'react-router'

/** The page that is drawn: said for whoever waits for it, and begun at its top. */
export function usePlace(): void {
  const { pathname, search } = useLocation()
  useLayoutEffect(() => {
    document.documentElement.dataset.place = pathname + search
  }, [pathname, search])
  // biome-ignore lint/correctness/useExhaustiveDependencies: every page anew
  useLayoutEffect(() => {
    window.scrollTo(0, 0)
  }, [pathname])
}
