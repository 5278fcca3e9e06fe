import { useQuery } from '@tanstack/react-query'
import { client, unwrap } from './client'
import { queryClient } from './queries'
import type { components } from './schema'

/** The whole workshop: out as a file, and gone for good after a waiting time. */

export type Leaving = components['schemas']['LeavingOut']
export const WHOLE = '/api/v1/workshop/whole'

const KEY = ['workshop', 'leaving'] as const
const shown = (leaving: Leaving) => queryClient.setQueryData(KEY, leaving)

export const useLeaving = () =>
  useQuery({
    queryKey: KEY,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/workshop/leaving', { signal })),
  })

export const askToLeave = async (name: string, password: string, keep_years: number) =>
  shown(unwrap(await client.PUT('/api/v1/workshop/leaving', { body: { name, password, keep_years } })))

export const stayAfterAll = async () => shown(unwrap(await client.DELETE('/api/v1/workshop/leaving')))
