import { Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { sentence } from '../api/client'
import { Button } from './Button'

/** Waiting keeps quiet for 200 ms: a spinner that only flickers helps nobody. */
export function Waiting({ what }: { what: string }) {
  const [late, setLate] = useState(false)
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), 200)
    return () => clearTimeout(timer)
  }, [])
  return (
    <div className="grid min-h-dvh place-items-center" aria-busy="true">
      {late && (
        <p className="text-soft">
          <Trans>Fetching {what} …</Trans>
        </p>
      )}
    </div>
  )
}

export function Failed({ error, again }: { error: unknown; again: () => void }) {
  return (
    <main className="grid min-h-dvh place-items-center p-6">
      <div className="card-paper max-w-md p-6">
        <h1 className="text-xl font-bold">
          <Trans>That did not work</Trans>
        </h1>
        <p className="mt-2" role="alert">
          {sentence(error)}
        </p>
        <Button kind="primary" className="mt-4" onClick={again}>
          <Trans>Try again</Trans>
        </Button>
      </div>
    </main>
  )
}
