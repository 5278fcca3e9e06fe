// @vitest-environment jsdom
import 'fake-indexeddb/auto'
import { expect, it, vi } from 'vitest'
import { queryClient, signOut } from './queries'

const { late } = vi.hoisted(() => {
  const late: ((response: Response) => void)[] = []
  // before the client is made, which keeps the fetch that it finds
  globalThis.fetch = async (asked) => {
    if (asked instanceof Request && asked.method === 'DELETE') return new Response('{}')
    return new Promise<Response>((done) => late.push(done))
  }
  return { late }
})

it('lets no answer that is still under way open the door again to who has signed out', async () => {
  const queryKey = ['session']
  queryClient.setQueryData(queryKey, { signed_in: true })
  const asking = queryClient
    .fetchQuery({ queryKey, staleTime: 0, queryFn: async () => (await fetch('/api/v1/session')).json() })
    .catch(() => 'taken back')
  await signOut()
  late[0]?.(new Response('{"signed_in": true}'))
  await asking
  expect(late).toHaveLength(1)
  expect(queryClient.getQueryData(queryKey)).toEqual({ signed_in: false })
})
