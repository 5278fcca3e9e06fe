import { useQuery } from '@tanstack/react-query'
import { client, Refused, unwrap } from './client'
import { queryClient } from './queries'
import type { components } from './schema'
import type { Problem } from './types'
import { newId } from './uuid'

/** The workshop as a whole: how its work stands, how right its verdicts were, what its jobs taught. */

export type Desk = components['schemas']['DeskOut']
export type Learning = components['schemas']['LearningOut']
export type CauseMove = Learning['lessons']['causes'][number]
export type Behind = components['schemas']['BehindOut']

const of = {
  desk: ['desk'] as const,
  learning: ['learning'] as const,
  behind: (holds: string, fault: string) => ['learning', 'behind', holds, fault] as const,
}

export const useDesk = () =>
  useQuery({
    queryKey: of.desk,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/desk', { signal })),
  })

export const useLearning = () =>
  useQuery({
    queryKey: of.learning,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/learning', { signal })),
  })

export const useBehind = (holds: string, fault: string) =>
  useQuery({
    queryKey: of.behind(holds, fault),
    queryFn: async ({ signal }) =>
      unwrap(await client.GET('/api/v1/learning/jobs', { params: { query: { holds, fault } }, signal })),
  })

/** What is learned changes once the worker has summed it up: it is asked for again then, too. */
const SUMMED_UP = 2500

async function changed({ error, response }: { error?: unknown; response: Response }) {
  if (!response.ok) throw new Refused(error as Problem)
  const again = () => void queryClient.invalidateQueries({ queryKey: of.learning })
  again()
  setTimeout(again, SUMMED_UP)
}

export const turnLearning = async (on: boolean) =>
  changed(await client.PUT('/api/v1/learning', { body: { on } }))

export const leaveOut = async (job: string, left_out: boolean) =>
  changed(
    await client.PUT('/api/v1/learning/jobs/{job_id}', {
      params: { path: { job_id: job } },
      body: { left_out },
    }),
  )

export const giveCounts = async (title: string, counts: Record<string, unknown>) =>
  changed(
    await client.PUT('/api/v1/learning/given/{counts_id}', {
      params: { path: { counts_id: newId() } },
      body: { title, counts },
    }),
  )

export const takeCountsAway = async (id: string) =>
  changed(await client.DELETE('/api/v1/learning/given/{counts_id}', { params: { path: { counts_id: id } } }))
