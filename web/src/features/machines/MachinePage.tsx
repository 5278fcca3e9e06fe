import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { keys, queryClient } from '../../api/queries'
import { type MachineStory, type StoryJob, setReach, setUse, useStory } from '../../api/upkeep'
import { newId } from '../../api/uuid'
import { openJob } from '../../api/writes'
import { dayOf } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { Field } from '../../ui/Field'
import { asNumber, digits, inUnit, unitFor } from '../../ui/numbers'
import { Failed, Waiting } from '../../ui/states'
import { Trouble } from '../../ui/Trouble'
import { Told, useAct } from '../../ui/useAct'
import { FlowOverYears } from './FlowOverYears'

/** A visit is booked for this hour of its day. */
const AT_NINE = 'T09:00:00'

/** Everything measured, found and done on one machine; when it is due; and the next visit to book. */
export function MachinePage() {
  const { machineId = '' } = useParams()
  const story = useStory(machineId)
  useEffect(() => {
    document.title = t`Machine · Warm Draft`
  }, [])
  if (story.isError && !story.data) return <Failed error={story.error} again={() => void story.refetch()} />
  if (!story.data) return <Waiting what={t`the machine`} />
  return <Machine story={story.data} />
}

function Machine({ story }: { story: MachineStory }) {
  const { machine, place, jobs } = story
  const back = jobs.filter((job) => job.callback).length
  return (
    <>
      <TopBar>
        <h1 className="truncate text-lg font-bold">
          {place.name}
          {machine.name && ` · ${machine.name}`}
        </h1>
      </TopBar>
      <main className="mx-auto grid max-w-5xl gap-4 px-3 pt-4 pb-16 sm:px-6 lg:grid-cols-[3fr_2fr]">
        <div className="grid content-start gap-4">
          <Next story={story} />
          <section className="card-paper p-4">
            <h2 className="text-xl font-bold">
              <Trans>What was done</Trans>
            </h2>
            {story.last_inside && (
              <p>
                <Trans>Last inside: {story.last_inside}.</Trans>
                {back > 0 && (
                  <b className="text-error ml-2">
                    <Trans>Came back for the same within 90 days: {back}.</Trans>
                  </b>
                )}
              </p>
            )}
            <ol>
              {jobs.map((job) => (
                <ToldJob key={job.id} job={job} />
              ))}
            </ol>
          </section>
        </div>
        <div className="grid content-start gap-4">
          <section className="card-paper p-4">
            <p className="font-bold">{machine.profile_title}</p>
            <p>{place.address}</p>
            <p>{place.contact}</p>
            <div className="mt-2 flex flex-wrap gap-x-5">
              <Link to={`/places/${place.id}`} className="touch inline-flex items-center underline">
                <Trans>All machines there</Trans>
              </Link>
              <Link to={`/machines/${machine.id}/label`} className="touch inline-flex items-center underline">
                <Trans>Label with a QR code</Trans>
              </Link>
            </div>
          </section>
          <Use story={story} />
          <Reach key={place.id} story={story} />
        </div>
      </main>
    </>
  )
}

/** When it is due, why, and the visit to book. */
function Next({ story }: { story: MachineStory }) {
  const { upkeep } = story
  const navigate = useNavigate()
  const today = new Date().toISOString().slice(0, 10)
  const [day, setDay] = useState(story.overdue ? today : (upkeep?.service_by ?? today))
  const [trouble, setTrouble] = useState<string | null>(null)
  const open = story.jobs.find((job) => job.edition === 0)
  const book = async () => {
    const { machine, place } = story
    const id = newId()
    const outcome = await openJob(id, {
      title: '',
      complaints: ['service_due'],
      circumstances: [],
      told: {},
      said: '',
      booked_for: new Date(`${day}${AT_NINE}`).toISOString(),
      based_on: null,
      place: {
        id: place.id,
        name: place.name,
        address: place.address,
        contact: place.contact,
        as_known: true,
      },
      machine: {
        id: machine.id,
        name: machine.name,
        profile: machine.profile,
        layout: machine.layout,
        energy: machine.energy === 'gas' ? 'gas' : 'electric',
        supply: machine.supply === 'plug' ? 'plug' : 'hard_wired',
        variant: machine.variant,
        age_years: machine.age_years,
        as_known: true,
      },
    })
    if (outcome.state === 'refused') return setTrouble(outcome.problem.message)
    if (outcome.state === 'waiting')
      return setTrouble(t`No line to the server. The visit is kept and sent when the line is back.`)
    void queryClient.invalidateQueries({ queryKey: keys.lists })
    await navigate(`/jobs/${id}`)
  }
  return (
    <section className="card-paper p-4">
      {upkeep ? (
        <>
          <h2 className="text-2xl leading-tight font-bold">
            {story.overdue ? (
              <span className="text-error">
                <Trans>Overdue since {dayOf(upkeep.service_by)}</Trans>
              </span>
            ) : (
              <Trans>Due by {dayOf(upkeep.service_by)}</Trans>
            )}
          </h2>
          <p className="mt-1">
            <Trans>
              Its air falls short about {dayOf(upkeep.due.median)}; nine in ten between{' '}
              {dayOf(upkeep.due.low)} and {dayOf(upkeep.due.high)}.
            </Trans>
          </p>
          <ul className="text-soft mt-1 list-disc pl-5">
            {upkeep.because.map((row) => (
              <li key={row.code}>{row.text}</li>
            ))}
          </ul>
          <FlowOverYears story={story} />
        </>
      ) : (
        <p>
          <Trans>Nothing was handed over yet: its next date comes with the first record.</Trans>
        </p>
      )}
      {open ? (
        <Link to={`/jobs/${open.id}`} className="btn btn-neutral touch mt-3">
          <Trans>Go on with the open job</Trans>
        </Link>
      ) : (
        <form
          className="mt-3 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            void book()
          }}
        >
          <Field title={t`Next visit on`} type="date" required value={day} onChange={setDay} />
          <Button type="submit" kind="primary" className="h-[54px] text-lg">
            <Trans>Book the visit</Trans>
          </Button>
        </form>
      )}
      <Trouble says={trouble} />
    </section>
  )
}

