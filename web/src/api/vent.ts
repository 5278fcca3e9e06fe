import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { client, unwrap } from './client'
import { keys } from './queries'
import type { paths } from './schema'
import type { Job } from './types'

/** The vent drawn anew, the room around it, a duct shared with others. What was worked out before stays on the screen
 * while the next is. */

type Asked<Path extends keyof paths> = paths[Path] extends { get: { parameters: { query?: infer Query } } }
  ? Required<NonNullable<Query>>
  : never
export type Build = Asked<'/api/v1/jobs/{job_id}/ways-out'>
export type Behind = Asked<'/api/v1/jobs/{job_id}/clearance'>
export type Makeup = Asked<'/api/v1/jobs/{job_id}/makeup'>
export type RiserAsked = Asked<'/api/v1/jobs/{job_id}/riser'>

/** The ways of a job's plan out of the house. */
export function useWaysOut(job: Job, query: Build) {
  return useQuery({
    queryKey: keys.waysOut(job.id, job.version, query),
    enabled: job.plan !== null,
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/ways-out', {
          params: { path: { job_id: job.id }, query },
          signal,
        }),
      ),
  })
}

/** How far back the machine may go. */
export function useClearance(job: Job, query: Behind) {
  return useQuery({
    queryKey: keys.clearance(job.id, job.version, query),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/clearance', {
          params: { path: { job_id: job.id }, query },
          signal,
        }),
      ),
  })
}

/** The air it takes out of its room; null while no opening is said. */
export function useMakeup(job: Job, query: Makeup | null) {
  return useQuery({
    queryKey: keys.makeup(job.id, job.version, query ?? {}),
    placeholderData: keepPreviousData,
    enabled: query !== null,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/makeup', {
          params: { path: { job_id: job.id }, query: query as Makeup },
          signal,
        }),
      ),
  })
}

/** What each gets on a shared riser. */
export function useRiser(job: Job, query: RiserAsked) {
  return useQuery({
    queryKey: keys.riser(job.id, job.version, query),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/riser', {
          params: { path: { job_id: job.id }, query },
          signal,
        }),
      ),
  })
}
