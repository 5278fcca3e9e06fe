import { outbox } from '../api/queries'

/**
 * Whoever types fast is heard out: keys that are typed while what an earlier one asked for is still on its way have
 * their turn once it is there, in their order.
 */

/** Longest that is waited for one thing, ms. */
const PATIENCE = 5000

let under = 0
let playing = false
const ahead: string[] = []

export const typing = (target: EventTarget | null): target is HTMLElement =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
  !(target instanceof HTMLInputElement && /^(checkbox|radio|button)$/.test(target.type))

const frame = () => new Promise<void>((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
const here = () => location.pathname + location.search
/** The page that is drawn says so, see `usePlace`. */
const arriving = () => {
  const { place } = document.documentElement.dataset
  return place !== undefined && place !== here()
}

/** All that was done is kept on the device and drawn, and the page that was asked for is there. */
export async function drawn(): Promise<void> {
  const began = performance.now()
  await patiently(outbox.kept())
  do await frame()
  while (arriving() && performance.now() - began < PATIENCE)
}

/** No longer than anybody would wait. */
export const patiently = (work: Promise<unknown>, longest = PATIENCE): Promise<unknown> =>
  Promise.race([work, new Promise((resolve) => setTimeout(resolve, longest))])

let presses = 0
const pressed = () => {
  presses += 1
}
for (const kind of ['pointerdown', 'input']) globalThis.addEventListener?.(kind, pressed, { capture: true })

/** Whether somebody has gone on by hand since this was asked: then what was waited for comes too late to be meant. */
export function wentOn(): () => boolean {
  const before = presses
  return () => presses !== before
}

/** Keys wait for this, and for what it brings to be drawn. */
export function hold(work: unknown): void {
  under += 1
  // longer than what it waits for itself: a key never overtakes the one before it
  void patiently(Promise.resolve(work), 3 * PATIENCE)
    .catch(() => undefined)
    .then(drawn)
    .finally(() => {
      under -= 1
      play()
    })
}

/** One key after the other, each once what the one before did is drawn: an Enter sends what was typed, not half of it. */
function play(): void {
  const key = under === 0 ? ahead.shift() : undefined
  if (key === undefined) return
  playing = true
  try {
    press(key)
  } finally {
    playing = false
    hold(undefined)
  }
}

/** What the browser does with a key that a person pressed. */
function press(key: string): void {
  const at = document.activeElement
  if (typing(at)) {
    into(at, key)
    return
  }
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true })
  ;(at ?? document.body).dispatchEvent(event)
  if (event.defaultPrevented) return
  const now = document.activeElement
  if (now !== at && typing(now)) into(now, key)
  else if ((key === 'Enter' || key === ' ') && at instanceof HTMLElement && at.matches('button, a, summary'))
    at.click()
}

function into(field: HTMLElement, key: string): void {
  if (key === 'Enter') (field as HTMLInputElement).form?.requestSubmit()
  else if (key === 'Escape') field.blur()
  // the one way that fields hear of, in every browser
  else document.execCommand(key === 'Backspace' ? 'delete' : 'insertText', false, key)
}

globalThis.addEventListener?.(
  'keydown',
  (event) => {
    if (under === 0 || playing || event.ctrlKey || event.metaKey || event.altKey) return
    // a field takes what is typed itself, but never before what was typed ahead of it
    if ((typing(event.target) && ahead.length === 0) || document.querySelector('dialog[open]')) return
    if (event.key.length > 1 && !['Enter', 'Escape', 'Backspace'].includes(event.key)) return
    ahead.push(event.key)
    event.preventDefault()
    event.stopImmediatePropagation()
  },
  { capture: true },
)
