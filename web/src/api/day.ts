import { useQuery } from '@tanstack/react-query'
import { client, done, unwrap } from './client'
import { queryClient } from './queries'
import type { components } from './schema'
import { newId } from './uuid'

/** The day: who goes where and when, what a change costs, and what a plan stands on. */

export type Day = components['schemas']['DayOut']
export type DayStop = components['schemas']['StopOut']
export type DayVan = components['schemas']['VanOut']
export type Tour = NonNullable<NonNullable<Day['plan']>['run']>['tours'][number]
export type Call = Tour['calls'][number]
export type Move = components['schemas']['MovedAnswer']
type VanIn = components['schemas']['VanIn']

const of = {
  all: ['day'] as const,
  day: (day: string) => ['day', day] as const,
  moves: (day: string, version: number, stop: string) => ['day', day, 'moves', version, stop] as const,
}

/** While the worker plans it is asked how far it is, ms. */
const PLANNING = 1500

export const useDay = (day: string) =>
  useQuery({
    queryKey: of.day(day),
    queryFn: async ({ signal }) =>
      unwrap(await client.GET('/api/v1/day/{day}', { params: { path: { day } }, signal })),
    refetchInterval: ({ state }) => (state.data?.plan?.waiting ? PLANNING : false),
  })

export const useMoves = (day: string, version: number, stop: string) =>
  useQuery({
    queryKey: of.moves(day, version, stop),
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/day/{day}/moves', { params: { path: { day }, query: { stop } }, signal }),
      ),
  })

const shown = (day: Day) => queryClient.setQueryData(of.day(day.day), day)
const again = () => queryClient.invalidateQueries({ queryKey: of.all })

export const planDay = async (day: string) =>
  shown(unwrap(await client.POST('/api/v1/day/{day}/plan', { params: { path: { day } } })))

export const moveStop = async (
  day: string,
  based_on: number,
  stop: string,
  van: string | null,
  position: number,
) =>
  shown(
    unwrap(
      await client.PUT('/api/v1/day/{day}/orders', {
        params: { path: { day } },
        body: { based_on, stop, van, position },
      }),
    ),
  )

export const undoMove = async (day: string, based_on: number) =>
  shown(
    unwrap(await client.PUT('/api/v1/day/{day}/undone', { params: { path: { day } }, body: { based_on } })),
  )

export async function wish(job: string, windows: { early: number; late: number }[], van: string | null) {
  const params = { path: { job_id: job } }
  done(await client.PUT('/api/v1/ground/wishes/{job_id}', { params, body: { windows, van } }))
  await again()
}

export async function locate(place: string, latitude: number, longitude: number) {
  const params = { path: { place_id: place } }
  done(await client.PUT('/api/v1/ground/places/{place_id}', { params, body: { latitude, longitude } }))
  await again()
}

export async function setBase(name: string, at: { latitude: number; longitude: number } | null) {
  done(
    await client.PUT('/api/v1/ground/base', {
      body: { name, latitude: at?.latitude ?? null, longitude: at?.longitude ?? null },
    }),
  )
  await again()
}

export async function keepVan(id: string | null, body: VanIn) {
  done(
    await client.PUT('/api/v1/ground/vans/{van_id}', { params: { path: { van_id: id ?? newId() } }, body }),
  )
  await again()
}

export async function removeVan(id: string) {
  done(await client.DELETE('/api/v1/ground/vans/{van_id}', { params: { path: { van_id: id } } }))
  await again()
}

export async function takeTable(csv: string): Promise<number> {
  const { rows } = unwrap(await client.PUT('/api/v1/ground/table', { body: { csv } }))
  await again()
  return rows
}
