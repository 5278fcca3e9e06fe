import { CODE_PROFILES, outbox } from './queries'
import type { CauseIn, FindingIn, JobIn, LogIn, MarkIn, MeterIn, ReadingIn, RunIn } from './types'
import { newId } from './uuid'

/** What a technician can do to a job. Each goes through the outbox; each has what takes it back. */

const at = () => new Date().toISOString()
/** A code as it reads while it waits: the words come from the server with the answer. */
const words = (code: string | null | undefined) => (code ?? '').replaceAll(/[_.]/g, ' ')
const base = (job: string) => `/api/v1/jobs/${job}`

export const openJob = (job: string, facts: Omit<JobIn, 'at'>) =>
  outbox.put({ job, path: base(job), body: { ...facts, at: at() }, says: `job at ${facts.place.name}` })

export function recordReading(job: string, facts: Omit<ReadingIn, 'at'>) {
  const id = newId()
  const path = `${base(job)}/readings/${id}`
  return {
    id,
    outcome: outbox.put({
      job,
      path,
      body: { ...facts, at: at() },
      says: `${words(facts.kind)} ${facts.typed}`,
    }),
  }
}

export function recordFinding(job: string, facts: Omit<FindingIn, 'at'>) {
  const id = newId()
  const path = `${base(job)}/findings/${id}`
  return {
    id,
    outcome: outbox.put({
      job,
      path,
      body: { ...facts, at: at() },
      says: `${words(facts.check)}: ${words(facts.result)}`,
    }),
  }
}

export function recordMeter(job: string, facts: Omit<MeterIn, 'at'>) {
  const id = newId()
  const path = `${base(job)}/meter/${id}`
  return {
    id,
    outcome: outbox.put({ job, path, body: { ...facts, at: at() }, says: `meter, ${words(facts.part)}` }),
  }
}

export function recordLog(job: string, facts: Omit<LogIn, 'at'>) {
  const id = newId()
  const path = `${base(job)}/logs/${id}`
  return {
    id,
    outcome: outbox.put({ job, path, body: { ...facts, at: at() }, says: `log of ${words(facts.kind)}` }),
  }
}

export const drawRun = (job: string, vent: RunIn['vent'], based_on: number) =>
  outbox.put({ job, path: `${base(job)}/vent`, body: { vent, based_on, at: at() }, says: 'vent run' })

/** Kept for the workshop; `job` is the one it was first needed for. */
export const keepCodeProfile = (
  job: string,
  id: string,
  document: Record<string, unknown>,
  removed = false,
) => outbox.put({ job, path: `${CODE_PROFILES}${id}`, body: { document, removed }, says: 'code profile' })

export const withdraw = (job: string, fact: string, withdrawn: boolean) =>
  outbox.put({
    job,
    path: `${base(job)}/facts/${fact}/withdrawn`,
    body: { withdrawn, at: at() },
    says: withdrawn ? 'taken back' : 'put back',
  })

export const markStep = (job: string, facts: Omit<MarkIn, 'at'>) =>
  outbox.put({
    job,
    path: `${base(job)}/marks/${newId()}`,
    body: { ...facts, at: at() },
    says: `${words(facts.step)}: ${words(facts.state)}`,
  })

export function addPhoto(job: string, photo: Blob, step: string) {
  const id = newId()
  const query = new URLSearchParams({ at: at(), step })
  const path = `${base(job)}/photos/${id}?${query}`
  return { id, outcome: outbox.put({ job, path, body: photo, says: `photo ${words(step)}` }) }
}

export const chooseCause = (job: string, facts: Omit<CauseIn, 'at'>) =>
  outbox.put({
    job,
    path: `${base(job)}/causes/${newId()}`,
    body: { ...facts, at: at() },
    says: `${facts.kind} cause: ${words(facts.fault)}`,
  })

export const handOver = (job: string, note: string, override = '') =>
  outbox.put({
    job,
    path: `${base(job)}/record/${newId()}`,
    body: { note, override, at: at() },
    says: 'hand-over',
  })
