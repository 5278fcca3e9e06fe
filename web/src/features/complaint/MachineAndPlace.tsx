import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Job } from '../../api/types'
import { changeMachineAndPlace } from '../../api/writes'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { asNumber } from '../../ui/numbers'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { LayoutChoice } from '../layouts/LayoutChoice'

const text = (value: number | null | undefined): string => String(value ?? '')
const number = (typed: string): number | null => (typed.trim() ? asNumber(typed) : null)

/** The machine and where it stands, filled in and corrected where one is: before the machine. */
export function MachineAndPlace({ job }: { job: Job }) {
  const { machine, place } = job
  const known = [machine.name, machine.profile_title, machine.plate.number].filter(Boolean).join(' · ')
  return (
    <details className="border-base-300 border-t pt-1">
      <summary className="touch flex cursor-pointer flex-wrap items-center gap-x-2">
        <b>
          <Trans>Machine and place</Trans>
        </b>
        <span className="text-soft text-sm">{known}</span>
      </summary>
      <p className="flex flex-wrap gap-x-5">
        <Link to={`/machines/${machine.id}`} className="touch inline-flex items-center underline">
          <Trans>What was done on it before</Trans>
        </Link>
        <Link to={`/places/${place.id}`} className="touch inline-flex items-center underline">
          <Trans>All machines there</Trans>
        </Link>
      </p>
      {/* what came in meanwhile is what is shown, unless something is being typed */}
      <Form key={`${machine.version} ${place.version}`} job={job} />
    </details>
  )
}

function Form({ job }: { job: Job }) {
  const { vocabulary } = useSignedIn()
  const { machine, place } = job
  const [draft, setDraft] = useState({
    place: place.name,
    address: place.address,
    contact: place.contact,
    name: machine.name,
    profile: machine.profile,
    energy: machine.energy,
    supply: machine.supply,
    age: text(machine.age_years),
    number: machine.plate.number,
    volts: text(machine.plate.volts),
    watts: text(machine.plate.heater_watts),
    amps: text(machine.plate.amps),
  })
  const [way, setWay] = useState({ layout: machine.layout, variant: machine.variant })
  const { trouble, write } = useWrite()
  const set = (change: Partial<typeof draft>) => setDraft({ ...draft, ...change })
  const off = job.bench?.compartments.some((compartment) => compartment.state === 'open') ?? false
  const save = () =>
    void write(
      changeMachineAndPlace(
        job,
        { name: draft.place.trim() || place.name, address: draft.address, contact: draft.contact },
        {
          name: draft.name,
          profile: draft.profile,
          energy: draft.energy === 'gas' ? 'gas' : 'electric',
          supply: draft.supply === 'hard_wired' ? 'hard_wired' : 'plug',
          age_years: number(draft.age),
          plate: {
            number: draft.number,
            volts: number(draft.volts),
            heater_watts: number(draft.watts),
            amps: number(draft.amps),
          },
          ...way,
        },
      ),
    )
  const field = (key: keyof typeof draft, label: string, more: React.ComponentProps<'input'> = {}) => (
    <label className="block">
      <span className="text-soft text-sm">{label}</span>
      <input
        className="field"
        value={draft[key]}
        maxLength={120}
        onChange={(event) => set({ [key]: event.target.value })}
        {...more}
      />
    </label>
  )
  const numeric = { inputMode: 'decimal', maxLength: 8 } as const
  return (
    <form
      className="grid gap-3 pb-2"
      onSubmit={(event) => {
        event.preventDefault()
        save()
      }}
    >
      <div className="grid gap-2 sm:grid-cols-3">
        {field('place', t`place`)}
        {field('address', t`address`, { maxLength: 200 })}
        {field('contact', t`contact`)}
        {field('name', t`the machine is called`)}
        {field('age', t`age, years`, numeric)}
        {field('number', t`maker’s number, as on the plate`, { maxLength: 60 })}
        {field('volts', t`volts, by the plate`, numeric)}
        {field('watts', t`watts of the heater, by the plate`, numeric)}
        {field('amps', t`amps, by the plate`, numeric)}
      </div>
      <Choice
        title={t`What kind of machine?`}
        options={vocabulary.profiles.map((candidate) => [candidate.code, candidate.text] as const)}
        value={draft.profile}
        onChange={(profile) => set({ profile })}
      />
      <Choice
        title={t`What heats it?`}
        options={[
          ['electric', t`electricity`],
          ['gas', t`gas`],
        ]}
        value={draft.energy}
        onChange={(energy) => set({ energy })}
      />
      <Choice
        title={t`How is it fed?`}
        options={[
          ['plug', t`a plug`],
          ['hard_wired', t`hard-wired`],
        ]}
        value={draft.supply}
        onChange={(supply) => set({ supply })}
      />
      <LayoutChoice chosen={way} onChange={setWay} />
      {off && (
        <p className="text-soft">
          <Trans>
            Something is off. By another way in it stays in the tray, as what came off besides, with its count
            and its wires.
          </Trans>
        </p>
      )}
      <Trouble says={trouble} />
      <Button type="submit" kind="neutral" className="justify-self-start">
        <Trans>Save machine and place</Trans>
      </Button>
    </form>
  )
}
