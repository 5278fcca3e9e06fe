import { useState } from 'react'
import { Link } from 'react-router'
import { sentence } from '../../api/client'
import { useSignIn } from '../../api/queries'

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
        <h1 className="text-2xl font-bold">Warm Draft</h1>
        <p className="text-soft mt-1">Where the air is held up, and the proof that it moves again.</p>
        <label className="mt-5 block">
          <span className="text-sm font-bold">E-mail</span>
          <input
            className="field mt-1"
            type="email"
            autoComplete="username"
            required
            autoFocus
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
        </label>
        <label className="mt-3 block">
          <span className="text-sm font-bold">Password</span>
          <input
            className="field mt-1"
            type="password"
            autoComplete="current-password"
            required
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </label>
        <p role="alert" className="text-error mt-2 min-h-6">
          {signIn.isError && sentence(signIn.error)}
        </p>
        <button type="submit" className="btn btn-primary h-[54px] w-full text-lg" disabled={signIn.isPending}>
          Sign in
        </button>
        <p className="mt-3 text-center">
          <Link className="touch inline-flex items-center underline" to="/lost-password">
            Password lost
          </Link>
        </p>
      </form>
    </main>
  )
}
