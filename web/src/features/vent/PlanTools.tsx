import { t } from '@lingui/core/macro'
import { type ReactNode, useState } from 'react'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'

/** What a tap draws: the machine, a hole for a hood, a thing by its kind, or nothing any more. */
export type Tool = 'machine' | 'hole' | 'erase' | string

/** What is asked for once it matters: nothing is worked out before it is opened. */
export function Below({ title, children }: { title: string; children: ReactNode }) {
  const [open, setOpen] = useState(false)
  return (
    <details
      className="card-paper p-3 lg:col-span-2"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="touch flex cursor-pointer items-center text-xl font-bold">{title}</summary>
      {open && children}
    </details>
  )
}

/** What a tap does next. */
export function hint(tool: Tool, second: boolean): string {
  if (tool === 'machine') return t`Tap where its left front corner stands.`
  if (tool === 'hole') return t`Tap the hole there is: in a wall, at its height.`
  if (tool === 'erase') return t`Tap what is to go.`
  return second ? t`Tap its other end.` : t`Tap one end of it, then the other.`
}

export function Tools({ tool, onTool }: { tool: Tool; onTool: (tool: Tool) => void }) {
  const { vocabulary } = useSignedIn()
  const options: [string, string][] = [
    ['machine', t`machine`],
    ...vocabulary.plan_things.map((row): [string, string] => [row.code, row.text]),
    ['hole', t`hole for a hood`],
    ['erase', t`take away`],
  ]
  return (
    <div
      className="-mx-3 mt-2 flex gap-2 overflow-x-auto px-3 pb-1 sm:mx-0 sm:flex-wrap sm:px-0"
      role="group"
      aria-label={t`What is drawn`}
    >
      {options.map(([code, text]) => (
        <button
          key={code}
          type="button"
          className="chip shrink-0"
          aria-pressed={tool === code}
          onClick={() => onTool(code)}
        >
          {text}
        </button>
      ))}
    </div>
  )
}

export function Stepped({
  title,
  value,
  onBy,
}: {
  title: string
  value: string
  onBy: (by: number) => void
}) {
  return (
    <span className="inline-flex items-center gap-1">
      <span className="text-sm font-bold">{title}</span>
      <Button kind="ghost" className="px-3 text-xl" aria-label={t`less: ${title}`} onClick={() => onBy(-1)}>
        −
      </Button>
      <span className="min-w-12 text-center">{value}</span>
      <Button kind="ghost" className="px-3 text-xl" aria-label={t`more: ${title}`} onClick={() => onBy(1)}>
        +
      </Button>
    </span>
  )
}
