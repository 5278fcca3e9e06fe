import {
  type InfiniteData,
  keepPreviousData,
  QueryCache,
  QueryClient,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query'
import { useEffect, useMemo, useSyncExternalStore } from 'react'
import { client, csrfToken, identity, nextOf, problemOf, Refused, unwrap, whose } from './client'
import { forgetKept } from './kept'
import { withWaiting } from './optimistic'
import { Outbox, type Write } from './outbox'
import { forgetThePerson } from './person'
import type {
  Habits,
  Happening,
  Job,
  JobRecord,
  JobRow,
  Me,
  Recognised,
  SoundAnswer,
  TrialsIn,
} from './types'

export const keys = {
  session: ['session'] as const,
  me: ['me'] as const,
  vocabulary: ['vocabulary'] as const,
  jobs: ['jobs'] as const,
  lists: ['lists'] as const,
  list: (which: WhichJobs, words: string) => ['lists', which, words] as const,
  job: (id: string) => ['jobs', id] as const,
  record: (id: string) => ['jobs', id, 'record'] as const,
  heat: (id: string, version: number, loads: number, price: number) =>
    ['jobs', id, 'heat', version, loads, price] as const,
  places: ['places'] as const,
  placesLike: (typed: string) => ['places', typed] as const,
  people: ['people'] as const,
  sittings: ['sittings'] as const,
  history: (id: string) => ['jobs', id, 'history'] as const,
  codeProfiles: ['code-profiles'] as const,
  ways: (id: string, version: number) => ['jobs', id, 'ways', version] as const,
  drawn: (id: string, version: number) => ['jobs', id, 'drawn', version] as const,
  curves: (url: string) => ['curves', url] as const,
  ahead: (id: string, version: number) => ['jobs', id, 'record ahead', version] as const,
  turn: (id: string, sound: string) => ['jobs', id, 'turn', sound] as const,
  rates: (id: string, version: number, drive: Drive) => ['jobs', id, 'rates', version, drive] as const,
  balance: (id: string, trials: TrialsIn | null) => ['jobs', id, 'balance', trials] as const,
  layouts: ['layouts'] as const,
  expected: (id: string, version: number) => ['jobs', id, 'expected', version] as const,
  seal: (id: string, asked: string) => ['jobs', id, 'seal', asked] as const,
  lint: (id: string, line: string) => ['jobs', id, 'lint', line] as const,
  quote: (id: string, version: number) => ['jobs', id, 'quote', version] as const,
  clearance: (id: string, version: number, asked: object) =>
    ['jobs', id, 'clearance', version, asked] as const,
  makeup: (id: string, version: number, asked: object) => ['jobs', id, 'makeup', version, asked] as const,
  riser: (id: string, version: number, asked: object) => ['jobs', id, 'riser', version, asked] as const,
  waysOut: (id: string, version: number, build: object) => ['jobs', id, 'ways-out', version, build] as const,
  stock: ['stock'] as const,
  items: (words: string) => ['stock', 'items', words] as const,
  stores: ['stock', 'stores'] as const,
  figures: ['stock', 'figures'] as const,
  recognise: (answers: Record<string, string>) => ['recognise', answers] as const,
}

const A_WEEK = 7 * 24 * 3600 * 1000
/** Who is signed in and the words of the codes change seldom; asked anew in the background after this, ms. */
const SELDOM = 600_000
/** How often it is asked whose turn it is, ms. */
const TURNS = 1000

export const queryClient: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    // signed out elsewhere (a lost phone, say), or too long ago: back to the door, nothing stays but what waits
    onError: (error, query) => {
      if (!(error instanceof Refused)) return
      if (error.problem.status === 401 && query.queryKey[0] !== keys.session[0]) void shutDoor()
      if (error.problem.code === 'someone_else') startAnew()
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

/** Who this page is follows from the last answer about it. */
queryClient.getQueryCache().subscribe(({ query }) => {
  if (query.queryKey[0] !== keys.me[0]) return
  const me = query.state.data as Me | undefined
  Object.assign(identity, { person: me?.id ?? '', workshop: me?.workshop_id ?? '' })
})

/** Who signs in or out in one tab of a browser does so in all. */
const otherTabs = 'BroadcastChannel' in globalThis ? new BroadcastChannel('warm-draft-who') : undefined
otherTabs?.addEventListener('message', () => startAnew())

/** The session is another's by now: this page begins again as whoever that is. */
function startAnew(): void {
  globalThis.location?.reload()
}

function isJob(answer: unknown): answer is Job {
  return typeof answer === 'object' && answer !== null && 'verdict' in answer && 'stages' in answer
}
function isRecord(answer: unknown): answer is JobRecord {
  return typeof answer === 'object' && answer !== null && 'snapshot' in answer
}

export const CODE_PROFILES = '/api/v1/code-profiles/'
export const LAYOUTS = '/api/v1/layouts/'

/** Every write's answer is the whole job with its new verdict: it goes straight to the screen. */
async function onAnswer(write: Write, answer: unknown): Promise<void> {
  if (write.workshop && write.workshop !== identity.workshop) return // of a workshop that is not the one shown
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
  void queryClient.invalidateQueries({ queryKey: keys.lists })
}
export const outbox = new Outbox(onAnswer, 'warm-draft', startAnew)

export function useSession() {
  return useQuery({
    queryKey: keys.session,
    queryFn: async ({ signal }) =>
      (await endSession()) ? unwrap(await client.GET('/api/v1/session', { signal })) : { signed_in: false },
    staleTime: SELDOM,
  })
}

export function useMe() {
  return useQuery({
    queryKey: keys.me,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/me', { signal })),
    staleTime: SELDOM,
  })
}

export function useVocabulary() {
  return useQuery({
    queryKey: keys.vocabulary,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/vocabulary', { signal })),
    staleTime: SELDOM,
  })
}

export type WhichJobs = 'any' | 'open' | 'earlier' | 'handed_over'

/** A list of jobs, page by page; words: only those that are found by them. */
export function useJobs(which: WhichJobs, words = '', enabled = true) {
  return useInfiniteQuery({
    queryKey: keys.list(which, words),
    enabled,
    placeholderData: keepPreviousData,
    initialPageParam: '',
    queryFn: async ({ pageParam, signal }) => {
      const query = { which, q: words, after: pageParam }
      const answer = await client.GET('/api/v1/jobs', { params: { query }, signal })
      return { rows: unwrap(answer), next: nextOf(answer.response) }
    },
    getNextPageParam: (page: Page<JobRow>) => page.next,
  })
}
export type Page<Row> = { rows: Row[]; next: string | undefined }

/** All rows of the pages there are. */
export const rowsOf = <Row>(data: InfiniteData<Page<Row>> | undefined): Row[] =>
  data?.pages.flatMap((page) => page.rows) ?? []

const oneJob = (id: string) => ({
  queryKey: keys.job(id),
  queryFn: async ({ signal }: { signal: AbortSignal }) =>
    unwrap(await client.GET('/api/v1/jobs/{job_id}', { params: { path: { job_id: id } }, signal })),
})

/** A job as the server has it, with what hands have done on this device and the server has not answered yet. */
export function useJob(id: string) {
  const query = useQuery(oneJob(id))
  const unsent = useWrites(id, outbox.waiting)
  const words = useVocabulary().data
  const { data } = query
  return { ...query, data: useMemo(() => data && withWaiting(data, unsent, words), [data, unsent, words]) }
}

function useWrites(id: string, which: () => readonly Write[]): readonly Write[] {
  const all = useSyncExternalStore(outbox.subscribe, which)
  return useMemo(() => all.filter((write) => write.job === id), [all, id])
}

/** A job as the server last gave it. */
export const jobNow = (id: string): Job | undefined => queryClient.getQueryData<Job>(keys.job(id))

/** A job as the server has it now: what a change has to be made from. */
export const freshJob = (id: string): Promise<Job> => queryClient.fetchQuery({ ...oneJob(id), staleTime: 0 })

/** What of a job found no line and waits; nothing while all goes out as it is made. */
export function useWaiting(id: string): readonly Write[] {
  return useWrites(id, outbox.stuck)
}

/** The day's jobs are fetched before they are opened: the cellar has no signal. */
const AHEAD = 12
export function useJobsAhead(rows: readonly JobRow[] | undefined): void {
  useEffect(() => {
    const today = (rows ?? []).slice(0, AHEAD)
    void (async () => {
      for (const row of today) await queryClient.prefetchQuery({ ...oneJob(row.id), staleTime: SELDOM })
    })()
  }, [rows])
}

/** A job's record: the edition asked for, or the latest (0). */
export function useRecord(id: string, edition: number) {
  return useQuery({
    queryKey: edition ? [...keys.record(id), edition] : keys.record(id),
    queryFn: async ({ signal }) => {
      const params = { path: { job_id: id }, query: { edition } }
      return unwrap(await client.GET('/api/v1/jobs/{job_id}/record', { params, signal }))
    },
  })
}

/** A job's record as it would stand if it was handed over now. */
export function useRecordAhead(job: Job) {
  return useQuery({
    queryKey: keys.ahead(job.id, job.version),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => {
      const params = { path: { job_id: job.id } }
      return unwrap(await client.GET('/api/v1/jobs/{job_id}/record/preview', { params, signal }))
    },
  })
}

/** What happened on a job: the latest page first; earlier ones as they are asked for. */
export function useHistory(id: string) {
  return useInfiniteQuery({
    queryKey: keys.history(id),
    initialPageParam: '',
    queryFn: async ({ pageParam, signal }) => {
      const params = { path: { job_id: id }, query: { after: pageParam } }
      const answer = await client.GET('/api/v1/jobs/{job_id}/history', { params, signal })
      return { rows: unwrap(answer), next: nextOf(answer.response) }
    },
    getNextPageParam: (page: Page<Happening>) => page.next,
  })
}

export function useHeat(job: Job, loads: number, price: number) {
  return useQuery({
    queryKey: keys.heat(job.id, job.version, loads, price),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) =>
      unwrap(
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
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/ways', { params: { path: { job_id: job.id } }, signal }),
      ),
  })
}

/** The machine cut open from the side, and which parts each shape stands for. */
export function useDrawn(job: Job) {
  return useQuery({
    queryKey: keys.drawn(job.id, job.version),
    placeholderData: keepPreviousData,
    staleTime: SELDOM,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/drawn', { params: { path: { job_id: job.id } }, signal }),
      ),
  })
}

