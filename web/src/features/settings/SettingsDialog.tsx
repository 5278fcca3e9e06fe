import type { MessageDescriptor } from '@lingui/core'
import { msg, t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { useState, useSyncExternalStore } from 'react'
import { Link, useNavigate } from 'react-router'
import { sentence } from '../../api/client'
import { outbox, signOut, useHabits } from '../../api/queries'
import type { Habits } from '../../api/types'
import { type Wording, worded } from '../../app/language'
import { textOf, useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { Account } from './Account'
import { Workshops } from './Workshops'

type ChoiceKey = 'flow' | 'pressure' | 'temperature' | 'length' | 'theme'

const CHOICES: { key: ChoiceKey; title: MessageDescriptor; options: readonly [string, Wording][] }[] = [
  {
    key: 'flow',
    title: msg`Flow`,
    options: [
      ['cfm', 'cfm'],
      ['L/s', 'L/s'],
      ['m3/h', 'm³/h'],
    ],
  },
  {
    key: 'pressure',
    title: msg`Pressure`,
    options: [
      ['inH2O', 'inH2O'],
      ['Pa', 'Pa'],
      ['mbar', 'mbar'],
      ['mmH2O', 'mmH2O'],
    ],
  },
  {
    key: 'temperature',
    title: msg`Temperature`,
    options: [
      ['degF', '°F'],
      ['degC', '°C'],
    ],
  },
  {
    key: 'length',
    title: msg`Length`,
    options: [
      ['in', 'in'],
      ['mm', 'mm'],
    ],
  },
  {
    key: 'theme',
    title: msg`Look`,
    options: [
      ['system', msg`as the device`],
      ['linen', msg`linen`],
      ['cellar', msg`cellar`],
    ],
  },
]

export function SettingsDialog({ onClose, onKeys }: { onClose: () => void; onKeys: () => void }) {
  const { me, vocabulary } = useSignedIn()
  // how one uses an instrument is asked where it is read
  const carried = vocabulary.instruments.filter(({ of }) => of === null)
  const carries = me.habits.carries ?? carried.map(({ code }) => code)
  const habits = useHabits()
  const qualified = me.qualifications.map((code) => textOf(vocabulary.qualifications, code)).join(', ')
  const [failed, setFailed] = useState<string | null>(null)
  const set = (change: Partial<Habits>) => habits.mutate({ ...me.habits, ...change })
  return (
    <Dialog title={me.name} onClose={onClose}>
      <p className="text-soft">
        {me.workshop} · {textOf(vocabulary.roles, me.role)}
        {qualified && t` · qualified: ${qualified}`}
      </p>
      {CHOICES.map(({ key, title, options }) => (
        <fieldset key={key} className="mt-3">
          <legend className="text-sm font-bold">{worded(title)}</legend>
          <div className="mt-1 flex flex-wrap gap-2">
            {options.map(([value, text]) => (
              <button
                key={value}
                type="button"
                className="chip"
                aria-pressed={me.habits[key] === value}
                onClick={() => set({ [key]: value })}
              >
                {worded(text)}
              </button>
            ))}
          </div>
        </fieldset>
      ))}
      <fieldset className="mt-3">
        <legend className="text-sm font-bold">
          <Trans>What I carry: checks without it are not offered</Trans>
        </legend>
        <div className="mt-1 flex flex-wrap gap-2">
          {carried.map(({ code, text }) => (
            <button
              key={code}
              type="button"
              className="chip"
              aria-pressed={carries.includes(code)}
              onClick={() =>
                set({
                  carries: carries.includes(code)
                    ? carries.filter((name) => name !== code)
                    : [...carries, code],
                })
              }
            >
              {worded(text)}
            </button>
          ))}
        </div>
      </fieldset>
      <div className="mt-3 flex flex-wrap gap-2">
        <button
          type="button"
          className="chip"
          aria-pressed={me.habits.left_handed}
          onClick={() => set({ left_handed: !me.habits.left_handed })}
        >
          <Trans>left hand</Trans>
        </button>
        <button
          type="button"
          className="chip"
          aria-pressed={me.habits.single_keys}
          onClick={() => set({ single_keys: !me.habits.single_keys })}
        >
          <Trans>single keys</Trans>
        </button>
        <button type="button" className="chip" onClick={onKeys}>
          <Trans>all keys</Trans>
        </button>
      </div>
      {(habits.isError || failed) && (
        <p role="alert" className="text-error mt-3">
          {failed ?? sentence(habits.error)}
        </p>
      )}
      <Account />
      <Workshops onChosen={onClose} />
      <p className="mt-2">
        <Link to="/people" className="touch inline-flex items-center underline" onClick={onClose}>
          <Trans>People of the workshop</Trans>
        </Link>{' '}
        ·{' '}
        <Link to="/layouts" className="touch inline-flex items-center underline" onClick={onClose}>
          <Trans>Layouts</Trans>
        </Link>{' '}
        ·{' '}
        <Link to="/parts" className="touch inline-flex items-center underline" onClick={onClose}>
          <Trans>Parts</Trans>
        </Link>
      </p>
      <SignOut onFailed={setFailed} />
    </Dialog>
  )
}

/** Work that is not sent yet stays on the device and goes up when the same person signs in again: asked first. */
function SignOut({ onFailed }: { onFailed: (why: string) => void }) {
  const navigate = useNavigate()
  const unsent = useSyncExternalStore(outbox.subscribe, outbox.waiting).length
  const [asked, setAsked] = useState(false)
  const leave = () => {
    signOut().then(
      () => navigate('/sign-in'),
      (error: unknown) => onFailed(sentence(error)),
    )
  }
  if (!asked || unsent === 0)
    return (
      <Button kind="outline" className="mt-5" onClick={() => (unsent > 0 ? setAsked(true) : leave())}>
        <Trans>Sign out</Trans>
      </Button>
    )
  return (
    <div role="alert" className="border-error mt-5 rounded-xl border-2 p-3">
      <p className="font-bold">
        <Plural value={unsent} one="# entry is not sent yet." other="# entries are not sent yet." />
      </p>
      <p>
        <Trans>They stay on this device and go up only when you sign in here again.</Trans>
      </p>
      <div className="mt-2 flex gap-2">
        <Button kind="primary" onClick={() => setAsked(false)}>
          <Trans>Stay</Trans>
        </Button>
        <Button kind="outline" onClick={leave}>
          <Trans>Sign out all the same</Trans>
        </Button>
      </div>
    </div>
  )
}
