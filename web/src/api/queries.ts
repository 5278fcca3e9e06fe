import {
  keepPreviousData,
  QueryCache,
  QueryClient,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query'
import { useEffect, useMemo, useSyncExternalStore } from 'react'
import { client, csrfToken, given, problemOf, Refused } from './client'
import { withWaiting } from './echo'
import { Outbox, type Write } from './outbox'
import type { Habits, Job, JobRecord, JobRow, Me, Recognised } from './types'

export const keys = {
  session: ['session'] as const,
  me: ['me'] as const,
  vocabulary: ['vocabulary'] as const,
  jobs: ['jobs'] as const,
  job: (id: string) => ['jobs', id] as const,
  record: (id: string) => ['jobs', id, 'record'] as const,
  heat: (id: string, version: number, loads: number, price: number) =>
    ['jobs', id, 'heat', version, loads, price] as const,
  places: ['places'] as const,
  people: ['people'] as const,
  sittings: ['sittings'] as const,
  history: (id: string) => ['jobs', id, 'history'] as const,
  codeProfiles: ['code-profiles'] as const,
  ways: (id: string, version: number) => ['jobs', id, 'ways', version] as const,
  layouts: ['layouts'] as const,
  recognise: (answers: Record<string, string>) => ['recognise', answers] as const,
}

const A_WEEK = 7 * 24 * 3600 * 1000
/** Who is signed in and the words of the codes change seldom; asked anew in the background after this, ms. */
const SELDOM = 600_000

export const queryClient: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    // signed out elsewhere, or too long ago: back to the door, with what waits still waiting
    onError: (error) => {
      if (error instanceof Refused && error.problem.status === 401)
        queryClient.setQueryData(keys.session, { signed_in: false })
    },
  }),
  defaultOptions: {
    queries: {
      networkMode: 'offlineFirst',
      staleTime: 10_000,
      gcTime: A_WEEK,
      retry: (count, error) => !(error instanceof Refused) && count < 2,
    },
  },
})

function isJob(answer: unknown): answer is Job {
  return typeof answer === 'object' && answer !== null && 'verdict' in answer && 'stages' in answer
}
function isRecord(answer: unknown): answer is JobRecord {
  return typeof answer === 'object' && answer !== null && 'snapshot' in answer
}

export const CODE_PROFILES = '/api/v1/code-profiles/'
export const LAYOUTS = '/api/v1/layouts/'

/** Every write's answer is the whole job with its new verdict: it goes straight to the screen. */
export const outbox = new Outbox(async (write, answer) => {
  if (isJob(answer)) {
    // a question asked before this write must not come in after it with how things were
    await queryClient.cancelQueries({ queryKey: keys.job(write.job), exact: true }, { revert: false })
    queryClient.setQueryData(keys.job(write.job), answer)
  }
  if (isRecord(answer)) {
    queryClient.setQueryData(keys.record(write.job), answer)
    void queryClient.invalidateQueries({ queryKey: keys.job(write.job), exact: true })
  }
  if (write.path.startsWith(CODE_PROFILES))
    void queryClient.invalidateQueries({ queryKey: keys.codeProfiles })
  if (write.path.startsWith(LAYOUTS)) void queryClient.invalidateQueries({ queryKey: keys.layouts })
  void queryClient.invalidateQueries({ queryKey: keys.jobs, exact: true })
})

export function useSession() {
  return useQuery({
    queryKey: keys.session,
    queryFn: async ({ signal }) => given(await client.GET('/api/v1/session', { signal })),
    staleTime: SELDOM,
  })
}

export function useMe() {
  return useQuery({
    queryKey: keys.me,
    queryFn: async ({ signal }) => given(await client.GET('/api/v1/me', { signal })),
    staleTime: SELDOM,
  })
}

export function useVocabulary() {
  return useQuery({
    queryKey: keys.vocabulary,
    queryFn: async ({ signal }) => given(await client.GET('/api/v1/vocabulary', { signal })),
    staleTime: SELDOM,
  })
}

export function useJobs() {
  return useQuery({
    queryKey: keys.jobs,
    queryFn: async ({ signal }) => given(await client.GET('/api/v1/jobs', { signal })),
  })
}

const oneJob = (id: string) => ({
  queryKey: keys.job(id),
  queryFn: async ({ signal }: { signal: AbortSignal }) =>
    given(await client.GET('/api/v1/jobs/{job_id}', { params: { path: { job_id: id } }, signal })),
})

/** A job as the server has it, with what hands have done on this device and the server has not answered yet. */
export function useJob(id: string) {
  const query = useQuery(oneJob(id))
  const unsent = useWrites(id, outbox.waiting)
  const { data } = query
  return { ...query, data: useMemo(() => data && withWaiting(data, unsent), [data, unsent]) }
}

function useWrites(id: string, which: () => readonly Write[]): readonly Write[] {
  const all = useSyncExternalStore(outbox.subscribe, which)
  return useMemo(() => all.filter((write) => write.job === id), [all, id])
}

/** A job as the server last gave it. */
export const jobNow = (id: string): Job | undefined => queryClient.getQueryData<Job>(keys.job(id))

/** The version a change has to be made from now. */
export const versionOf = async (id: string): Promise<number> =>
  (await queryClient.fetchQuery({ ...oneJob(id), staleTime: 0 })).version

