import type { Day, DayVan } from '../../api/day'

/** How a van's way is drawn: by its line as well as by its colour. */
export type Look = { stroke: string; fill: string; text: string; dash: string | undefined }

const LOOKS: readonly Look[] = [
  { stroke: 'stroke-primary', fill: 'fill-primary', text: 'text-primary', dash: undefined },
  { stroke: 'stroke-success', fill: 'fill-success', text: 'text-success', dash: '10 5' },
  { stroke: 'stroke-info', fill: 'fill-info', text: 'text-info', dash: '3 5' },
  { stroke: 'stroke-base-content', fill: 'fill-base-content', text: '', dash: '14 4 3 4' },
  { stroke: 'stroke-error', fill: 'fill-error', text: 'text-error', dash: '6 3' },
]

export const looksOf = (vans: readonly DayVan[]): ReadonlyMap<string, Look> =>
  new Map(vans.map((van, i) => [van.id, LOOKS[i % LOOKS.length] as Look]))

/** A stop's place in its van's order, from 1. */
export type Numbered = { van: string; number: number }

export const numbersOf = (day: Day): ReadonlyMap<string, Numbered> =>
  new Map(
    day.plan?.run?.tours.flatMap((tour) =>
      tour.calls.map((call, i) => [call.stop, { van: tour.van, number: i + 1 }] as const),
    ) ?? [],
  )
