import { useQuery } from '@tanstack/react-query'
import { client, done, unwrap } from './client'
import { comeIn, keys, queryClient } from './queries'
import type { MeRole, Workshop } from './types'
import { newId } from './uuid'

/** Acts about people and one's own account: they need a line, and say so where there is none. */

export function usePeople() {
  return useQuery({
    queryKey: keys.people,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/people', { signal })),
  })
}

export function useSittings() {
  return useQuery({
    queryKey: keys.sittings,
    queryFn: async ({ signal }) => unwrap(await client.GET('/api/v1/me/sittings', { signal })),
  })
}

const changed = () => queryClient.invalidateQueries({ queryKey: keys.people })

export async function invite(email: string, role: MeRole): Promise<void> {
  const params = { path: { invitation_id: newId() } }
  unwrap(await client.PUT('/api/v1/invitations/{invitation_id}', { params, body: { email, role } }))
  await changed()
}

export async function setPerson(id: string, role: MeRole, kinds: string[]): Promise<void> {
  const qualifications = (['live', 'gas'] as const).filter((kind) => kinds.includes(kind))
  const params = { path: { person_id: id } }
  done(await client.PUT('/api/v1/people/{person_id}', { params, body: { role, qualifications } }))
  await changed()
}

/** What the workshop reckons, counts its days and speaks in: every answer may be another one after it. */
export async function keepWorkshop(body: Workshop): Promise<void> {
  queryClient.setQueryData(keys.me, unwrap(await client.PUT('/api/v1/workshop', { body })))
  await queryClient.invalidateQueries()
}

export async function forgetPerson(id: string): Promise<void> {
  done(await client.DELETE('/api/v1/people/{person_id}', { params: { path: { person_id: id } } }))
  await changed()
}

/** Out of the workshop; the account stays. */
export async function endMembership(id: string): Promise<void> {
  done(await client.DELETE('/api/v1/people/{person_id}/membership', { params: { path: { person_id: id } } }))
  await changed()
}

export async function uninvite(id: string): Promise<void> {
  done(
    await client.DELETE('/api/v1/invitations/{invitation_id}', { params: { path: { invitation_id: id } } }),
  )
  await changed()
}

export async function changePassword(old: string, fresh: string): Promise<void> {
  done(await client.PUT('/api/v1/me/password', { body: { old, new: fresh } }))
  await queryClient.invalidateQueries({ queryKey: keys.sittings })
}

export async function endSitting(id: string): Promise<void> {
  done(await client.DELETE('/api/v1/me/sittings/{sitting_id}', { params: { path: { sitting_id: id } } }))
  await queryClient.invalidateQueries({ queryKey: keys.sittings })
}

export const lostPassword = async (email: string): Promise<void> =>
  done(await client.POST('/api/v1/lost-password', { body: { email } }))

export const newPassword = async (key: string, token: string, fresh: string): Promise<void> =>
  done(await client.POST('/api/v1/new-password', { body: { key, token, new: fresh } }))

export const lookAtInvitation = async (token: string) =>
  unwrap(await client.POST('/api/v1/join/look', { body: { token } }))

export async function join(token: string, name: string, password: string): Promise<void> {
  await comeIn(unwrap(await client.POST('/api/v1/join', { body: { token, name, password } })))
}
