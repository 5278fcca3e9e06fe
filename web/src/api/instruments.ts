import { useQuery } from '@tanstack/react-query'
import { client, unwrap } from './client'
import type { components } from './schema'

export type LiveReading = components['schemas']['LiveReadingOut']

/** The instruments this server can reach. */
export function useInstruments() {
  return useQuery({
    queryKey: ['instruments'],
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/instruments', { signal })),
    staleTime: Number.POSITIVE_INFINITY,
  })
}

/** One instrument's reading, asked again and again; trouble comes as words, not as an error. */
export function useLiveReading(name: string, kind: string) {
  return useQuery({
    queryKey: ['instruments', name, kind],
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/instruments/{name}/reading', {
          params: { path: { name }, query: { kind } },
          signal,
        }),
      ),
    refetchInterval: 1_000, // as often as the server asks it
    staleTime: 0,
    gcTime: 0,
  })
}
