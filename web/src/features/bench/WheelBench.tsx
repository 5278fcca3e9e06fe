import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { useSignedIn } from '../../app/signedIn'
import { Choice } from '../../ui/Choice'
import { Schools } from '../../ui/Schools'
import { TurningWheel } from './TurningWheel'
import { type Said, type Seat, TURNS, turnsOf } from './wheel'

/** What was said of a seat stays while one goes from opening to closing: by job and step, on this page. */
const saidBefore = new Map<string, Said>()

/** Which way what sits on a shaft comes off, or goes on: asked, drawn from where one kneels, and said. */
export function WheelBench({
  at,
  seat,
  closing,
}: {
  /** The job and the operation it is of. */
  at: string
  seat: Seat
  closing: boolean
}) {
  const { wheel_bench: bench } = useSignedIn().vocabulary
  const [said, setSaid] = useState<Said>(
    () =>
      saidBefore.get(at) ?? {
        attachment: seat.attachment,
        role: seat.role,
        runs: null,
        kneels: 'free_end',
        mark: 'none',
      },
  )
  const say = (change: Partial<Said>) => {
    const now = { ...said, ...change }
    saidBefore.set(at, now)
    setSaid(now)
  }
  const attachment = bench.attachments.find((row) => row.code === said.attachment)
  const found = attachment?.threaded ? turnsOf(bench, said) : undefined
  const role = bench.roles.find((row) => row.code === said.role)
  const end = bench.ends.find((row) => row.code === said.kneels)
  return (
    <details className="border-base-300 mt-4 rounded-xl border px-3">
      <summary className="touch flex cursor-pointer items-center font-bold">
        {closing ? t`Which way does it go on, and how tight?` : t`Which way does it come off?`}
      </summary>
      <div className="grid gap-4 pb-4">
        <details>
          <summary className="touch text-soft cursor-pointer py-2">
            {[attachment, ...(attachment?.threaded ? [role, end] : [])].map((row) => row?.text).join(' · ')}{' '}
            <b>
              <Trans>Not so?</Trans>
            </b>
          </summary>
          <div className="grid gap-4">
            <Choice
              title={t`How it sits`}
              options={bench.attachments.map((row) => [row.code, row.text] as const)}
              value={said.attachment}
              onChange={(attachment) => say({ attachment })}
            />
            <Choice
              title={t`It is`}
              options={bench.roles.map((row) => [row.code, row.text] as const)}
              value={said.role}
              onChange={(role) => say({ role })}
            />
            <Choice
              title={t`You see it`}
              options={bench.ends.map((row) => [row.code, row.text] as const)}
              value={said.kneels}
              onChange={(kneels) => say({ kneels })}
            />
          </div>
        </details>
        {attachment?.threaded ? (
          <>
            <fieldset>
              <legend className="font-bold">
                <Trans>It runs, as you see it</Trans>
              </legend>
              <p className="text-soft text-sm">{role?.runs}</p>
              <div className="mt-1.5 flex gap-3">
                {TURNS.map((turn) => (
                  <button
                    key={turn}
                    type="button"
                    aria-pressed={said.runs === turn}
                    className="border-base-300 aria-pressed:border-base-content aria-pressed:bg-base-200 grid w-32 justify-items-center rounded-xl border-2 p-2 text-sm font-bold"
                    onClick={() => say({ runs: turn })}
                  >
                    <TurningWheel turn={turn} className="h-20 w-20" />
                    {turn === 'clockwise' ? t`clockwise` : t`counterclockwise`}
                  </button>
                ))}
              </div>
            </fieldset>
            <Choice
              title={t`Marked on it`}
              options={bench.marks.map((row) => [row.code, row.text] as const)}
              value={said.mark}
              onChange={(mark) => say({ mark })}
            />
            {found ? (
              <div
                role="status"
                className="bg-[var(--wash)] flex flex-wrap items-center gap-4 rounded-xl p-3"
              >
                <figure className="grid justify-items-center text-sm font-bold">
                  <TurningWheel
                    turn={closing ? found.on : found.off}
                    strong
                    className="h-24 w-24 sm:h-32 sm:w-32"
                  />
                  <figcaption>{closing ? t`on` : t`off`}</figcaption>
                </figure>
                <div className="min-w-40 flex-1">
                  {found.text.map((line, i) => (
                    <p
                      key={line}
                      className={i === (closing ? found.text.length - 1 : 0) ? 'text-lg font-bold' : 'mt-1'}
                    >
                      {i === 1 && found.contradiction && <span aria-hidden="true">⚠ </span>}
                      {line}
                    </p>
                  ))}
                </div>
              </div>
            ) : (
              <p role="status" className="text-soft">
                <Trans>Say which way it runs: the thread follows from it.</Trans>
              </p>
            )}
          </>
        ) : (
          <p role="status" className="text-lg font-bold">
            {closing ? attachment?.tight : bench.pull}
          </p>
        )}
        {attachment?.threaded && (
          <p>
            <b>{closing ? t`Tight` : t`Hold`}:</b> {closing ? attachment.tight : attachment.hold}
          </p>
        )}
        {attachment?.threaded && !closing && (
          <details>
            <summary className="touch flex cursor-pointer items-center font-bold">
              <Trans>It does not move</Trans>
            </summary>
            <ol className="grid list-decimal gap-1 pl-6">
              {bench.free.map((row) => (
                <li key={row.way}>
                  <b>{row.text}</b>: {row.risk}.
                </li>
              ))}
            </ol>
          </details>
        )}
        {attachment?.threaded && <Schools schools={bench.schools} />}
      </div>
    </details>
  )
}