/** What is drawn of a recording: its address is what is in it, so it never changes. */
export function useCurves(url: string) {
  return useQuery({
    queryKey: keys.curves(url),
    staleTime: Number.POSITIVE_INFINITY,
    enabled: url !== '',
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/recordings/{sha256}/curves', {
          params: { path: { sha256: url.split('/').at(-1) ?? '' } },
          signal,
        }),
      ),
  })
}

/** How many recordings are listened to before this one; null: it is being listened to. */
export function useTurn(job: string, sound: string) {
  return useQuery({
    queryKey: keys.turn(job, sound),
    refetchInterval: TURNS,
    gcTime: 0,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/sounds/{sound_id}/turn', {
          params: { path: { job_id: job, sound_id: sound } },
          signal,
        }),
      ),
  })
}

/** What is otherwise than the machine's plate says: shares, and diameters in mm. */
export type Drive = { motor_off: number; belt_off: number; roller_mm?: number; idler_mm?: number }

/** How fast each part of a job's machine turns. */
export function useRates(job: Job, drive: Drive) {
  return useQuery({
    queryKey: keys.rates(job.id, job.version, drive),
    placeholderData: keepPreviousData,
    staleTime: SELDOM,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.GET('/api/v1/jobs/{job_id}/rates', {
          params: { path: { job_id: job.id }, query: drive },
          signal,
        }),
      ),
  })
}

