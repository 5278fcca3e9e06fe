import { useState } from 'react'
import type { Job } from '../../api/types'
import { openJob } from '../../api/writes'
import { useSignedIn } from '../../app/signedIn'
import { Toggles } from '../../ui/Choice'

export function ComplaintPanel({ job }: { job: Job }) {
  const { vocabulary } = useSignedIn()
  const [said, setSaid] = useState(job.said)
  const [trouble, setTrouble] = useState<string | null>(null)
  const save = async (change: Partial<Pick<Job, 'complaints' | 'circumstances' | 'said'>>) => {
    const { id, name, profile, layout, energy, supply, age_years } = job.machine
    const outcome = await openJob(job.id, {
      title: job.title,
      complaints: job.complaints,
      circumstances: job.circumstances,
      said: job.said,
      booked_for: job.booked_for,
      place: job.place,
      machine: {
        id,
        name,
        profile,
        layout,
        energy: energy === 'gas' ? 'gas' : 'electric',
        supply: supply === 'plug' ? 'plug' : 'hard_wired',
        age_years,
      },
      based_on: job.version,
      ...change,
    })
    setTrouble(outcome.state === 'refused' ? outcome.problem.message : null)
  }
  return (
    <div className="grid gap-5">
      <h2 className="text-xl font-bold">What brings us here?</h2>
      {job.stop && (
        <p role="alert" className="border-error text-error rounded-xl border-2 p-3 font-bold">
          {job.stop}
        </p>
      )}
      <Toggles
        title="It …"
        options={vocabulary.complaints}
        values={job.complaints}
        onChange={(complaints) => void save({ complaints })}
      />
      <Toggles
        title="Known of it"
        options={vocabulary.circumstances}
        values={job.circumstances}
        onChange={(circumstances) => void save({ circumstances })}
      />
      <label className="block">
        <span className="font-bold">In the customer's words</span>
        <textarea
          className="field mt-1 min-h-24 py-2"
          value={said}
          maxLength={4000}
          onChange={(event) => setSaid(event.target.value)}
          onBlur={() => said !== job.said && void save({ said })}
        />
      </label>
      {trouble && (
        <p role="alert" className="text-error">
          {trouble}
        </p>
      )}
    </div>
  )
}
