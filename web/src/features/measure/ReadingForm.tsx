import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import type { Check, Job, Reading, SpeedsIn } from '../../api/types'
import { recordReading, withdraw } from '../../api/writes'
import { useAnswerInput } from '../../app/answering'
import { textOf, useSignedIn } from '../../app/signedIn'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { bare, unitFor } from '../../ui/numbers'
import { Trouble } from '../../ui/Trouble'
import { useWide } from '../../ui/useWide'
import { useWrite } from '../../ui/useWrite'
import { AskTheMachine } from '../drills/AskTheMachine'
import { SpeedsForm } from './SpeedsForm'

type Props = { job: Job; check: Check; phase: 'before' | 'after'; replaces: Reading | undefined }

/** In rows of four: what is not a digit stands at the right, above what saves. */
const PAD = ['1', '2', '3', '⌫', '4', '5', '6', '', '7', '8', '9', '.', '0', '-'] as const

/** One number, as it is read: kind, number with its unit, instrument, heat. A typed unit ("0.6 in") wins. */
export function ReadingForm({ job, check, phase, replaces }: Props) {
  const { me, vocabulary } = useSignedIn()
  const kind = vocabulary.kinds.find((entry) => entry.kind === check.observes)
  const dimension = kind?.dimension ?? 'flow'
  const tube = vocabulary.units.find((entry) => entry.unit === 'mmH2O')
  const habitual = unitFor(dimension, me.units, vocabulary)
  // a tube is read with a rule
  const unit = check.instrument_code === 'water_tube' ? (tube ?? habitual) : habitual
  const wide = useWide()
  const [typed, setTyped] = useState('')
  const [heatOn, setHeatOn] = useState(check.heat)
  const { trouble, write } = useWrite()
  const suitable = kind?.instruments ?? []
  const own = suitable.find((code) => code === check.instrument_code)
  const [instrument, setInstrument] = useState(own ?? suitable[0] ?? '')
  const expected = job.verdict.readings[check.observes ?? '']
  const field = useAnswerInput()
  const [search] = useSearchParams()
  const led = wide && search.get('check') === check.check
  useEffect(() => {
    if (led) field.current?.focus()
  }, [led, field])
  if (!kind) return null

  const save = async (speeds: SpeedsIn | null = null) => {
    if (!typed.trim() && !speeds) return
    field.current?.blur() // single keys are keys again
    const { id, outcome } = recordReading(job.id, {
      kind: kind.kind,
      typed: speeds ? t`${speeds.values.length} speeds` : typed.trim(),
      speeds,
      unit: unit.unit,
      instrument,
      phase,
      heat_on: heatOn,
      visit: null,
      supersedes: replaces?.id ?? null,
    })
    if (!(await write(outcome))) return
    setTyped('')
    canUndo(job.id, {
      says: `${kind.text} ${typed.trim()}`.trim(),
      run: () => void withdraw(job.id, id, true),
    })
  }

  const heat = (
    <button
      key="heat"
      type="button"
      className="chip"
      aria-pressed={heatOn}
      onClick={() => setHeatOn(!heatOn)}
    >
      <Trans>heat {heatOn ? t`on` : t`off`}</Trans>
    </button>
  )
  const instruments = suitable.length > 1 && (
    <label>
      <span className="sr-only">
        <Trans>Instrument</Trans>
      </span>
      <select
        className="field mt-2"
        value={instrument}
        onChange={(event) => setInstrument(event.target.value)}
      >
        {suitable.map((code) => (
          <option key={code} value={code}>
            {textOf(vocabulary.instruments, code)}
          </option>
        ))}
      </select>
    </label>
  )
  return (
    <>
      <AskTheMachine
        job={job}
        check={check}
        phase={phase}
        onGave={({ value }) => value && setTyped(bare(value, unit).replace('−', '-'))}
      />
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void save()
        }}
      >
        <label className="block">
          <span className="flex items-baseline justify-between gap-2">
            <span className="font-bold">
              {replaces ? t`Instead of ` : ''}
              {replaces ? `${replaces.typed} ${replaces.unit}` : kind.text}
            </span>
            {expected?.healthy && (
              <span className="text-soft text-sm">
                <Trans>
                  healthy: {bare(expected.healthy, unit)} {unit.look}
                </Trans>
              </span>
            )}
          </span>
          <span className="mt-1 flex items-center gap-2">
            <input
              ref={field}
              data-answer
              data-act
              className="field h-[54px] text-2xl font-bold"
              autoComplete="off"
              inputMode={wide ? 'text' : 'decimal'}
              value={typed}
              maxLength={60}
              aria-describedby="reading-unit"
              aria-invalid={trouble !== null}
              onChange={(event) => setTyped(event.target.value)}
            />
            <span id="reading-unit" className="w-20 shrink-0 text-lg">
              {unit.look}
            </span>
          </span>
        </label>
        <p className="text-soft mt-1 hidden text-sm md:block">
          <Trans>Another unit can be typed along.</Trans>
        </p>
        {wide && instruments}
        {wide ? (
          <div className="mt-2 flex gap-2">
            {heat}
            <Button
              data-act
              type="submit"
              kind="neutral"
              className="h-11 flex-1 text-lg"
              disabled={!typed.trim()}
            >
              <Trans>Save the reading</Trans>
            </Button>
          </div>
        ) : (
          <div data-act className="mt-2 grid grid-cols-4 gap-1.5">
            {PAD.map((key) =>
              key === '' ? (
                heat
              ) : (
                <Button
                  key={key}
                  kind="outline"
                  className="h-11 text-2xl"
                  aria-label={key === '⌫' ? t`delete the last digit` : key}
                  onClick={() => setTyped(key === '⌫' ? typed.slice(0, -1) : typed + key)}
                >
                  {key}
                </Button>
              ),
            )}
            <Button
              type="submit"
              kind="neutral"
              className="col-start-4 row-span-2 row-start-3 h-full text-lg"
              aria-label={t`Save the reading`}
              disabled={!typed.trim()}
            >
              <Trans>Save</Trans>
            </Button>
          </div>
        )}
        {!wide && instruments}
        <Trouble says={trouble} />
      </form>
      {dimension === 'flow' && (
        <details className="mt-1" open={check.instrument_code === 'bag_and_watch'}>
          <summary className="touch flex cursor-pointer items-center font-bold">
            <Trans>From air speeds, or a bag</Trans>
          </summary>
          <SpeedsForm
            byBag={check.instrument_code === 'bag_and_watch'}
            onSave={(speeds) => void save(speeds)}
          />
        </details>
      )}
    </>
  )
}
