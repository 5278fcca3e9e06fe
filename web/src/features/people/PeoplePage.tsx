import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { endMembership, forgetPerson, invite, setPerson, uninvite, usePeople } from '../../api/people'
import type { MeRole, PersonRow } from '../../api/types'
import { textOf, useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { Choice, Toggles } from '../../ui/Choice'
import { Dialog } from '../../ui/Dialog'
import { EmailField } from '../../ui/Field'
import { Failed, Waiting } from '../../ui/states'
import { Told, useAct } from '../../ui/useAct'
import { CalendarFeed } from './CalendarFeed'
import { TheWorkshop } from './TheWorkshop'
import { WholeWorkshop } from './WholeWorkshop'

/** Who is in the workshop, and what each may do. */
export function PeoplePage() {
  const { me, vocabulary } = useSignedIn()
  const people = usePeople()
  const [changing, setChanging] = useState<PersonRow | null>(null)
  const takeBack = useAct()
  useEffect(() => {
    document.title = t`People · Warm Draft`
  }, [])
  if (people.isError && !people.data)
    return <Failed error={people.error} again={() => void people.refetch()} />
  if (!people.data) return <Waiting what={t`the workshop's people`} />
  const mayChange = me.may.includes('change_a_role')
  return (
    <>
      <TopBar>
        <h1 className="text-lg font-bold">
          <Trans>People</Trans>
        </h1>
      </TopBar>
      <main className="mx-auto grid max-w-3xl gap-4 px-3 pt-4 pb-16 sm:px-6">
        <ul className="card-paper p-2 sm:p-4">
          {people.data.people.map((person) => (
            <li
              key={person.id}
              className="border-base-300 flex min-h-14 flex-wrap items-center gap-x-4 border-b px-2 py-1 last:border-0"
            >
              <span className="min-w-48 flex-1">
                <b>{person.name}</b>
                <span className="text-soft block text-sm">{person.email}</span>
              </span>
              <span>
                {textOf(vocabulary.roles, person.role)}
                {person.qualifications.map((code) => ` · ${textOf(vocabulary.qualifications, code)}`)}
              </span>
              {mayChange && (
                <Button kind="ghost" onClick={() => setChanging(person)}>
                  <Trans>
                    Change<span className="sr-only"> {person.name}</span>
                  </Trans>
                </Button>
              )}
            </li>
          ))}
          {people.data.invited.map((row) => (
            <li key={row.id} className="text-soft flex min-h-11 flex-wrap items-center gap-x-4 px-2">
              <span className="flex-1">
                <Trans>
                  {row.email}, {textOf(vocabulary.roles, row.role)}: asked in, not come yet
                </Trans>
              </span>
              {me.may.includes('invite') && (
                <Button kind="ghost" onClick={() => takeBack.run(uninvite(row.id))}>
                  <Trans>
                    Take back<span className="sr-only"> the invitation of {row.email}</span>
                  </Trans>
                </Button>
              )}
            </li>
          ))}
        </ul>
        <Told trouble={takeBack.trouble} />
        {me.may.includes('keep_the_workshop') && <TheWorkshop />}
        <CalendarFeed />
        <WholeWorkshop />
        {me.may.includes('invite') ? <Invite /> : <p className="text-soft">{me.may_not.invite}</p>}
      </main>
      {changing && <ChangePerson person={changing} onClose={() => setChanging(null)} />}
    </>
  )
}

const useRoles = () => useSignedIn().vocabulary.roles.map(({ code, text }) => [code, text] as const)

function Invite() {
  const roles = useRoles()
  const [email, setEmail] = useState('')
  const [role, setRole] = useState<MeRole>('technician')
  const [asked, setAsked] = useState('')
  const { done, trouble, run } = useAct()
  return (
    <form
      className="card-paper grid gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault()
        run(
          invite(email, role).then(() => {
            setAsked(email)
            setEmail('')
          }),
        )
      }}
    >
      <h2 className="text-xl font-bold">
        <Trans>Ask someone in</Trans>
      </h2>
      <EmailField value={email} onChange={setEmail} />
      <Choice title={t`As`} options={roles} value={role} onChange={setRole} />
      <Told trouble={trouble} done={done && t`A mail is on its way to ${asked}.`} />
      <Button type="submit" kind="primary" className="justify-self-start">
        <Trans>Send the invitation</Trans>
      </Button>
    </form>
  )
}

function ChangePerson({ person, onClose }: { person: PersonRow; onClose: () => void }) {
  const { me, vocabulary } = useSignedIn()
  const roles = useRoles()
  const [role, setRole] = useState<MeRole>(
    vocabulary.roles.find(({ code }) => code === person.role)?.code ?? 'trainee',
  )
  const [kinds, setKinds] = useState<string[]>(person.qualifications)
  const [sure, setSure] = useState(false)
  const { trouble, run } = useAct()
  return (
    <Dialog title={person.name} onClose={onClose}>
      <div className="grid gap-4">
        <Choice title={t`Is`} options={roles} value={role} onChange={setRole} />
        <Toggles
          title={t`Qualified for, by paper you have seen`}
          options={vocabulary.qualifications}
          values={kinds}
          onChange={setKinds}
        />
        <Told trouble={trouble} />
        <div className="flex flex-wrap gap-2">
          <Button kind="primary" onClick={() => run(setPerson(person.id, role, kinds).then(onClose))}>
            <Trans>Keep</Trans>
          </Button>
          <a className="btn btn-outline touch" href={`/api/v1/people/${person.id}/kept`} download>
            <Trans>All that is kept of them</Trans>
          </a>
          {person.id !== me.id && (
            <>
              <Button kind="outline" onClick={() => run(endMembership(person.id).then(onClose))}>
                <Trans>Take out of {me.workshop}</Trans>
              </Button>
              <Button kind="ghost" onClick={() => setSure(true)}>
                <Trans>Take out and forget</Trans>
              </Button>
            </>
          )}
        </div>
        {sure && (
          <div role="alert" className="border-error rounded-xl border-2 p-3">
            <p>
              <Trans>
                {person.name} can no longer sign in, and name and e-mail go. What they did stays, by “someone
                who left”; frozen records stay as they are. This can't be undone.
              </Trans>
            </p>
            <Button
              kind="outline"
              className="mt-2"
              onClick={() => run(forgetPerson(person.id).then(onClose))}
            >
              <Trans>Forget {person.name}</Trans>
            </Button>
          </div>
        )}
      </div>
    </Dialog>
  )
}
