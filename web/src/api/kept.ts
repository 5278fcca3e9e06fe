import { type DehydratedState, dehydrate, hydrate, type QueryClient } from '@tanstack/react-query'
import { type DBSchema, openDB } from 'idb'

/**
 * What was last on the screen, on the device: so the app opens, and the day's jobs with it, where there is no signal.
 * One copy, of one person; it goes when they sign out. Kept by contract: another API's answers are not shown.
 */
interface KeptSchema extends DBSchema {
  kept: { key: string; value: { contract: string; state: DehydratedState } }
}

const KEY = 'all'
const SAVE_AFTER = 500 // ms: one write of the store for a burst of answers

const store = () =>
  openDB<KeptSchema>('warm-draft-kept', 1, { upgrade: (db) => void db.createObjectStore('kept') })

/** Put back what was kept, then keep what comes. Without a store the app works, only not without a line. */
export async function keep(client: QueryClient, contract: string): Promise<void> {
  try {
    const db = await store()
    const kept = await db.get('kept', KEY)
    if (kept?.contract === contract) {
      hydrate(client, kept.state)
      await client.invalidateQueries({ refetchType: 'none' }) // shown at once, and asked anew where there is a line
    }
    let timer: ReturnType<typeof setTimeout> | undefined
    const save = () => {
      clearTimeout(timer)
      timer = undefined
      void db.put('kept', { contract, state: answers(client) }, KEY)
    }
    client.getQueryCache().subscribe(({ type }) => {
      if (type !== 'updated' && type !== 'added' && type !== 'removed') return
      timer ??= setTimeout(save, SAVE_AFTER)
    })
    // put away, or closed, with an answer just in: what hands have done must not look undone when it opens again
    const put = () => timer !== undefined && save()
    addEventListener('pagehide', put)
    document.addEventListener('visibilitychange', put)
  } catch {
    // a browser that lends no store (some private windows)
  }
}

/** Nothing of what was on the screen stays on the device. */
export async function forgetKept(): Promise<void> {
  await globalThis.caches?.delete('photos')
  try {
    await (await store()).delete('kept', KEY)
  } catch {
    // a browser that lends no store has kept nothing
  }
}

/** The last answer of each question, also of one that since found no line. */
function answers(client: QueryClient): DehydratedState {
  const state = dehydrate(client, {
    shouldDehydrateMutation: () => false,
    // that nobody is signed in is asked anew: kept, it would show the door for a moment to who has come in since
    shouldDehydrateQuery: ({ state: { data } }) =>
      data != null && (data as { signed_in?: boolean }).signed_in !== false,
  })
  for (const query of state.queries)
    Object.assign(query.state, { status: 'success', error: null, fetchFailureReason: null })
  return state
}