/** One job of the story. */
function ToldJob({ job }: { job: StoryJob }) {
  const { me, vocabulary } = useSignedIn()
  const unit = unitFor('flow', me.units, vocabulary)
  const flow = (value: number) => digits(inUnit(value, unit), unit.digits)
  return (
    <li className="border-base-300 border-t py-3">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <Link to={job.edition ? `/jobs/${job.id}/record` : `/jobs/${job.id}`} className="font-bold underline">
          {dayOf(job.day)}
        </Link>
        <span className="text-soft">{job.by}</span>
        {job.callback && (
          <b className="text-error">
            <Trans>came back for the same</Trans>
          </b>
        )}
        {job.edition === 0 && (
          <b>
            <Trans>open</Trans>
          </b>
        )}
      </p>
      {job.cause && <p className="font-bold">{job.cause}</p>}
      {job.found !== null && job.left !== null && (
        <p>
          <Trans>
            {flow(job.found)} → {flow(job.left)} {unit.look}
          </Trans>
        </p>
      )}
      {job.done.length > 0 && <p>{job.done.join(' · ')}</p>}
      {job.fitted.length > 0 && (
        <p className="text-soft">
          <Trans>Fitted: {job.fitted.join('; ')}</Trans>
        </p>
      )}
    </li>
  )
}

/** How much it dries: its next date moves with it. */
function Use({ story }: { story: MachineStory }) {
  const { machine } = story
  const [loads, setLoads] = useState(String(machine.loads_per_week ?? ''))
  const { done, trouble, run } = useAct()
  return (
    <form
      className="card-paper p-4"
      onSubmit={(event) => {
        event.preventDefault()
        run(setUse(machine.id, loads.trim() ? asNumber(loads) : null))
      }}
    >
      <Field
        title={t`Loads a week`}
        value={loads}
        onChange={setLoads}
        inputMode="decimal"
        placeholder={t`taken for ${digits(machine.loads_taken, 0)}`}
      />
      <Button type="submit" kind="outline" className="mt-2">
        <Trans>Keep</Trans>
      </Button>
      <Told trouble={trouble} done={done && t`Kept; the next date moved with it.`} />
    </form>
  )
}

/** Whether and where this place is reminded. */
function Reach({ story }: { story: MachineStory }) {
  const { place } = story
  const [mail, setMail] = useState(place.mail)
  const [quiet, setQuiet] = useState(place.no_reminders)
  const { done, trouble, run } = useAct()
  return (
    <form
      className="card-paper p-4"
      onSubmit={(event) => {
        event.preventDefault()
        run(setReach(story, { mail: mail.trim(), no_reminders: quiet, language: place.language }))
      }}
    >
      <Field title={t`Reminders to`} type="email" value={mail} onChange={setMail} maxLength={254} />
      <label className="touch mt-1 flex items-center gap-3">
        <input
          type="checkbox"
          className="checkbox"
          checked={quiet}
          onChange={(event) => setQuiet(event.target.checked)}
        />
        <Trans>No reminders for this place</Trans>
      </label>
      <p className="text-soft text-sm">
        <Trans>Three weeks before it is due, once; each mail can end them.</Trans>
      </p>
      <Button type="submit" kind="outline" className="mt-2">
        <Trans>Keep</Trans>
      </Button>
      <Told trouble={trouble} done={done && t`Kept.`} />
    </form>
  )
}
