import { useState } from 'react'
import { Button } from './Button'

/** A reason in a few words, and the button that goes on with it; `ask` is also its name for screen readers. */
export function AskWhy({
  ask,
  says,
  onSay,
  most = 200,
  focus = false,
}: {
  ask: string
  says: string
  onSay: (why: string) => void
  most?: number
  focus?: boolean
}) {
  const [why, setWhy] = useState('')
  return (
    <form
      className="mt-2 flex w-full min-w-0 flex-wrap gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (why.trim()) onSay(why.trim())
      }}
    >
      <label className="min-w-40 flex-1">
        <span className="sr-only">{ask}</span>
        <input
          className="field"
          autoFocus={focus}
          value={why}
          maxLength={most}
          placeholder={ask}
          onChange={(event) => setWhy(event.target.value)}
        />
      </label>
      <Button type="submit" kind="outline">
        {says}
      </Button>
    </form>
  )
}
