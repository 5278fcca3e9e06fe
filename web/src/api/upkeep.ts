import { useQuery } from '@tanstack/react-query'
import { client, Refused, unwrap } from './client'
import { keys, queryClient } from './queries'
import type { components } from './schema'
import type { Problem } from './types'

/** A machine between visits: its story, its next date, the customer's paper, the workshop's calendar. */

export type MachineStory = components['schemas']['MachineHistory']
export type StoryJob = components['schemas']['JobTold']
export type Wall = components['schemas']['Wall']
export type PaperSize = 'A4' | 'Letter'

const of = {
  story: (id: string) => ['machines', id, 'story'] as const,
  wall: (id: string) => ['places', id, 'wall'] as const,
  link: (job: string) => [...keys.record(job), 'link'] as const,
  print: (job: string, edition: number, language: string, size: string) =>
    [...keys.record(job), 'print', edition, language, size] as const,
  feed: ['calendar'] as const,
}
/** How often it is asked whether the worker has printed it, ms. */
const PRINTING = 1500

export const useStory = (id: string) =>
  useQuery({
    queryKey: of.story(id),
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/machines/{machine_id}/history', {
          params: { path: { machine_id: id } },
          signal,
        }),
      ),
  })

export const useWall = (id: string) =>
  useQuery({
    queryKey: of.wall(id),
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/places/{place_id}/wall', { params: { path: { place_id: id } }, signal }),
      ),
  })

export const useLink = (job: string) =>
  useQuery({
    queryKey: of.link(job),
    queryFn: async ({ signal }) =>
      unwrap(await client.GET('/api/v1/jobs/{job_id}/link', { params: { path: { job_id: job } }, signal })),
  })

export const useFeed = () =>
  useQuery({
    queryKey: of.feed,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/calendar', { signal })),
  })

/** The address of a print; null while the worker is at it. */
export function usePrint(job: string, edition: number, language: string, size: PaperSize) {
  const query = { edition, language, size }
  const address = `/api/v1/jobs/${job}/record/pdf?${new URLSearchParams({ ...query, edition: String(edition) })}`
  return useQuery<string | null>({
    queryKey: of.print(job, edition, language, size),
    refetchInterval: ({ state }) => (state.data ? false : PRINTING),
    queryFn: async ({ signal }) => {
      const answer = await fetch(address, { signal, headers: { Accept: 'application/pdf' } })
      if (answer.status === 202) return null
      if (!answer.ok) throw new Refused((await answer.json()) as Problem)
      await answer.body?.cancel()
      return address
    },
  })
}

const accepted = ({ error, response }: { error?: unknown; response: Response }) => {
  if (!response.ok) throw new Refused(error as Problem)
}

export async function setLink(job: string, on: boolean) {
  const answer = await client.PUT('/api/v1/jobs/{job_id}/link', {
    params: { path: { job_id: job } },
    body: { on },
  })
  queryClient.setQueryData(of.link(job), unwrap(answer))
}

export async function setFeed(on: boolean) {
  queryClient.setQueryData(of.feed, unwrap(await client.PUT('/api/v1/calendar', { body: { on } })))
}

export async function setUse(machine: string, loads: number | null) {
  accepted(
    await client.PUT('/api/v1/machines/{machine_id}/use', {
      params: { path: { machine_id: machine } },
      body: { loads_per_week: loads },
    }),
  )
  await queryClient.invalidateQueries({ queryKey: of.story(machine) })
}

export async function setReach(
  story: MachineStory,
  body: { mail: string; no_reminders: boolean; language: string },
) {
  accepted(
    await client.PUT('/api/v1/places/{place_id}/reach', {
      params: { path: { place_id: story.place.id } },
      body,
    }),
  )
  await queryClient.invalidateQueries({ queryKey: of.story(story.machine.id) })
}