/** What of a job found no line and waits; nothing while all goes out as it is made. */
export function useWaiting(id: string): readonly Write[] {
  return useWrites(id, outbox.stuck)
}

/** The day's jobs are fetched before they are opened: the cellar has no signal. */
const AHEAD = 12
export function useJobsAhead(rows: readonly JobRow[] | undefined): void {
  useEffect(() => {
    const today = (rows ?? []).filter((row) => !row.handed_over).slice(0, AHEAD)
    void (async () => {
      for (const row of today) await queryClient.prefetchQuery({ ...oneJob(row.id), staleTime: SELDOM })
    })()
  }, [rows])
}

export function useRecord(id: string, enabled: boolean) {
  return useQuery({
    queryKey: keys.record(id),
    enabled,
    queryFn: async ({ signal }) =>
      given(await client.GET('/api/v1/jobs/{job_id}/record', { params: { path: { job_id: id } }, signal })),
  })
}

export function useHistory(id: string) {
  return useQuery({
    queryKey: keys.history(id),
    queryFn: async ({ signal }) =>
      given(await client.GET('/api/v1/jobs/{job_id}/history', { params: { path: { job_id: id } }, signal })),
  })
}

export function useHeat(job: Job, loads: number, price: number) {
  return useQuery({
    queryKey: keys.heat(job.id, job.version, loads, price),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) =>
      given(
        await client.GET('/api/v1/jobs/{job_id}/heat', {
          params: { path: { job_id: job.id }, query: { loads_a_week: loads, price_per_kwh: price } },
          signal,
        }),
      ),
  })
}

/** Ways in side by side; those of the version before stay on the screen while the next are worked out. */
export function useWays(job: Job) {
  return useQuery({
    queryKey: keys.ways(job.id, job.version),
    placeholderData: keepPreviousData,
    staleTime: SELDOM,
    queryFn: async ({ signal }) =>
      given(await client.GET('/api/v1/jobs/{job_id}/ways', { params: { path: { job_id: job.id } }, signal })),
  })
}

export function useOwnLayouts() {
  return useQuery({
    queryKey: keys.layouts,
    queryFn: async ({ signal }) => given(await client.GET('/api/v1/layouts', { signal })),
  })
}

/** A layout as its document, ours or the workshop's own. */
export async function layoutDocument(name: string): Promise<Record<string, unknown>> {
  return given(await client.GET('/api/v1/layouts/{name}/file', { params: { path: { name } } }))
}

/** Which layout is it, after these looks? */
export function useRecognised(answers: Record<string, string>) {
  return useQuery({
    queryKey: keys.recognise(answers),
    placeholderData: keepPreviousData,
    staleTime: SELDOM,
    queryFn: async ({ signal }) => {
      const response = await fetch(`/api/v1/recognise?${new URLSearchParams(answers)}`, { signal })
      if (!response.ok) throw new Refused(await problemOf(response))
      return (await response.json()) as Recognised
    },
  })
}

export function usePlaces() {
  return useQuery({
    queryKey: keys.places,
    queryFn: async ({ signal }) => given(await client.GET('/api/v1/places', { signal })),
  })
}

export function useCodeProfiles() {
  return useQuery({
    queryKey: keys.codeProfiles,
    queryFn: async ({ signal }) => given(await client.GET('/api/v1/code-profiles', { signal })),
  })
}

/** Nothing of one person is left for the next. */
function forgetPerson(): void {
  queryClient.removeQueries({ predicate: (query) => query.queryKey[0] !== keys.session[0] })
}

export function useSignIn() {
  const cache = useQueryClient()
  return useMutation({
    mutationFn: async (body: { email: string; password: string }) =>
      given(await client.POST('/api/v1/session', { body })),
    onSuccess: (me) => {
      forgetPerson()
      cache.setQueryData(keys.me, me)
      cache.setQueryData(keys.session, { signed_in: true })
    },
  })
}

export async function signOut(): Promise<void> {
  await client.DELETE('/api/v1/session')
  await globalThis.caches?.delete('photos')
  forgetPerson()
  queryClient.setQueryData(keys.session, { signed_in: false })
}

export function useHabits() {
  const cache = useQueryClient()
  return useMutation({
    mutationFn: async (body: Habits) => given(await client.PUT('/api/v1/me/habits', { body })),
    // shown at once, so that a second press builds on the first
    onMutate: (habits) => {
      const before = cache.getQueryData<Me>(keys.me)
      if (before) cache.setQueryData(keys.me, { ...before, habits })
      return before
    },
    onError: (_error, _habits, before) => cache.setQueryData(keys.me, before),
    onSuccess: () => void cache.invalidateQueries({ queryKey: keys.jobs }), // sentences come in the new units
  })
}

export async function importJob(file: File): Promise<Job> {
  const response = await fetch('/api/v1/jobs/import', {
    method: 'POST',
    body: await file.arrayBuffer(), // as it is: the server says what is wrong with it, and where
    headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
  })
  if (!response.ok) throw new Refused(await problemOf(response))
  const job: unknown = await response.json()
  if (!isJob(job)) throw new Error('the server answered with something that is no job')
  queryClient.setQueryData(keys.job(job.id), job)
  void queryClient.invalidateQueries({ queryKey: keys.jobs, exact: true })
  return job
}