/** What runs with trial masses tell; null: there is nothing to ask yet. */
export function useBalance(job: string, trials: TrialsIn | null) {
  return useQuery({
    queryKey: keys.balance(job, trials),
    staleTime: SELDOM,
    enabled: trials !== null,
    queryFn: async ({ signal }) =>
      unwrap(
        await client.POST('/api/v1/jobs/{job_id}/balance', {
          params: { path: { job_id: job } },
          body: trials as TrialsIn,
          signal,
        }),
      ),
  })
}

/** What a stretch of sound tells at this moment; nothing is kept of it. */
export async function listenTo(job: string, sound: Blob): Promise<SoundAnswer> {
  const answer = await fetch(`/api/v1/jobs/${job}/listen`, {
    method: 'POST',
    body: sound,
    headers: { 'Content-Type': sound.type, 'X-CSRFToken': csrfToken(), ...whose(identity) },
  })
  if (!answer.ok) throw new Refused(await problemOf(answer))
  return (await answer.json()) as SoundAnswer
}

export function useOwnLayouts() {
  return useQuery({
    queryKey: keys.layouts,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/layouts', { signal })),
  })
}

/** A layout as its document, ours or the workshop's own. */
export async function layoutDocument(name: string): Promise<Record<string, unknown>> {
  return unwrap(await client.GET('/api/v1/layouts/{name}/file', { params: { path: { name } } }))
}

/** Which layout is it, after these looks? */
export function useRecognised(answers: Record<string, string>) {
  return useQuery({
    queryKey: keys.recognise(answers),
    placeholderData: keepPreviousData,
    staleTime: SELDOM,
    queryFn: async ({ signal }) => {
      const asked = `/api/v1/recognise?${new URLSearchParams(answers)}`
      const response = await fetch(asked, { signal, headers: whose(identity) })
      if (!response.ok) throw new Refused(await problemOf(response))
      return (await response.json()) as Recognised
    },
  })
}

