import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { type ReactNode, useState, useSyncExternalStore } from 'react'
import { Link, useNavigate } from 'react-router'
import { chooseWorkshop, outbox } from '../api/queries'
import { KeysDialog } from '../features/settings/KeysDialog'
import { SettingsDialog } from '../features/settings/SettingsDialog'
import { OutboxDialog } from './OutboxDialog'
import { useSignedIn } from './signedIn'
import { useKeys } from './useKeys'
import { useRelease } from './useRelease'

/** Writes that found no line, and those that were refused. */
export function useStuck(): { waiting: number; refused: number } {
  const waiting = useSyncExternalStore(outbox.subscribe, outbox.stuck).length
  const refused = useSyncExternalStore(outbox.subscribe, outbox.refused).length
  return { waiting, refused }
}

/** What is not with the server yet, in few words; opens what can be done about it. Nothing while all goes out. */
export function OutboxBadge({ className }: { className: string }) {
  const { waiting, refused } = useStuck()
  const [open, setOpen] = useState(false)
  const says = [refused > 0 && t`${refused} refused`, waiting > 0 && t`${waiting} waiting to be sent`]
  return (
    <>
      <span aria-live="polite" className={className}>
        {waiting + refused > 0 && (
          <button
            type="button"
            className={`badge ${refused > 0 ? 'badge-error' : 'badge-warning'} touch`}
            onClick={() => setOpen(true)}
          >
            {says.filter(Boolean).join(' · ')}
          </button>
        )}
      </span>
      {open && <OutboxDialog onClose={() => setOpen(false)} />}
    </>
  )
}

/** In the room for drills: that one is there, and the way back. */
function LeaveTheRoom({ workshop }: { workshop: string }) {
  const navigate = useNavigate()
  const leave = async () => {
    await chooseWorkshop(workshop)
    await navigate('/drills')
  }
  return (
    <button
      type="button"
      className="chip touch border-accent border-dashed font-bold"
      aria-label={t`Drills: back to the workshop`}
      onClick={() => void leave()}
    >
      <Trans>Drills</Trans>
      <span className="hidden sm:inline">{t`: back to the workshop`}</span>
    </button>
  )
}

export function TopBar({ children }: { children?: ReactNode }) {
  const { me, vocabulary } = useSignedIn()
  const [open, setOpen] = useState<'settings' | 'keys' | null>(null)
  const { fresh, take } = useRelease()
  useKeys({ '?': () => setOpen('keys') }, me.habits.single_keys)
  const look = (unit: string) => vocabulary.units.find((candidate) => candidate.unit === unit)?.look ?? unit
  return (
    <header className="no-print border-base-300 border-b">
      <div className="mx-auto flex max-w-[1280px] items-center gap-3 px-3 py-1.5 sm:px-6">
        <Link
          to="/jobs"
          className="touch flex items-center gap-2 text-lg font-bold"
          aria-label={t`Warm Draft, jobs`}
        >
          <img src="/mark.svg" alt="" width="28" height="28" />
          <span className="hidden sm:inline">
            <Trans>Warm Draft</Trans>
          </span>
        </Link>
        <div className="min-w-0 flex-1">{children}</div>
        {fresh && (
          <button type="button" className="chip" onClick={take}>
            <Trans>
              New <span className="sr-only sm:not-sr-only">version: take it</span>
            </Trans>
          </button>
        )}
        {me.practice_of && <LeaveTheRoom workshop={me.practice_of} />}
        <OutboxBadge className="hidden md:flex" />
        <button type="button" className="chip hidden md:block" onClick={() => setOpen('settings')}>
          <span className="sr-only">
            <Trans>Units:</Trans>{' '}
          </span>
          {look(me.habits.flow)} · {look(me.habits.pressure)} · {look(me.habits.temperature)}
        </button>
        <button type="button" className="chip touch font-bold" onClick={() => setOpen('settings')}>
          {me.initials}
          <span className="sr-only">
            <Trans>, {me.name}: habits and sign-out</Trans>
          </span>
        </button>
      </div>
      {open === 'settings' && <SettingsDialog onClose={() => setOpen(null)} onKeys={() => setOpen('keys')} />}
      {open === 'keys' && <KeysDialog onClose={() => setOpen(null)} />}
    </header>
  )
}
