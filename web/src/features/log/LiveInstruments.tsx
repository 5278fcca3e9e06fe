import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useRef, useState } from 'react'
import { type LiveReading, useInstruments, useLiveReading } from '../../api/instruments'
import type { Job, LogIn } from '../../api/types'
import { recordReading, withdraw } from '../../api/writes'
import { textOf, useSignedIn } from '../../app/signedIn'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { digits, inUnit, unitFor } from '../../ui/numbers'
import { LogPlot } from './LogPlot'
import { LEAST_SPOTS, minutesSince } from './run'

type Facts = Pick<LogIn, 'kind' | 'unit' | 'minutes' | 'values' | 'instrument'>

/** Instruments that answer: pick one, see it live, take the reading, or record a run. What was recorded stays, whatever the cable does. */
export function LiveInstruments({
  job,
  phase,
  onRun,
}: {
  job: Job
  phase: 'before' | 'after'
  onRun: (facts: Facts) => Promise<boolean>
}) {
  const instruments = useInstruments()
  const [name, setName] = useState<string | null>(null)
  const [kind, setKind] = useState<string | null>(null)
  const { vocabulary } = useSignedIn()
  if (!instruments.data || instruments.data.length === 0) return null
  const picked = instruments.data.find((entry) => entry.name === name)
  const reads = picked?.kinds ?? []
  const current = kind && reads.includes(kind) ? kind : reads[0]
  const words = (code: string) =>
    vocabulary.kinds.find((entry) => entry.kind === code)?.text ?? textOf(vocabulary.log_kinds, code)
  return (
    <section className="border-base-300 mt-5 border-t pt-3" aria-label={t`Instruments`}>
      <h3 className="font-bold">
        <Trans>From an instrument</Trans>
      </h3>
      <Choice
        title={t`Which?`}
        options={instruments.data.map((entry) => [entry.name, entry.text] as const)}
        value={name ?? ''}
        onChange={setName}
      />
      {picked && current && (
        <>
          <Choice
            title={t`Reading`}
            options={reads.map((code) => [code, words(code)] as const)}
            value={current}
            onChange={setKind}
          />
          <Live
            key={`${picked.name} ${current}`}
            job={job}
            phase={phase}
            instrument={picked.name}
            kind={current}
            onRun={onRun}
          />
        </>
      )}
    </section>
  )
}

function Live({
  job,
  phase,
  instrument,
  kind,
  onRun,
}: {
  job: Job
  phase: 'before' | 'after'
  instrument: string
  kind: string
  onRun: (facts: Facts) => Promise<boolean>
}) {
  const { me, vocabulary } = useSignedIn()
  const live = useLiveReading(instrument, kind)
  const [recording, setRecording] = useState<{ began: number; at: number[]; values: number[] } | null>(null)
  const [taken, setTaken] = useState<string | null>(null)
  const lastSeen = useRef(0)
  const known = vocabulary.kinds.find((entry) => entry.kind === kind)
  const logged = vocabulary.log_kinds.find((entry) => entry.code === kind)
  const dimension = known?.dimension ?? logged?.dimension ?? 'flow'
  const unit = unitFor(dimension, me.units, vocabulary)
  const reading: LiveReading | undefined = live.data
  useEffect(() => {
    if (!recording || !reading?.value || live.dataUpdatedAt === lastSeen.current) return
    lastSeen.current = live.dataUpdatedAt
    const value = reading.value.value
    setRecording({
      ...recording,
      at: [...recording.at, minutesSince(recording.began, live.dataUpdatedAt)], // the first may be from just before
      values: [...recording.values, value],
    })
  }, [live.dataUpdatedAt, reading, recording])

  const take = async () => {
    if (!reading?.value || !known) return
    const { id, outcome } = recordReading(job.id, {
      kind,
      speeds: null,
      typed: String(Number(inUnit(reading.value.value, unit).toPrecision(6))),
      unit: unit.unit,
      instrument: reading.instrument,
      phase,
      heat_on: false,
      visit: null,
      supersedes: null,
    })
    const answer = await outcome
    if (answer.state === 'refused') setTaken(answer.problem.message)
    else {
      setTaken(t`Taken.`)
      canUndo(job.id, { says: known.text, run: () => void withdraw(job.id, id, true) })
    }
  }
  const shown = reading?.value ? digits(inUnit(reading.value.value, unit), unit.digits) : '–'
  return (
    <div className="card-paper mt-2 p-3">
      <p className="text-4xl font-bold" aria-live="off">
        {shown} <span className="text-soft text-lg font-normal">{unit.look}</span>
      </p>
      <p role="status" className={reading?.trouble ? 'text-error min-h-7 font-bold' : 'text-soft min-h-7'}>
        {live.isError
          ? t`No answer from the server; asking again.`
          : (reading?.trouble ?? (reading?.warning || t`live`))}
      </p>
      <div className="flex flex-wrap gap-2">
        {known && (
          <Button kind="neutral" disabled={!reading?.value} onClick={() => void take()}>
            <Trans>Take this reading</Trans>
          </Button>
        )}
        {recording ? (
          <Button
            kind="outline"
            disabled={recording.values.length < LEAST_SPOTS}
            onClick={() => {
              const facts: Facts = {
                kind,
                unit: logged?.canonical ?? '',
                minutes: recording.at,
                values: recording.values,
                instrument: reading?.instrument ?? '',
              }
              void onRun(facts).then((saved) => saved && setRecording(null))
            }}
          >
            <Trans>Save the run ({recording.values.length})</Trans>
          </Button>
        ) : (
          <Button kind="outline" onClick={() => setRecording({ began: Date.now(), at: [], values: [] })}>
            <Trans>Record a run</Trans>
          </Button>
        )}
      </div>
      {taken && <p role="status">{taken}</p>}
      {recording && recording.values.length > 1 && (
        <LogPlot
          log={{ minutes: recording.at, values: recording.values, fitted: [], fitted_minutes: [], text: '' }}
          dimension={dimension}
        />
      )}
    </div>
  )
}
