import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useDrawn } from '../../api/queries'
import type { Drawn as DrawnMachine, Job } from '../../api/types'
import { Button } from '../../ui/Button'
import { boundsOf, type Drawing, type Shape as Form } from '../bench/bench'
import { Air, Drawn, Label } from '../bench/Drawn'

export type Shape = DrawnMachine['shapes'][number]

/** Narrower than this a shape has an edge about it that a finger meets, in hundredths of the machine. */
const THIN = 8
const sidesOf = (shape: Form): [number, number] => {
  const [left, top, right, bottom] = boundsOf(shape)
  return [right - left, bottom - top]
}
const areaOf = (shape: Form) => sidesOf(shape).reduce((one, other) => one * other)
const thin = (shape: Form) => Math.min(...sidesOf(shape)) < THIN

/** The machine cut open, for the finger: a shape stands for its parts. Nothing where nobody knows the machine. */
export function TouchPart({
  job,
  touched,
  onTouch,
}: {
  job: Job
  touched: Shape | null
  onTouch: (shape: Shape | null) => void
}) {
  const { data } = useDrawn(job)
  const drawing = data?.drawing as Drawing | null | undefined
  const shapes = new Map(data?.shapes.map((row) => [row.shape, row]))
  if (!drawing) return null
  // the small ones above the large ones they lie in, so that each can be met
  const entries = Object.entries(drawing.shapes).sort(([, a], [, b]) => areaOf(b) - areaOf(a))
  return (
    <figure className="m-0 mt-2 max-w-md">
      <figcaption className="flex min-h-11 flex-wrap items-center gap-x-3 text-sm">
        {touched ? (
          <>
            <b>{touched.text}</b>
            <Button kind="ghost" className="-mx-2 px-2" onClick={() => onTouch(null)}>
              <Trans>All parts</Trans>
            </Button>
          </>
        ) : (
          <span className="text-soft">
            <Trans>or touch the part: front at the left</Trans>
          </span>
        )}
      </figcaption>
      <svg viewBox="0 0 400 300" className="block h-auto w-full" role="group" aria-label={t`Parts to touch`}>
        {entries.map(([name, form]) => {
          const row = shapes.get(name)
          const lit = touched?.shape === name
          const drawn = <Drawn shape={form} lit={lit} off={false} />
          if (!row) return <g key={name}>{drawn}</g>
          const toggle = () => onTouch(lit ? null : row)
          return (
            <g
              key={name}
              role="button"
              tabIndex={0}
              aria-pressed={lit}
              aria-label={row.text}
              className="focus-visible:outline-primary cursor-pointer outline-hidden outline-offset-2 focus-visible:outline-2"
              onClick={toggle}
              onKeyDown={(event) => {
                if (event.key !== 'Enter' && event.key !== ' ') return
                event.preventDefault()
                event.stopPropagation()
                toggle()
              }}
            >
              {thin(form) && (
                <g className="opacity-0">
                  <Drawn shape={form} lit={false} off={false} wide />
                </g>
              )}
              {drawn}
            </g>
          )
        })}
        <g className="pointer-events-none">
          <Air drawing={drawing} />
          {entries.map(([name, form]) => (
            <Label key={name} shape={form} lit={touched?.shape === name} off={false} />
          ))}
        </g>
      </svg>
    </figure>
  )
}
