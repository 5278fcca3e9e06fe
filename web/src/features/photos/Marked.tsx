import type { CSSProperties, ReactNode } from 'react'
import { ColourBar } from '../bench/ColourBar'

/** A wire on a photo: shares of its width and height, and how it is drawn. */
export type Dot = { key: string; x: number; y: number; colour?: string | undefined; text: string }

const at = (dot: Dot): CSSProperties => ({ left: `${dot.x * 100}%`, top: `${dot.y * 100}%` })

/** A picture with numbered marks on it, and beside it what each is. */
export function Marked({ dots, children }: { dots: readonly Dot[]; children: ReactNode }) {
  if (dots.length === 0) return children
  return (
    <figure className="m-0 inline-block max-w-full">
      <span className="relative block w-fit max-w-full">
        {children}
        <Dots dots={dots} />
      </span>
      <figcaption>
        <ol className="text-sm">
          {dots.map((dot, i) => (
            <li key={dot.key} className="flex items-center gap-2">
              <b>{i + 1}</b>
              {dot.colour && <ColourBar colour={dot.colour} className="h-4 w-2" />}
              {dot.text}
            </li>
          ))}
        </ol>
      </figcaption>
    </figure>
  )
}

export function Dots({ dots, chosen }: { dots: readonly Dot[]; chosen?: string | undefined }) {
  return dots.map((dot, i) => (
    <span
      key={dot.key}
      aria-hidden="true"
      style={at(dot)}
      className={`bg-base-100 text-base-content pointer-events-none absolute grid size-7 -translate-1/2 place-items-center rounded-full border-2 text-sm font-bold ${dot.key === chosen ? 'border-primary ring-primary ring-2' : 'border-base-content'}`}
    >
      {i + 1}
    </span>
  ))
}
