import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { keys, queryClient, usePlaces } from '../../api/queries'
import type { JobIn } from '../../api/types'
import { newId } from '../../api/uuid'
import { openJob } from '../../api/writes'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { useKeys } from '../../app/useKeys'
import { Button } from '../../ui/Button'
import { Choice, Toggles } from '../../ui/Choice'
import { Trouble } from '../../ui/Trouble'
import { TYPED, useSettled } from '../../ui/useSettled'
import { type Chosen, LayoutChoice } from '../layouts/LayoutChoice'

export function NewJobPage() {
  const { me, vocabulary } = useSignedIn()
  const navigate = useNavigate()
  const ids = useMemo(() => ({ job: newId(), place: newId(), machine: newId() }), [])
  const [placeName, setPlaceName] = useState('')
  const places = usePlaces(useSettled(placeName.trim(), TYPED))
  const [machineId, setMachineId] = useState<string | null>(null)
  const [profile, setProfile] = useState(vocabulary.profiles[0]?.code ?? '')
  const [supply, setSupply] = useState<'plug' | 'hard_wired'>('plug')
  const [way, setWay] = useState<Chosen>({ layout: '', variant: {} })
  const [complaints, setComplaints] = useState<string[]>([])
  const [circumstances, setCircumstances] = useState<string[]>([])
  const [said, setSaid] = useState('')
  const [trouble, setTrouble] = useState<string | null>(null)
  useKeys({ Escape: () => navigate('/jobs') }, me.habits.single_keys)
  useEffect(() => {
    document.title = t`New job · Warm Draft`
  }, [])

  const known = places.data?.find((place) => place.name.toLowerCase() === placeName.trim().toLowerCase())
  const machine = known?.machines.find((candidate) => candidate.id === machineId)

  const submit = async () => {
    if (!placeName.trim()) {
      setTrouble(t`Say where the machine stands: a name is enough.`)
      return
    }
    const chosen = vocabulary.profiles.find((candidate) => candidate.code === profile)
    const facts: Omit<JobIn, 'at'> = {
      title: '',
      complaints,
      circumstances,
      told: {},
      said,
      booked_for: new Date().toISOString(),
      based_on: null,
      place: known
        ? {
            id: known.id,
            name: known.name,
            address: known.address,
            contact: known.contact,
            as_known: true,
          }
        : { id: ids.place, name: placeName.trim(), address: '', contact: '', as_known: false },
      machine: machine
        ? {
            ...machine,
            as_known: true,
            energy: machine.energy === 'gas' ? 'gas' : 'electric',
            supply: machine.supply === 'plug' ? 'plug' : 'hard_wired',
          }
        : {
            id: ids.machine,
            as_known: false,
            name: '',
            profile,
            ...way,
            energy: chosen?.energy === 'gas' ? 'gas' : 'electric',
            supply,
            age_years: null,
          },
    }
    const outcome = await openJob(ids.job, facts)
    if (outcome.state === 'refused') setTrouble(outcome.problem.message)
    else if (outcome.state === 'waiting')
      setTrouble(
        t`No line to the server. The job is kept and sent when the line is back; then it stands in the list.`,
      )
    else {
      void queryClient.invalidateQueries({ queryKey: keys.places })
      await navigate(`/jobs/${ids.job}/${complaints.length > 0 ? 'make_safe' : 'complaint'}`)
    }
  }

  return (
    <>
      <TopBar>
        <h1 className="text-lg font-bold">
          <Trans>New job</Trans>
        </h1>
      </TopBar>
      <main className="mx-auto max-w-3xl px-3 pt-4 pb-10 sm:px-6">
        <form
          className="card-paper grid gap-5 p-4 sm:p-6"
          onSubmit={(event) => {
            event.preventDefault()
            void submit()
          }}
        >
          <label className="block">
            <span className="font-bold">
              <Trans>Where?</Trans>
            </span>
            <input
              className="field mt-1"
              list="places"
              autoFocus
              value={placeName}
              maxLength={120}
              placeholder={t`A place you know, or a new one`}
              onChange={(event) => {
                setPlaceName(event.target.value)
                setMachineId(null)
              }}
            />
            <datalist id="places">
              {places.data?.map((place) => (
                <option key={place.id} value={place.name} />
              ))}
            </datalist>
          </label>
          {known && known.machines.length > 0 && (
            <Choice
              title={t`Which machine there?`}
              options={[
                ...known.machines.map((candidate) => [candidate.id, candidate.name || 'unnamed'] as const),
                ['', t`another one`],
              ]}
              value={machineId ?? ''}
              onChange={(id) => setMachineId(id || null)}
            />
          )}
          {!machine && (
            <>
              <Choice
                title={t`What kind of machine?`}
                options={vocabulary.profiles.map((candidate) => [candidate.code, candidate.text] as const)}
                value={profile}
                onChange={setProfile}
              />
              <Choice
                title={t`How is it fed?`}
                options={[
                  ['plug', t`a plug`],
                  ['hard_wired', t`hard-wired`],
                ]}
                value={supply}
                onChange={setSupply}
              />
              <LayoutChoice chosen={way} onChange={setWay} />
            </>
          )}
          <Toggles
            title={t`What does it do?`}
            options={vocabulary.complaints}
            values={complaints}
            onChange={setComplaints}
          />
          <details>
            <summary className="touch flex cursor-pointer items-center font-bold">
              <Trans>Circumstances and what was said</Trans>
            </summary>
            <Toggles
              title={t`What is known of it?`}
              options={vocabulary.circumstances}
              values={circumstances}
              onChange={setCircumstances}
            />
            <label className="mt-3 block">
              <span className="font-bold">
                <Trans>In the customer's words</Trans>
              </span>
              <textarea
                className="field mt-1 min-h-24 py-2"
                value={said}
                maxLength={4000}
                onChange={(event) => setSaid(event.target.value)}
              />
            </label>
          </details>
          <Trouble says={trouble} />
          <Button type="submit" kind="primary" className="h-[54px] text-lg">
            <Trans>Open the job</Trans>
          </Button>
        </form>
      </main>
    </>
  )
}
