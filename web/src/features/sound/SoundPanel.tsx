import { t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { useTurn, useWaiting } from '../../api/queries'
import type { Job, Recording } from '../../api/types'
import { addSound, withdraw } from '../../api/writes'
import { useSignedIn } from '../../app/signedIn'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Trouble'
import { useWide } from '../../ui/useWide'
import { useWrite } from '../../ui/useWrite'
import { CannotHere } from '../measure/CannotHere'
import { BalanceTray } from './BalanceTray'
import { Compared } from './Compared'
import { LiveListening } from './LiveListening'
import { Record } from './Record'
import { SoundCard } from './SoundCard'

type Held = { place: string; how: string; healthy?: true }

/** Where the microphone is held, in the order that one goes about it: two on a machine that is open, then the one that
 * others are held beside. */
const turns = (): Held[] => [
  {
    place: t`front, low`,
    how: t`Drum empty, belt on, no heat. Phone low at the front, a hand's width from the panel.`,
  },
  { place: t`back, low`, how: t`The same at the back, by the motor's side.` },
  {
    place: t`drum blocked off`,
    how: t`Already open: lint duct covered towards the drum, so that only wheel and motor are heard.`,
  },
  {
    place: t`belt off`,
    how: t`Already open: belt off and clear of the pulley, five to ten seconds, hands out. Where the belt switch stops the motor, leave this out.`,
  },
  {
    place: t`a healthy one like it`,
    how: t`One of the same kind that runs well, beside it or later this one: same phone, held the same way. What it sounds like too tells nothing of this one.`,
    healthy: true,
  },
]

/** The sound bench: what rumbles, from what a microphone hears, beside the machine's own speeds. */
export function SoundPanel({ job, phase }: { job: Job; phase: 'before' | 'after' }) {
  const { vocabulary } = useSignedIn()
  const { trouble, write } = useWrite()
  const mine = job.recordings.filter((row) => row.phase === phase && !row.withdrawn)
  const own = mine.filter((row) => !row.healthy)
  const [turn, setTurn] = useState(() => Math.min(own.length, 1))
  const [live, setLive] = useState(false)
  const wide = useWide()
  const check = vocabulary.checks.find((entry) => entry.given_under === 'sounds')
  const held = turns()[turn]
  const waiting = useWaiting(job.id).filter(({ path }) => path.includes('/sounds/'))
  const save = async (sound: Blob) => {
    const { id, outcome } = addSound(job.id, sound, phase, {
      part: held?.place ?? '',
      healthy: held?.healthy ?? false,
    })
    const taken = await write(outcome)
    if (taken) canUndo(job.id, { says: t`recording`, run: () => void withdraw(job.id, id, true) })
  }
  return (
    <div>
      <h2 className="text-xl font-bold">{check?.do}</h2>
      <fieldset className="mt-2">
        <legend className="sr-only">
          <Trans>Where it is held</Trans>
        </legend>
        <div className="flex flex-wrap gap-2">
          {turns().map(({ place }, i) => (
            <label
              key={place}
              className="has-checked:border-accent has-checked:bg-base-200 touch flex cursor-pointer items-center rounded-xl border-2 border-transparent px-3 font-bold"
            >
              <input
                type="radio"
                name="held"
                className="sr-only"
                checked={turn === i}
                onChange={() => setTurn(i)}
              />
              {place}
            </label>
          ))}
        </div>
      </fieldset>
      <p className="mt-1 min-h-12">{held?.how}</p>
      {live ? (
        <LiveListening job={job} onClose={() => setLive(false)} />
      ) : (
        <Record onRecorded={save}>
          <label className="btn btn-outline touch h-[54px]">
            <Trans>Bring a file</Trans>
            <input
              type="file"
              accept="audio/*,.wav,.flac,.ogg,.mp3"
              className="sr-only"
              onChange={(event) => {
                const file = event.target.files?.[0]
                event.target.value = ''
                if (file) void save(file)
              }}
            />
          </label>
          <Button kind="ghost" className="h-[54px]" onClick={() => setLive(true)}>
            <Trans>Listen while moving about</Trans>
          </Button>
        </Record>
      )}
      <Trouble says={trouble} />
      {check && own.length === 0 && <CannotHere job={job} check={check} phase={phase} />}
      {waiting.map((row) => (
        <p key={row.id} className="mt-3">
          <span aria-hidden="true">⏳</span> {row.says}{' '}
          <span className="text-soft">
            <Trans>· waits on this device; it is listened to when the line is back</Trans>
          </span>
        </p>
      ))}
      {phase === 'after' && <Compared job={job} />}
      {[...own.toReversed(), ...mine.filter((row) => row.healthy)].map((row, i) => (
        <OneRecording key={row.id} job={job} recording={row} large={wide && i === 0 && phase === 'before'} />
      ))}
      <details className="mt-4">
        <summary className="touch flex cursor-pointer items-center font-bold">
          <Trans>Balance the wheel</Trans>
        </summary>
        <BalanceTray job={job} />
      </details>
    </div>
  )
}

/** How far listening to a recording has come. */
function Turn({ job, sound }: { job: string; sound: string }) {
  const [since] = useState(Date.now)
  const { data, dataUpdatedAt } = useTurn(job, sound)
  const seconds = Math.max(0, Math.round((dataUpdatedAt - since) / 1000))
  const before = data?.before
  return (
    <p role="status" className="text-lg">
      {before === null ? (
        <Trans>Being listened to … {seconds} s</Trans>
      ) : before ? (
        <Plural
          value={before}
          one="Waits its turn: one recording before it."
          other="Waits its turn: # recordings before it."
        />
      ) : (
        <Trans>Waits for the server to listen …</Trans>
      )}
    </p>
  )
}

function OneRecording({ job, recording, large }: { job: Job; recording: Recording; large: boolean }) {
  const sound = job.sounds.find((row) => row.id === recording.id)
  return (
    <section className="border-base-300 mt-4 border-t pt-3" aria-label={t`A recording`}>
      {sound ? (
        <SoundCard job={job} sound={sound} url={recording.url} open={large} />
      ) : recording.state === 'trouble' ? (
        <p role="alert" className="font-bold">
          {recording.trouble}
        </p>
      ) : (
        <Turn job={job.id} sound={recording.id} />
      )}
      <p className="text-soft text-sm">
        {[recording.part, sound?.in_force === false && t`replaced`, recording.by].filter(Boolean).join(' · ')}
      </p>
      {!job.handed_over && (
        <Button kind="ghost" className="-ml-3" onClick={() => void withdraw(job.id, recording.id, true)}>
          <Trans>Take it back</Trans>
        </Button>
      )}
    </section>
  )
}
