import { type ReactNode, useEffect, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { sentence } from '../../api/client'
import { join, lookAtInvitation, lostPassword, newPassword } from '../../api/people'
import { EmailField, Field, PasswordField } from '../../ui/Field'
import { Told, useAct } from '../../ui/useAct'

/** Where the links of mails lead, and the way to such a mail. */

function Door({ title, children }: { title: string; children: ReactNode }) {
  useEffect(() => {
    document.title = `${title} · Warm Draft`
  }, [title])
  return (
    <main className="grid min-h-dvh place-items-center p-4">
      <div className="card-paper w-full max-w-sm p-6">
        <img src="/mark.svg" alt="" width="44" height="44" />
        <h1 className="text-2xl font-bold">{title}</h1>
        {children}
      </div>
    </main>
  )
}

export function LostPasswordPage() {
  const [email, setEmail] = useState('')
  const { done, trouble, run } = useAct()
  return (
    <Door title="Password lost">
      {done ? (
        <p role="status" className="mt-3">
          If {email} is known here, a mail is on its way. Its link is good for a day.
        </p>
      ) : (
        <form
          className="mt-3 grid gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            run(lostPassword(email))
          }}
        >
          <EmailField autoComplete="username" value={email} onChange={setEmail} />
          <Told trouble={trouble} />
          <button type="submit" className="btn btn-primary touch w-full">
            Mail me a way in
          </button>
        </form>
      )}
      <p className="mt-4">
        <Link className="touch inline-flex items-center underline" to="/sign-in">
          To the sign-in
        </Link>
      </p>
    </Door>
  )
}

export function NewPasswordPage() {
  const { key = '', token = '' } = useParams()
  const [fresh, setFresh] = useState('')
  const { done, trouble, run } = useAct()
  return (
    <Door title="A new password">
      {done ? (
        <p role="status" className="mt-3">
          It is set, and every other sign-in has ended.{' '}
          <Link className="underline" to="/sign-in">
            Sign in
          </Link>
        </p>
      ) : (
        <form
          className="mt-3 grid gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            run(newPassword(key, token, fresh))
          }}
        >
          <PasswordField title="New password, ten characters or more" value={fresh} onChange={setFresh} />
          <Told trouble={trouble} />
          <button type="submit" className="btn btn-primary touch w-full">
            Set it
          </button>
        </form>
      )}
    </Door>
  )
}

type Invitation = Awaited<ReturnType<typeof lookAtInvitation>>

export function JoinPage() {
  const { token = '' } = useParams()
  const navigate = useNavigate()
  const [asked, setAsked] = useState<Invitation | null>(null)
  const [broken, setBroken] = useState<string | null>(null)
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const { trouble, run } = useAct()
  useEffect(() => {
    lookAtInvitation(token).then(setAsked, (error: unknown) => setBroken(sentence(error)))
  }, [token])
  if (!asked) return <Door title="Invitation">{broken ? <Told trouble={broken} /> : <p>Looking …</p>}</Door>
  return (
    <Door title={`Join ${asked.workshop}`}>
      <p className="mt-2">
        {asked.by} asks {asked.email} in, as {asked.role}.
      </p>
      <form
        className="mt-3 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          run(join(token, name, password).then(() => navigate('/jobs')))
        }}
      >
        {!asked.known && (
          <Field
            title="Your name"
            required
            autoComplete="name"
            maxLength={120}
            value={name}
            onChange={setName}
          />
        )}
        <PasswordField
          title={asked.known ? 'The password of your account' : 'A password, ten characters or more'}
          fresh={!asked.known}
          value={password}
          onChange={setPassword}
        />
        <Told trouble={trouble} />
        <button type="submit" className="btn btn-primary touch w-full">
          Join
        </button>
      </form>
    </Door>
  )
}