/** Places whose name begins with what is typed, or holds it; nothing typed: the first by name. */
export function usePlaces(typed = '') {
  return useQuery({
    queryKey: keys.placesLike(typed),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) =>
      unwrap(await client.GET('/api/v1/places', { params: { query: { q: typed } }, signal })),
  })
}

export function useCodeProfiles() {
  return useQuery({
    queryKey: keys.codeProfiles,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/code-profiles', { signal })),
  })
}

/** Nothing of one person is left for the next, in this page or on the device, but what waits to be sent. */
async function forgetPerson(): Promise<void> {
  queryClient.removeQueries({ predicate: (query) => query.queryKey[0] !== keys.session[0] })
  Object.assign(identity, { person: '', workshop: '' })
  forgetThePerson()
  await forgetKept()
}

/** Whether somebody is signed in, as of now: what was asked before and is still under way does not count any more. */
async function sayWhetherIn(signed_in: boolean): Promise<void> {
  await queryClient.cancelQueries({ queryKey: keys.session }, { revert: false })
  queryClient.setQueryData(keys.session, { signed_in })
}

/** The session is over: the door, and a clean device. */
async function shutDoor(): Promise<void> {
  await sayWhetherIn(false)
  await forgetPerson()
}

/** Somebody has come in: nothing of whoever was here before is shown to them, in no tab. */
export async function comeIn(me: Me): Promise<void> {
  localStorage.removeItem(LEAVING)
  await forgetPerson()
  queryClient.setQueryData(keys.me, me)
  await sayWhetherIn(true)
  otherTabs?.postMessage('in')
}

export function useSignIn() {
  return useMutation({
    mutationFn: async (body: { email: string; password: string }) =>
      unwrap(await client.POST('/api/v1/session', { body })),
    onSuccess: comeIn,
  })
}

/** Set while a session that was left without a line is still to be ended at the server. */
const LEAVING = 'warm-draft-leaving'

/** Sign out: the device is clean at once, also without a line; the session ends as soon as there is one. */
export async function signOut(): Promise<void> {
  localStorage.setItem(LEAVING, '1')
  await shutDoor()
  otherTabs?.postMessage('out')
  await endSession()
}

/** End the session that was left; true where none is left over. */
export async function endSession(): Promise<boolean> {
  if (!localStorage.getItem(LEAVING)) return true
  try {
    const { response } = await client.DELETE('/api/v1/session')
    if (response.ok || response.status === 401) localStorage.removeItem(LEAVING)
    return response.ok || response.status === 401
  } catch {
    return false
  }
}
globalThis.addEventListener?.('online', () => void endSession())

/** Go on in another workshop one belongs to. */
export async function chooseWorkshop(id: string): Promise<void> {
  await comeIn(unwrap(await client.PUT('/api/v1/me/workshop', { body: { id } })))
}

export function useHabits() {
  const cache = useQueryClient()
  return useMutation({
    scope: { id: 'habits' }, // in the order of the presses, so that the last answer is the last wish
    mutationFn: async (body: Habits) => unwrap(await client.PUT('/api/v1/me/habits', { body })),
    // shown at once, so that a second press builds on the first
    onMutate: (habits) => {
      const before = cache.getQueryData<Me>(keys.me)
      if (before) cache.setQueryData(keys.me, { ...before, habits })
      return before
    },
    onError: (_error, _habits, before) => cache.setQueryData(keys.me, before),
    onSuccess: ({ units }) => {
      // which unit a number stands in is the server's to say
      cache.setQueryData<Me>(keys.me, (me) => me && { ...me, units })
      void cache.invalidateQueries({ queryKey: keys.jobs }) // sentences come in the new units
    },
  })
}

export async function importJob(file: File): Promise<Job> {
  const allowed = { 'X-CSRFToken': csrfToken(), ...whose(identity) }
  const whole = new FormData()
  whole.append('file', file)
  const response = await (file.name.toLowerCase().endsWith('.zip')
    ? fetch('/api/v1/jobs/bundle', { method: 'POST', body: whole, headers: allowed })
    : fetch('/api/v1/jobs/import', {
        method: 'POST',
        body: await file.arrayBuffer(), // as it is: the server says what is wrong with it, and where
        headers: { 'Content-Type': 'application/json', ...allowed },
      }))
  if (!response.ok) throw new Refused(await problemOf(response))
  const job: unknown = await response.json()
  if (!isJob(job)) throw new Error('the server answered with something that is no job')
  queryClient.setQueryData(keys.job(job.id), job)
  void queryClient.invalidateQueries({ queryKey: keys.lists })
  return job
}
