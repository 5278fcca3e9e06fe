import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { client, csrfToken, done, identity, nextOf, problemOf, Refused, unwrap, whose } from './client'
import { keys, type Page, queryClient } from './queries'
import type { Brought, CatalogueItem, Figures, Job } from './types'
import { newId } from './uuid'

/** What the workshop sells: its catalogue, vans and shelves, figures; and what a job costs by them. */

/** What a job costs; that of the version before stays on the screen while the next is worked out. */
export function useQuote(job: Job) {
  return useQuery({
    queryKey: keys.quote(job.id, job.version),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/quote', { params: { path: { job_id: job.id } }, signal }),
      ),
  })
}

/** What the work is expected to give; that of the version before stays while the next is worked out. */
export function useExpected(job: Job) {
  return useQuery({
    queryKey: keys.expected(job.id, job.version),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/expected', { params: { path: { job_id: job.id } }, signal }),
      ),
  })
}

/** How long a seal is cut; asked: the edge as typed, as one text, empty while it is not all typed. */
export function useSeal(job: Job, asked: string) {
  return useQuery({
    queryKey: keys.seal(job.id, asked),
    enabled: asked !== '',
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/seal', {
          params: { path: { job_id: job.id }, query: JSON.parse(asked) as SealAsked },
          signal,
        }),
      ),
  })
}
type SealAsked = { cuts: 'foam' | 'felt'; across: string; down: string; lap: string }

/** The scale that lint is graded on where a line cleans; it is this machine's, and changes with nothing that is done. */
export function useLint(job: Job, line: string) {
  return useQuery({
    queryKey: keys.lint(job.id, line),
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/lint', {
          params: { path: { job_id: job.id }, query: { line } },
          signal,
        }),
      ),
  })
}

export function useItems(q: string) {
  return useInfiniteQuery({
    queryKey: keys.items(q),
    initialPageParam: '',
    placeholderData: keepPreviousData,
    queryFn: async ({ signal, pageParam }) => {
      const answer = await client.GET('/api/v1/stock/items', {
        params: { query: { q, after: pageParam } },
        signal,
      })
      return { rows: unwrap(answer), next: nextOf(answer.response) }
    },
    getNextPageParam: (page: Page<CatalogueItem>) => page.next,
  })
}

export function useStores() {
  return useQuery({
    queryKey: keys.stores,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/stock/stores', { signal })),
  })
}

export function useFigures() {
  return useQuery({
    queryKey: keys.figures,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/stock/figures', { signal })),
  })
}

const changed = () =>
  Promise.all([
    queryClient.invalidateQueries({ queryKey: keys.stock }),
    // quotes reckon with it
    queryClient.invalidateQueries({
      queryKey: keys.jobs,
      predicate: ({ queryKey }) => queryKey[2] === 'quote',
    }),
  ])

/** A sheet into the catalogue, as it is; whole: what it lacks goes. Raises Refused with all damaged rows. */
export async function bringSheet(sheet: Blob, whole: boolean): Promise<Brought> {
  const answer = await fetch(`/api/v1/stock/items?whole=${whole}`, {
    method: 'POST',
    body: sheet,
    headers: { 'Content-Type': 'text/csv', 'X-CSRFToken': csrfToken(), ...whose(identity) },
  })
  if (!answer.ok) throw new Refused(await problemOf(answer))
  const brought = (await answer.json()) as Brought
  await changed()
  return brought
}

export async function keepStore(id: string, name: string, removed = false): Promise<void> {
  const params = { path: { store_id: id } }
  done(await client.PUT('/api/v1/stock/stores/{store_id}', { params, body: { name, removed } }))
  await changed()
}

export async function putThere(store: string, number: string, change: number): Promise<void> {
  const params = { path: { movement_id: newId() } }
  const body = { store, number, change, at: new Date().toISOString() }
  done(await client.PUT('/api/v1/stock/movements/{movement_id}', { params, body }))
  await changed()
}

export async function keepFigures(body: Figures, based_on: number): Promise<void> {
  queryClient.setQueryData(
    keys.figures,
    unwrap(await client.PUT('/api/v1/stock/figures', { body: { ...body, based_on } })),
  )
  await changed()
}
