import { type ReactNode, useState, useSyncExternalStore } from 'react'
import { Link } from 'react-router'
import { outbox } from '../api/queries'
import { KeysDialog } from '../features/settings/KeysDialog'
import { SettingsDialog } from '../features/settings/SettingsDialog'
import { useSignedIn } from './signedIn'
import { useKeys } from './useKeys'

/** Writes that found no line. */
export const useStuck = () => useSyncExternalStore(outbox.subscribe, outbox.stuck)

export function TopBar({ children }: { children?: ReactNode }) {
  const { me, vocabulary } = useSignedIn()
  const [open, setOpen] = useState<'settings' | 'keys' | null>(null)
  const waiting = useStuck()
  useKeys({ '?': () => setOpen('keys') }, me.habits.single_keys)
  const look = (unit: string) => vocabulary.units.find((candidate) => candidate.unit === unit)?.look ?? unit
  return (
    <header className="no-print border-base-300 border-b">
      <div className="mx-auto flex max-w-[1280px] items-center gap-3 px-3 py-1.5 sm:px-6">
        <Link
          to="/jobs"
          className="touch flex items-center gap-2 text-lg font-bold"
          aria-label="Warm Draft, jobs"
        >
          <img src="/mark.svg" alt="" width="28" height="28" />
          <span className="hidden sm:inline">Warm Draft</span>
        </Link>
        <div className="min-w-0 flex-1">{children}</div>
        {waiting.length > 0 && (
          <p className="badge badge-warning touch hidden md:flex" role="status">
            {waiting.length} waiting to be sent
          </p>
        )}
        <button type="button" className="chip hidden md:block" onClick={() => setOpen('settings')}>
          <span className="sr-only">Units: </span>
          {look(me.habits.flow)} · {look(me.habits.pressure)} · {look(me.habits.temperature)}
        </button>
        <button type="button" className="chip touch font-bold" onClick={() => setOpen('settings')}>
          {me.initials}
          <span className="sr-only">, {me.name}: habits and sign-out</span>
        </button>
      </div>
      {open === 'settings' && <SettingsDialog onClose={() => setOpen(null)} onKeys={() => setOpen('keys')} />}
      {open === 'keys' && <KeysDialog onClose={() => setOpen(null)} />}
    </header>
  )
}
