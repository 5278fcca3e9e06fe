import { useEffect, useRef } from 'react'
import { hold, typing } from './ahead'

/** What a key does; false: nothing, it stays the browser's. What takes its time is a promise: keys after it wait. */
export type Keys = Record<string, (event: KeyboardEvent) => unknown>

/** Space belongs to the control that has the focus, if one has. */
const onControl = (target: EventTarget | null): boolean =>
  target instanceof Element &&
  target.closest('button, a, input, select, textarea, summary, [role=button]') !== null

/**
 * Single-key shortcuts. They sleep while someone types, while a dialog is open, with a modifier held, and for those who
 * turned them off (WCAG 2.1.4). Escape always works: first it leaves the field.
 */
export function useKeys(keys: Keys, enabled: boolean): void {
  const latest = useRef(keys)
  latest.current = keys
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return
      if (document.querySelector('dialog[open]')) return
      const action = latest.current[event.key]
      if (!action) return
      if (typing(event.target)) {
        if (event.key !== 'Escape') return
        event.preventDefault()
        return event.target.blur()
      }
      if (event.key !== 'Escape' && !enabled) return
      if (event.key === ' ' && onControl(event.target)) return
      const work = action(event)
      if (work === false) return
      event.preventDefault()
      hold(work)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [enabled])
}
