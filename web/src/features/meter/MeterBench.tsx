import type { MessageDescriptor } from '@lingui/core'
import { msg, t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { ofThePerson } from '../../api/person'
import type { Job, MeterIn, MeterPart } from '../../api/types'
import { recordMeter, withdraw } from '../../api/writes'
import { useAnswerButton } from '../../app/answering'
import { worded } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { asNumber } from '../../ui/numbers'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { WayIn } from '../works/WayIn'
import { MeterFace } from './MeterFace'

type Kind = 'digital' | 'analogue'
type Phase = Job['meter'][number]['phase']
let lastKind: Kind = 'digital' // remembered while this person has the app open
ofThePerson(() => {
  lastKind = 'digital'
})

/** The meter bench: circuit by circuit, what to test, what a good one shows on this kind of meter, and what it means. */
export function MeterBench({ job, asked, phase }: { job: Job; asked: string | null; phase: Phase }) {
  const { vocabulary } = useSignedIn()
  const [picked, setPicked] = useState<string | null>(asked)
  const parts = vocabulary.meter_parts.filter(
    (part) => part.energy === null || part.energy === job.machine.energy,
  )
  const part = parts.find((entry) => entry.part === picked)
  const check = vocabulary.checks.find((entry) => entry.check === `meter_${picked}`)
  const circuits = [...new Set(parts.map((entry) => entry.circuit))].sort(
    (a, b) => Number(b === job.circuit) - Number(a === job.circuit),
  )
  const verdicts = new Map(
    job.meter.filter((test) => test.in_force && test.phase === phase).map((test) => [test.part, test]),
  )
  if (part)
    return (
      <>
        <Button kind="ghost" className="-ml-3" onClick={() => setPicked(null)}>
          <Trans>← All parts</Trans>
        </Button>
        {check && phase === 'before' && <WayIn job={job} check={check} />}
        <PartTest key={part.part} job={job} part={part} phase={phase} />
      </>
    )
  return (
    <div>
      <h2 className="text-xl font-bold">
        <Trans>Meter</Trans>
      </h2>
      <p className="text-soft">
        <Trans>
          Unplugged and proven dead, but for the receptacle. One wire off each part before it is read.
        </Trans>
      </p>
      {circuits.map((circuit) => (
        <section key={circuit} className="mt-3">
          <h3 className="font-bold">
            {parts.find((entry) => entry.circuit === circuit)?.circuit_text}
            {circuit === job.circuit && (
              <span className="text-primary">
                {' '}
                <Trans>· start here</Trans>
              </span>
            )}
          </h3>
          <ul className="grid gap-x-4 sm:grid-cols-2">
            {parts
              .filter((entry) => entry.circuit === circuit)
              .map((entry) => {
                const test = verdicts.get(entry.part)
                return (
                  <li key={entry.part}>
                    <button
                      type="button"
                      className="touch hover:bg-base-200 flex w-full items-center gap-2 rounded-lg px-2 py-1 text-left"
                      onClick={() => setPicked(entry.part)}
                    >
                      <span className="flex-1">{entry.text}</span>
                      <span className={test ? 'font-bold' : 'text-soft text-sm'}>
                        {test ? worded(VERDICT[test.verdict.verdict] ?? '') : t`not tested`}
                      </span>
                    </button>
                  </li>
                )
              })}
          </ul>
        </section>
      ))}
    </div>
  )
}

const VERDICT: Record<string, MessageDescriptor> = {
  good: msg`✓ good`,
  failed: msg`✗ failed`,
  suspect: msg`? suspect`,
  repeat: msg`↻ read again`,
  working_as_meant: msg`✓ doing its job`,
}

/** One part: where it sits, what to do, what the meter shows, what that means. */
export function PartTest({ job, part, phase }: { job: Job; part: MeterPart; phase: Phase }) {
  const { me } = useSignedIn()
  // what was read before the work stands beside what is read after it
  const test = job.meter
    .filter((entry) => entry.part === part.part && entry.in_force && entry.phase === phase)
    .at(-1)
  const [kind, setKind] = useState<Kind>(test?.instrument === 'analogue' ? 'analogue' : lastKind)
  const answer = useAnswerButton()
  const [isolated, setIsolated] = useState<boolean | null>(null)
  const [hot, setHot] = useState(false)
  const [between, setBetween] = useState<'leg_leg' | 'leg_neutral'>('leg_leg')
  const [typed, setTyped] = useState('')
  const [lead, setLead] = useState('')
  const [temperature, setTemperature] = useState('')
  const { trouble, setTrouble, write } = useWrite()
  const live = part.kind === 'supply'
  const barred = part.qualified !== null && !me.qualifications.includes(part.qualified)

  const save = async (shown: string) => {
    if (!live && isolated === null) {
      setTrouble(t`Say first whether one wire is off: with its wires on, another path is read.`)
      return
    }
    const facts: Omit<MeterIn, 'at'> = {
      part: part.part,
      instrument: kind,
      isolated: live ? null : isolated,
      part_hot: hot,
      typed: shown,
      unit: live ? 'V' : 'ohm',
      lead_ohm: lead.trim() ? asNumber(lead) : null,
      temperature: temperature.trim() || null,
      rated_power_w: null,
      between: live ? between : null,
      phase,
      heat_on: false,
      visit: null,
      supersedes: test?.id ?? null,
    }
    const { id, outcome } = recordMeter(job.id, facts)
    if (!(await write(outcome))) return
    setTyped('')
    canUndo(job.id, { says: part.text, run: () => void withdraw(job.id, id, true) })
  }

  return (
    <div>
      <h2 className="text-xl font-bold">{part.text}</h2>
      {live && (
        <p className="font-bold">
          <Trans>⚠ Live work: only if you are qualified for it.</Trans>
        </p>
      )}
      <dl className="mt-2 grid grid-cols-[6rem_minmax(0,1fr)] gap-x-3 gap-y-1">
        <dt className="text-soft">
          <Trans>Where</Trans>
        </dt>
        <dd>{part.where_in[job.machine.layout] ?? part.where}</dd>
        <dt className="text-soft">
          <Trans>Isolate</Trans>
        </dt>
        <dd className="font-bold">{part.isolate}</dd>
        <dt className="text-soft">
          <Trans>Range</Trans>
        </dt>
        <dd>{part.range}</dd>
      </dl>
      <div className="mt-3 flex flex-wrap items-start gap-4">
        <Choice
          title={t`Which kind of meter?`}
          options={[
            ['digital', t`digital`],
            ['analogue', t`with a needle`],
          ]}
          value={kind}
          onChange={(value) => {
            lastKind = value === 'analogue' ? 'analogue' : 'digital'
            setKind(lastKind)
          }}
        />
        <MeterFace kind={kind} part={part} />
      </div>
      {barred ? (
        <p className="mt-3 font-bold">
          <Trans>Your qualifications do not cover this; someone who is qualified records it.</Trans>
        </p>
      ) : (
        <>
          {!live && (
            <Choice
              title={t`One wire off?`}
              options={[
                ['yes', t`yes, one side is off`],
                ['no', t`no`],
              ]}
              value={isolated === null ? '' : isolated ? 'yes' : 'no'}
              onChange={(value) => setIsolated(value === 'yes')}
            />
          )}
          <div className="mt-2 flex flex-wrap gap-2">
            {live ? (
              <Choice
                title={t`Between?`}
                options={[
                  ['leg_leg', t`leg to leg`],
                  ['leg_neutral', t`leg to neutral`],
                ]}
                value={between}
                onChange={(value) => setBetween(value === 'leg_neutral' ? 'leg_neutral' : 'leg_leg')}
              />
            ) : (
              <button type="button" className="chip" aria-pressed={hot} onClick={() => setHot(!hot)}>
                {hot ? t`part is hot` : t`part is cool`}
              </button>
            )}
          </div>
          <fieldset className="mt-3">
            <legend className="font-bold">
              {kind === 'analogue' && !live ? t`What did the needle do?` : t`What does it show?`}
            </legend>
            {!live && (
              <div className="mt-1 grid gap-2 sm:grid-cols-2">
                {kind === 'analogue' && (
                  <Button
                    ref={answer}
                    kind="outline"
                    className="h-auto min-h-[54px]"
                    onClick={() => void save('needle_at_zero')}
                  >
                    <Trans>it swung over to 0</Trans>
                  </Button>
                )}
                <Button
                  kind="outline"
                  className="h-auto min-h-[54px]"
                  onClick={() => void save(kind === 'analogue' ? 'needle_at_infinity' : 'open')}
                >
                  {kind === 'analogue' ? t`it stayed at ∞` : t`OL, open`}
                </Button>
              </div>
            )}
            <form
              className="mt-2 grid gap-2 sm:grid-cols-[minmax(0,1fr)_auto_auto]"
              onSubmit={(event) => {
                event.preventDefault()
                if (typed.trim()) void save(typed.trim())
              }}
            >
              <label className="flex items-center gap-2">
                <span className="sr-only">
                  <Trans>Reading</Trans>
                </span>
                <input
                  className="field h-[54px] text-2xl font-bold"
                  inputMode="decimal"
                  autoComplete="off"
                  placeholder={live ? t`volts` : t`a number`}
                  value={typed}
                  maxLength={60}
                  onChange={(event) => setTyped(event.target.value)}
                />
                <span>{live ? t`V` : 'Ω'}</span>
              </label>
              {part.kind === 'thermistor' ? (
                <label className="flex items-center gap-2">
                  <span className="text-soft">
                    <Trans>at</Trans>
                  </span>
                  <input
                    className="field w-28"
                    placeholder={t`21 c`}
                    aria-label={t`temperature of the air there`}
                    value={temperature}
                    maxLength={20}
                    onChange={(event) => setTemperature(event.target.value)}
                  />
                </label>
              ) : (
                !live && (
                  <label className="flex items-center gap-2">
                    <span className="text-soft">
                      <Trans>leads</Trans>
                    </span>
                    <input
                      className="field w-20"
                      placeholder="0.2"
                      inputMode="decimal"
                      aria-label={t`resistance of the leads, ohms`}
                      value={lead}
                      maxLength={8}
                      onChange={(event) => setLead(event.target.value)}
                    />
                  </label>
                )
              )}
              <Button type="submit" kind="neutral" className="h-[54px]" disabled={!typed.trim()}>
                <Trans>Save</Trans>
              </Button>
            </form>
          </fieldset>
        </>
      )}
      <Trouble says={trouble} />
      {test && (
        <section role="status" className="card-paper mt-4 p-3" aria-label={t`What it means`}>
          <p className="text-lg font-bold">{worded(VERDICT[test.verdict.verdict] ?? '')}</p>
          <p>{test.verdict.means.text}</p>
          <p className="mt-1 font-bold">{test.verdict.then.text}</p>
          <Button kind="ghost" className="-ml-3" onClick={() => void withdraw(job.id, test.id, true)}>
            <Trans>Take it back</Trans>
          </Button>
        </section>
      )}
    </div>
  )
}
