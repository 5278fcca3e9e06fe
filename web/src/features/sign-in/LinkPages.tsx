import { type ReactNode, useEffect, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { sentence } from '../../api/client'
import { join, lookAtInvitation, lostPassword, newPassword } from '../../api/people'

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

function useAct(act: () => Promise<void>) {
  const [state, setState] = useState<{ done: boolean; trouble: string | null }>({
    done: false,
    trouble: null,
  })
  const run = () => {
    setState({ done: false, trouble: null })
    act().then(
      () => setState({ done: true, trouble: null }),
      (error: unknown) => setState({ done: false, trouble: sentence(error) }),
    )
  }
  return { ...state, run }
}

const Trouble = ({ text }: { text: string | null }) => (
  <p role="alert" className="text-error mt-2 min-h-6">
    {text}
  </p>
)

export function PasswordField({
  title,
  value,
  onChange,
  fresh = true,
}: {
  title: string
  value: string
  onChange: (value: string) => void
  fresh?: boolean
}) {
  return (
    <label className="mt-3 block">
      <span className="text-sm font-bold">{title}</span>
      <input
        className="field mt-1"
        type="password"
        autoComplete={fresh ? 'new-password' : 'current-password'}
        required
        maxLength={200}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  )
}

export function LostPasswordPage() {
  const [email, setEmail] = useState('')
  const { done, trouble, run } = useAct(() => lostPassword(email))
  return (
    <Door title="Password lost">
      {done ? (
        <p role="status" className="mt-3">
          If {email} is known here, a mail is on its way. Its link is good for a day.
        </p>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault()
            run()
          }}
        >
          <label className="mt-3 block">
            <span className="text-sm font-bold">E-mail</span>
            <input
              className="field mt-1"
              type="email"
              autoComplete="username"
              required
              value={email}
              onChange={(event) => setEmail(event.target.value)}
            />
          </label>
          <Trouble text={trouble} />
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
  const { done, trouble, run } = useAct(() => newPassword(key, token, fresh))
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
          onSubmit={(event) => {
            event.preventDefault()
            run()
          }}
        >
          <PasswordField title="New password, ten characters or more" value={fresh} onChange={setFresh} />
          <Trouble text={trouble} />
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
  const { trouble, run } = useAct(async () => {
    await join(token, name, password)
    await navigate('/jobs')
  })
  useEffect(() => {
    lookAtInvitation(token).then(setAsked, (error: unknown) => setBroken(sentence(error)))
  }, [token])
  if (!asked) return <Door title="Invitation">{broken ? <Trouble text={broken} /> : <p>Looking …</p>}</Door>
  return (
    <Door title={`Join ${asked.workshop}`}>
      <p className="mt-2">
        {asked.by} asks {asked.email} in, as {asked.role}.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          run()
        }}
      >
        {!asked.known && (
          <label className="mt-3 block">
            <span className="text-sm font-bold">Your name</span>
            <input
              className="field mt-1"
              required
              autoComplete="name"
              maxLength={120}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </label>
        )}
        <PasswordField
          title={asked.known ? 'The password of your account' : 'A password, ten characters or more'}
          fresh={!asked.known}
          value={password}
          onChange={setPassword}
        />
        <Trouble text={trouble} />
        <button type="submit" className="btn btn-primary touch w-full">
          Join
        </button>
      </form>
    </Door>
  )
}
