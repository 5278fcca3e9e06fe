import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useSyncExternalStore } from 'react'
import { Link } from 'react-router'
import { MOST_TRIES, type Write } from '../api/outbox'
import { freshJob, outbox } from '../api/queries'
import { newId } from '../api/uuid'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { Trouble } from '../ui/Trouble'
import { useWrite } from '../ui/useWrite'

/** What is on the device and not with the server: what waits, and what was refused, each with a way on. */
export function OutboxDialog({ onClose }: { onClose: () => void }) {
  const waiting = useSyncExternalStore(outbox.subscribe, outbox.waiting)
  const refused = useSyncExternalStore(outbox.subscribe, outbox.refused)
  return (
    <Dialog title={t`On this device`} onClose={onClose}>
      {waiting.length + refused.length === 0 && (
        <p>
          <Trans>Everything is with the server.</Trans>
        </p>
      )}
      {refused.length > 0 && (
        <section>
          <h3 className="font-bold">
            <Trans>Refused</Trans>
          </h3>
          <ul className="grid gap-3">
            {refused.map((write) => (
              <li key={write.id} className="border-error rounded-xl border-2 p-3">
                <Refusal write={write} onGo={onClose} />
              </li>
            ))}
          </ul>
        </section>
      )}
      {waiting.length > 0 && (
        <section className="mt-3">
          <div className="flex items-center justify-between">
            <h3 className="font-bold">
              <Trans>Waits for a line, in this order</Trans>
            </h3>
            <Button kind="outline" onClick={() => void outbox.flush()}>
              <Trans>Try now</Trans>
            </Button>
          </div>
          <ol className="mt-1">
            {waiting.map((write) => (
              <li key={write.id} className="border-base-300 border-b py-1.5">
                {write.says}
              </li>
            ))}
          </ol>
        </section>
      )}
    </Dialog>
  )
}

function Refusal({ write: refused, onGo }: { write: Write; onGo: () => void }) {
  const { trouble, write } = useWrite()
  const { problem } = refused
  if (!problem) return null
  const { recorded, offered } = problem
  const both = recorded && offered ? differing(recorded, offered) : []
  const mine = async () => {
    await write(outbox.again(refused, await mended(refused, problem.code)))
  }
  return (
    <div>
      <p className="font-bold">{refused.says}</p>
      <p role="alert">
        {problem.message}
        {(refused.tries ?? 0) >= MOST_TRIES && t` Tried ${MOST_TRIES} times; what else waits goes on.`}
      </p>
      {both.length > 0 && (
        <table className="mt-2 w-full table-fixed text-left text-sm">
          <thead>
            <tr>
              <th className="w-1/4" />
              <th className="p-1">
                <Trans>There now</Trans>
              </th>
              <th className="p-1">
                <Trans>Yours</Trans>
              </th>
            </tr>
          </thead>
          <tbody>
            {both.map(({ key, there, yours }) => (
              <tr key={key} className="border-base-300 border-t align-top">
                <th className="text-soft py-1 pr-2 font-normal break-words">{key.replaceAll('_', ' ')}</th>
                <td className="p-1 break-words">{there}</td>
                <td className="p-1 font-bold break-words">{yours}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Trouble says={trouble} />
      <div className="mt-2 flex flex-wrap gap-2">
        {problem.code !== 'handed_over' && (
          <Button kind="primary" onClick={() => void mine()}>
            {problem.status === 409 ? t`Put mine there` : t`Try again`}
          </Button>
        )}
        <Button kind="outline" onClick={() => void outbox.drop(refused.id)}>
          {problem.status === 409 ? t`Keep what is there` : t`Give it up`}
        </Button>
        <SaveToFile write={refused} />
        <Link className="btn btn-ghost touch" to={`/jobs/${refused.job}`} onClick={onGo}>
          <Trans>See the job</Trans>
        </Link>
      </div>
    </div>
  )
}

/** What was written, as a file: nothing is lost where it can neither be sent nor given up. */
function SaveToFile({ write }: { write: Write }) {
  const save = () => {
    const { body, path, says, problem } = write
    const file =
      body instanceof Blob
        ? body
        : new Blob([JSON.stringify({ says, path, body, problem }, null, 2)], { type: 'application/json' })
    const link = document.createElement('a')
    link.href = URL.createObjectURL(file)
    link.download = `${says.replaceAll(/[^a-z0-9]+/gi, '-')}.${body instanceof Blob ? 'jpg' : 'json'}`
    link.click()
    URL.revokeObjectURL(link.href)
  }
  return (
    <Button kind="ghost" onClick={save}>
      <Trans>Save to a file</Trans>
    </Button>
  )
}

const plain = (value: unknown): string =>
  value === null || value === undefined || value === ''
    ? '–'
    : Array.isArray(value)
      ? value.map(plain).join(', ') || '–'
      : typeof value === 'object'
        ? Object.entries(value)
            .map(([key, part]) => `${key} ${plain(part)}`)
            .join(', ') || '–'
        : String(value).replaceAll('_', ' ')

/** Only what is not the same, as two columns. */
export function differing(recorded: Record<string, unknown>, offered: Record<string, unknown>) {
  const keys = [...new Set([...Object.keys(recorded), ...Object.keys(offered)])]
  return keys
    .map((key) => ({ key, there: plain(recorded[key]), yours: plain(offered[key]) }))
    .filter(({ there, yours }) => there !== yours)
}

/** The same wish, so that it can be: on the version there is now, beside what is there, in place of nothing. */
async function mended(write: Write, code: string): Promise<Partial<Pick<Write, 'path' | 'body'>>> {
  const body = typeof write.body === 'object' && write.body !== null ? write.body : {}
  if (code === 'changed_meanwhile') {
    const { version, place, machine } = await freshJob(write.job)
    const now = { place, machine }
    const parts = Object.entries(body).map(([key, part]) =>
      key === 'place' || key === 'machine' ? [key, { ...part, version: now[key].version }] : [key, part],
    )
    return { body: { ...Object.fromEntries(parts), based_on: version } }
  }
  if (code === 'already_recorded') return { path: write.path.replace(/[^/]+$/, newId()) }
  if (code === 'superseded_meanwhile')
    return { path: write.path.replace(/[^/]+$/, newId()), body: { ...body, supersedes: null } }
  return {}
}
