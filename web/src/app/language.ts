import { i18n, type MessageDescriptor, type Messages } from '@lingui/core'
import { type CompiledMessage, compileMessage } from '@lingui/message-utils/compileMessage'
import { useEffect, useState } from 'react'

/** The language our code is written in: its words stand where they are drawn, and need no catalogue. */
const SOURCE = 'en'
const REMEMBERED = 'language'
/** Each other language is a catalogue of its own, fetched when it is spoken. */
const catalogues = import.meta.glob<{ messages: Messages }>('../languages/*.po')

const compiled = new Map<string, CompiledMessage>()
i18n.setMessagesCompiler((message) => {
  const known = compiled.get(message)
  if (known) return known
  const made = compileMessage(message)
  compiled.set(message, made)
  return made
})
i18n.loadAndActivate({ locale: SOURCE, messages: {} })

/** Speak a language from now on; where its words are not to be had, our own. */
async function speak(language: string): Promise<void> {
  if (i18n.locale === language) return
  let messages: Messages = {}
  try {
    messages = (await catalogues[`../languages/${language}.po`]?.())?.messages ?? {}
  } catch {
    // no line, and not on the device yet: the next start asks again
  }
  i18n.loadAndActivate({ locale: language, messages })
  document.documentElement.lang = language
}

/** Before anybody has signed in: what was spoken here last. */
export const speakAsLast = () => speak(localStorage.getItem(REMEMBERED) ?? SOURCE)

/** Speak what a workshop speaks; true once it is so. */
export function useSpeaking(language: string | undefined): boolean {
  const [spoken, setSpoken] = useState(i18n.locale)
  useEffect(() => {
    if (!language) return
    localStorage.setItem(REMEMBERED, language)
    void speak(language).then(() => setSpoken(language))
  }, [language])
  return spoken === language
}

/** What stands in a table outside of any drawing: words of ours, or what is the same in every language. */
export type Wording = string | MessageDescriptor

/** Such words, said now. */
export const worded = (words: Wording): string => (typeof words === 'string' ? words : i18n._(words))

/** A moment as this language writes it; English as the device's own region does. */
export const written = (iso: string, how?: Intl.DateTimeFormatOptions): string =>
  new Intl.DateTimeFormat(i18n.locale === SOURCE ? [] : [i18n.locale], how ?? SHORT).format(new Date(iso))

/** A day without an hour, as a calendar has it. */
export const dayOf = (iso: string, month: 'long' | 'short' = 'long'): string =>
  written(`${iso}T12:00:00`, { day: 'numeric', month, year: 'numeric' })

const SHORT: Intl.DateTimeFormatOptions = { dateStyle: 'short', timeStyle: 'short' }
