import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { type ReactNode, useEffect, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { sentence } from '../../api/client'
import { join, lookAtInvitation, lostPassword, newPassword } from '../../api/people'
import { Button } from '../../ui/Button'
import { EmailField, Field, PasswordField } from '../../ui/Field'
import { Told, useAct } from '../../ui/useAct'

/** Where the links of mails lead, and the way to such a mail. */

function Door({ title, children }: { title: string; children: ReactNode }) {
  useEffect(() => {
    document.title = t`${title} · Warm Draft`
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
    <Door title={t`Password lost`}>
      {done ? (
        <p role="status" className="mt-3">
          <Trans>If {email} is known here, a mail is on its way. Its link is good for a day.</Trans>
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
          <Button type="submit" kind="primary" className="w-full">
            <Trans>Mail me a way in</Trans>
          </Button>
        </form>
      )}
      <p className="mt-4">
        <Link className="touch inline-flex items-center underline" to="/sign-in">
          <Trans>To the sign-in</Trans>
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
    <Door title={t`A new password`}>
      {done ? (
        <p role="status" className="mt-3">
          <Trans>
            It is set, and every other sign-in has ended.{' '}
            <Link className="underline" to="/sign-in">
              Sign in
            </Link>
          </Trans>
        </p>
      ) : (
        <form
          className="mt-3 grid gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            run(newPassword(key, token, fresh))
          }}
        >
          <PasswordField title={t`New password, ten characters or more`} value={fresh} onChange={setFresh} />
          <Told trouble={trouble} />
          <Button type="submit" kind="primary" className="w-full">
            <Trans>Set it</Trans>
          </Button>
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
  if (!asked)
    return (
      <Door title={t`Invitation`}>
        {broken ? (
          <Told trouble={broken} />
        ) : (
          <p>
            <Trans>Looking …</Trans>
          </p>
        )}
      </Door>
    )
  return (
    <Door title={t`Join ${asked.workshop}`}>
      <p className="mt-2">
        <Trans>
          {asked.by} asks {asked.email} in, as {asked.role}.
        </Trans>
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
            title={t`Your name`}
            required
            autoComplete="name"
            maxLength={120}
            value={name}
            onChange={setName}
          />
        )}
        <PasswordField
          title={asked.known ? t`The password of your account` : t`A password, ten characters or more`}
          fresh={!asked.known}
          value={password}
          onChange={setPassword}
        />
        <Told trouble={trouble} />
        <Button type="submit" kind="primary" className="w-full">
          <Trans>Join</Trans>
        </Button>
      </form>
    </Door>
  )
}
