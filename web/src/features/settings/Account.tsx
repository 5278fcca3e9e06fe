import { useState } from 'react'
import { sentence } from '../../api/client'
import { changePassword, endSitting, useSittings } from '../../api/people'
import { PasswordField } from '../sign-in/LinkPages'

/** One's own account: the password, and where one is signed in. */
export function Account() {
  const [old, setOld] = useState('')
  const [fresh, setFresh] = useState('')
  const [told, setTold] = useState<string | null>(null)
  const [trouble, setTrouble] = useState<string | null>(null)
  const sittings = useSittings()
  const failed = (error: unknown) => setTrouble(sentence(error))
  return (
    <details className="mt-4">
      <summary className="touch flex cursor-pointer items-center font-bold">
        Password, and where I am signed in
      </summary>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          setTold(null)
          setTrouble(null)
          changePassword(old, fresh).then(() => {
            setTold('Changed. Every other sign-in has ended.')
            setOld('')
            setFresh('')
          }, failed)
        }}
      >
        <PasswordField title="Password now" fresh={false} value={old} onChange={setOld} />
        <PasswordField title="New password, ten characters or more" value={fresh} onChange={setFresh} />
        <button type="submit" className="btn btn-outline touch mt-2">
          Change the password
        </button>
      </form>
      <p role={trouble ? 'alert' : 'status'} className={trouble ? 'text-error' : 'text-success font-bold'}>
        {trouble ?? told}
      </p>
      <ul className="mt-2">
        {(sittings.data ?? []).map((row) => (
          <li key={row.id} className="border-base-300 flex min-h-11 items-center gap-3 border-b py-1">
            <span className="min-w-0 flex-1">
              <span className="block truncate">
                {/\(([^)]+)\)/.exec(row.browser)?.[1] ?? 'a browser that says nothing of itself'}
              </span>
              <span className="text-soft block text-sm">
                {row.this_one ? 'this one' : `last seen ${new Date(row.seen_at).toLocaleString()}`}
              </span>
            </span>
            {!row.this_one && (
              <button
                type="button"
                className="btn btn-ghost touch"
                onClick={() => void endSitting(row.id).catch(failed)}
              >
                End
              </button>
            )}
          </li>
        ))}
      </ul>
    </details>
  )
}
