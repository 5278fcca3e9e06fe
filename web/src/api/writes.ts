import { t } from '@lingui/core/macro'
import { called } from './called'
import { CODE_PROFILES, LAYOUTS, outbox } from './queries'
import type {
  AddedIn,
  AgreementIn,
  CauseIn,
  CountIn,
  FindingIn,
  HandOverIn,
  Job,
  JobIn,
  LintIn,
  LogIn,
  MarkIn,
  MeterIn,
  OldPartIn,
  PartIn,
  PhotoNoteIn,
  PlanIn,
  ReadingIn,
  RunIn,
  WayIn,
  WorkIn,
} from './types'
import { newId } from './uuid'

/** What a technician can do to a job. Each goes through the outbox; each has what takes it back. */

const at = () => new Date().toISOString()
/** A code as it reads while it waits: the words come from the server with the answer. */
const base = (job: string) => `/api/v1/jobs/${job}`

export const openJob = (job: string, facts: Omit<JobIn, 'at'>) =>
  outbox.put({ job, path: base(job), body: { ...facts, at: at() }, says: t`job at ${facts.place.name}` })

/** What is said of a job, changed; the rest goes along as it stands. */
export function changeJob(
  job: Job,
  change: Partial<Pick<Job, 'complaints' | 'circumstances' | 'said' | 'told'>>,
  way?: { layout: string; variant: Record<string, string> },
) {
  const { id, name, profile, energy, supply, age_years, version } = job.machine
  return openJob(job.id, {
    title: job.title,
    complaints: job.complaints,
    circumstances: job.circumstances,
    told: job.told,
    said: job.said,
    booked_for: job.booked_for,
    place: { ...job.place, as_known: true },
    machine: {
      id,
      name,
      profile,
      layout: way?.layout ?? job.machine.layout,
      variant: way?.variant ?? job.machine.variant,
      energy: energy === 'gas' ? 'gas' : 'electric',
      supply: supply === 'plug' ? 'plug' : 'hard_wired',
      age_years,
      version,
      as_known: !way,
    },
    based_on: job.version,
    ...change,
  })
}

/** What is known of a job's machine and place, filled in or corrected. */
export function changeMachineAndPlace(
  job: Job,
  place: Pick<JobIn['place'], 'name' | 'address' | 'contact'>,
  machine: Omit<JobIn['machine'], 'id' | 'version' | 'as_known'>,
) {
  const { title, complaints, circumstances, told, said, booked_for, version } = job
  return openJob(job.id, {
    title,
    complaints,
    circumstances,
    told,
    said,
    booked_for,
    based_on: version,
    place: { ...place, id: job.place.id, version: job.place.version, as_known: false },
    machine: { ...machine, id: job.machine.id, version: job.machine.version, as_known: false },
  })
}

/** Add something to a job under a new id; what takes it back needs the id. */
function add(job: string, to: string, body: unknown, says: string, query = '') {
  const id = newId()
  return { id, outcome: outbox.put({ job, path: `${base(job)}/${to}/${id}${query}`, body, says }) }
}

export const recordReading = (job: string, facts: Omit<ReadingIn, 'at'>) =>
  add(job, 'readings', { ...facts, at: at() }, `${called(facts.kind)} ${facts.typed}`)

export const recordFinding = (job: string, facts: Omit<FindingIn, 'at'>) =>
  add(job, 'findings', { ...facts, at: at() }, `${called(facts.check)}: ${called(facts.result)}`)

export const recordMeter = (job: string, facts: Omit<MeterIn, 'at'>) =>
  add(job, 'meter', { ...facts, at: at() }, t`meter, ${called(facts.part)}`)

export const recordLog = (job: string, facts: Omit<LogIn, 'at'>) =>
  add(job, 'logs', { ...facts, at: at() }, t`log of ${called(facts.kind)}`)

export const addPhoto = (job: string, photo: Blob, step: string) =>
  add(job, 'photos', photo, t`photo ${called(step)}`, `?${new URLSearchParams({ at: at(), step })}`)

/** A recording of the running machine; part: where it was held. */
export const addSound = (
  job: string,
  sound: Blob,
  phase: 'before' | 'after',
  held: { part: string; healthy: boolean },
) => {
  const said = { at: at(), phase, part: held.part, healthy: String(held.healthy) }
  return add(job, 'sounds', sound, t`recording`, `?${new URLSearchParams(said)}`)
}

