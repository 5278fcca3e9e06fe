import { useEffect, useRef } from 'react'

export type Keys = Record<string, (event: KeyboardEvent) => void>

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
  !(target instanceof HTMLInputElement && /^(checkbox|radio|button)$/.test(target.type))

/** Space belongs to the control that has the focus, if one has. */
const onControl = (target: EventTarget | null): boolean =>
  target instanceof Element &&
  target.closest('button, a, input, select, textarea, summary, [role=button]') !== null

/**
 * Single-key shortcuts. They sleep while someone types, while a dialog is open, with a modifier held, and for those who
 * turned them off (WCAG 2.1.4). Escape always works.
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
      if (event.key !== 'Escape') {
        if (!enabled || typing(event.target)) return
        if (event.key === ' ' && onControl(event.target)) return
      }
      event.preventDefault()
      action(event)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [enabled])
}
