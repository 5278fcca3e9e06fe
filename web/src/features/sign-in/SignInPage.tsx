import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { Link } from 'react-router'
import { sentence } from '../../api/client'
import { useSignIn } from '../../api/queries'
import { Button } from '../../ui/Button'
import { EmailField, PasswordField } from '../../ui/Field'

export function SignInPage() {
  const signIn = useSignIn()
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  return (
    <main className="grid min-h-dvh place-items-center p-4">
      <form
        className="card-paper w-full max-w-sm p-6"
        onSubmit={(event) => {
          event.preventDefault()
          signIn.mutate({ email, password })
        }}
      >
        <img src="/mark.svg" alt="" width="44" height="44" />
        <h1 className="text-2xl font-bold">
          <Trans>Warm Draft</Trans>
        </h1>
        <p className="text-soft mt-1">
          <Trans>Where the air is held up, and the proof that it moves again.</Trans>
        </p>
        <div className="mt-5 grid gap-3">
          <EmailField autoComplete="username" autoFocus value={email} onChange={setEmail} />
          <PasswordField title={t`Password`} fresh={false} value={password} onChange={setPassword} />
        </div>
        <p role="alert" className="text-error mt-2 min-h-6">
          {signIn.isError && sentence(signIn.error)}
        </p>
        <Button type="submit" kind="primary" className="h-[54px] w-full text-lg" disabled={signIn.isPending}>
          <Trans>Sign in</Trans>
        </Button>
        <p className="mt-3 text-center">
          <Link className="touch inline-flex items-center underline" to="/lost-password">
            <Trans>Password lost</Trans>
          </Link>
        </p>
      </form>
    </main>
  )
}
