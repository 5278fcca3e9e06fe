import { useQuery } from '@tanstack/react-query'
import { client, done, unwrap } from './client'
import { chooseWorkshop, outbox, queryClient } from './queries'
import type { components } from './schema'
import { newId } from './uuid'

/** Drills: simulated machines on the same screens, in a room beside the workshop. */

export type Drills = components['schemas']['DrillsOut']
export type Drill = components['schemas']['DrillOut']
export type DrillTold = components['schemas']['DrillToldOut']
export type Gave = components['schemas']['GaveAnswer']

const of = {
  all: ['drills'] as const,
  one: (id: string) => ['drills', id] as const,
}

export const useDrills = () =>
  useQuery({
    queryKey: of.all,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/drills', { signal })),
  })

export const useDrill = (id: string) =>
  useQuery({
    queryKey: of.one(id),
    queryFn: async ({ signal }) =>
      unwrap(await client.GET('/api/v1/drills/{job_id}', { params: { path: { job_id: id } }, signal })),
  })

/** Begin a case, and go into the room it is worked in; the job's id. */
export async function beginDrill(which: string): Promise<string> {
  const id = newId()
  const drill = unwrap(
    await client.PUT('/api/v1/drills/{job_id}', { params: { path: { job_id: id } }, body: { case: which } }),
  )
  await chooseWorkshop(drill.room)
  return id
}

/** What the machine gives to a check. */
export const askTheMachine = async (job: string, check: string, phase: 'before' | 'after') =>
  unwrap(
    await client.POST('/api/v1/drills/{job_id}/asked', {
      params: { path: { job_id: job } },
      body: { check, phase },
    }),
  )

/** End a drill, and go back to the workshop: with what was said a moment ago, or not yet. */
export async function endDrill(job: string, workshop: string): Promise<void> {
  await outbox.kept()
  await outbox.flush()
  if (outbox.waiting().some((write) => write.job === job)) throw new Error('it is not all with the server')
  unwrap(await client.PUT('/api/v1/drills/{job_id}/ended', { params: { path: { job_id: job } } }))
  await chooseWorkshop(workshop)
}

export async function makeCase(job_id: string, title: string): Promise<void> {
  done(
    await client.PUT('/api/v1/drills/cases/{case_id}', {
      params: { path: { case_id: newId() } },
      body: { job_id, title },
    }),
  )
  await queryClient.invalidateQueries({ queryKey: of.all })
}

export async function removeCase(id: string): Promise<void> {
  done(await client.DELETE('/api/v1/drills/cases/{case_id}', { params: { path: { case_id: id } } }))
  await queryClient.invalidateQueries({ queryKey: of.all })
}