/** What is said of a photo: on the customer's record or not, and where on it each wire is. */
export const notePhoto = (job: string, photo: string, note: Omit<PhotoNoteIn, 'at'>) =>
  add(job, `photos/${photo}/notes`, { ...note, at: at() }, t`photo`).outcome

export const drawRun = (job: string, vent: RunIn['vent'], based_on: number) =>
  outbox.put({ job, path: `${base(job)}/vent`, body: { vent, based_on, at: at() }, says: t`vent run` })

export const drawPlan = (job: string, plan: PlanIn['plan'], based_on: number) =>
  outbox.put({
    job,
    path: `${base(job)}/plan`,
    body: { plan, based_on, at: at() },
    says: t`plan of a new run`,
  })

/** Kept for the workshop; `job` is the one it was first needed for. */
export const keepCodeProfile = (
  job: string,
  id: string,
  document: Record<string, unknown>,
  removed = false,
) => outbox.put({ job, path: `${CODE_PROFILES}${id}`, body: { document, removed }, says: t`code profile` })

/** A layout of the workshop's own; it belongs to no job. */
export const keepLayout = (id: string, document: Record<string, unknown>, removed = false) =>
  outbox.put({ job: '', path: `${LAYOUTS}${id}`, body: { document, removed }, says: t`layout` })

export const withdraw = (job: string, fact: string, withdrawn: boolean) =>
  outbox.put({
    job,
    path: `${base(job)}/facts/${fact}/withdrawn`,
    body: { withdrawn, at: at() },
    says: withdrawn ? t`taken back` : t`put back`,
  })

export const markStep = (job: string, facts: Omit<MarkIn, 'at'>) =>
  add(job, 'marks', { ...facts, at: at() }, `${called(facts.step)}: ${called(facts.state)}`).outcome

/** Order an act on a part; what takes it back needs the id. */
export const orderWork = (job: string, facts: Omit<WorkIn, 'at'>) =>
  add(job, 'works', { ...facts, at: at() }, `${called(facts.part)}: ${called(facts.act)}`)

/** What became of a part that was meant for this job. */
export const sayPart = (job: string, facts: Omit<PartIn, 'at'>) =>
  add(job, 'parts', { ...facts, at: at() }, `${called(facts.part)} ${facts.number}`).outcome

/** What is printed on a part of the machine, as typed; what takes it back needs the id. */
export const readOldPart = (job: string, facts: Omit<OldPartIn, 'at'>) =>
  add(job, 'old-parts', { ...facts, at: at() }, called(facts.kind))

/** What was found where something was cleaned; what takes it back needs the id. */
export const foundLint = (job: string, facts: Omit<LintIn, 'at'>) =>
  add(job, 'lint', { ...facts, at: at() }, called(facts.act))

/** What the customer agreed to; what takes it back needs the id. */
export const agree = (job: string, facts: Omit<AgreementIn, 'at'>) =>
  add(job, 'agreements', { ...facts, at: at() }, t`agreed: ${facts.total}`)

/** What came off and stands in no layout; what takes it back needs the id. */
export const addOperation = (job: string, facts: Omit<AddedIn, 'at'>) =>
  add(job, 'added', { ...facts, at: at() }, String(facts.operation.does ?? ''))

export const count = (job: string, facts: Omit<CountIn, 'at'>) =>
  add(job, 'counts', { ...facts, at: at() }, `${called(facts.key)}: ${called(facts.state)}`).outcome

export const chooseWay = (job: string, facts: Omit<WayIn, 'at'>) =>
  add(job, 'ways', { ...facts, at: at() }, t`way in`).outcome

export const chooseCause = (job: string, facts: Omit<CauseIn, 'at'>) =>
  add(job, 'causes', { ...facts, at: at() }, t`${facts.kind} cause: ${called(facts.fault)}`).outcome

/** Open a job that was handed over again, for a new edition of its record. */
export const openAgain = (job: string, why: string) =>
  add(job, 'editions', { why, at: at() }, t`opened again`).outcome

export const handOver = (job: string, said: Omit<HandOverIn, 'at'>) =>
  add(job, 'record', { ...said, at: at() }, 'hand-over').outcome
