import { i18n } from '@lingui/core'
import { I18nProvider } from '@lingui/react'
import { act, type ReactNode } from 'react'
import { createRoot } from 'react-dom/client'
import { MemoryRouter } from 'react-router'
import { SignedInContext } from '../app/signedIn'
import { me, vocabulary } from './fixtures'

declare global {
  var IS_REACT_ACT_ENVIRONMENT: boolean
}
globalThis.IS_REACT_ACT_ENVIRONMENT = true

/** Draw something as a signed-in person sees it; its element. */
export async function shown(ui: ReactNode, person = me): Promise<HTMLElement> {
  const host = document.createElement('div')
  document.body.replaceChildren(host)
  await act(async () =>
    createRoot(host).render(
      <I18nProvider i18n={i18n}>
        <MemoryRouter>
          <SignedInContext value={{ me: person, vocabulary }}>{ui}</SignedInContext>
        </MemoryRouter>
      </I18nProvider>,
    ),
  )
  return host
}

/** What comes in a moment later, a part that is loaded when it is wanted; fails where it does not come. */
export async function later<Found>(find: () => Found | null | undefined | false): Promise<Found> {
  for (let i = 0; i < 200; i++) {
    const found = find()
    if (found) return found
    await act(async () => new Promise((done) => setTimeout(done, 10)))
  }
  throw new Error('it does not come')
}

/** Press the button whose words hold these. */
export async function press(host: HTMLElement, words: string): Promise<void> {
  const button = [...host.querySelectorAll<HTMLElement>('button, [role=button]')].find((candidate) =>
    candidate.textContent?.includes(words),
  )
  if (!button) throw new Error(`no button says “${words}”`)
  await act(async () => button.click())
}

/** Type into the only field there is. */
export async function type(host: HTMLElement, text: string): Promise<void> {
  const field = host.querySelector<HTMLInputElement>('input:not([type=file])')
  if (!field) throw new Error('there is no field')
  await act(async () => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(field, text)
    field.dispatchEvent(new Event('input', { bubbles: true }))
  })
}

export async function submit(host: HTMLElement): Promise<void> {
  await act(async () => host.querySelector('form')?.requestSubmit())
}
