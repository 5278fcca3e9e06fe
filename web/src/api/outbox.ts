import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { csrfToken, problemOf } from './client'
import type { Problem } from './types'
import { newId } from './uuid'

/** One write of a technician: an idempotent PUT, safe to repeat, in the order it was made. */
export type Write = {
  /** Of the entry, in order of time. */
  id: string
  /** Of the person signed in when it was made: another one never sends it. */
  person: string
  job: string
  path: string
  body: unknown
  /** Said in the bar while it waits. */
  says: string
}
export type Outcome =
  | { state: 'sent'; answer: unknown }
  | { state: 'refused'; problem: Problem }
  | { state: 'waiting' }

interface OutboxSchema extends DBSchema {
  writes: { key: string; value: Write }
}

const NONE: readonly Write[] = []

/** How long to wait before trying again when the line is down, ms: doubles up to the last. */
const PATIENCE = [1_000, 2_000, 5_000, 15_000, 30_000]

/**
 * The one way out for every write. A write is stored before it is sent and leaves the store only when the server has
 * answered, so a lost line or a closed browser loses nothing; the server knows a repeated id and does not double it.
 */
export class Outbox {
  #db: Promise<IDBPDatabase<OutboxSchema>>
  #listeners = new Set<() => void>()
  #waiting: readonly Write[] = []
  #settle = new Map<string, (outcome: Outcome) => void>()
  #sending: Promise<void> | undefined
  #timer: ReturnType<typeof setTimeout> | undefined
  #failures = 0
  #person = ''
  readonly #onAnswer: (write: Write, answer: unknown) => void

  constructor(onAnswer: (write: Write, answer: unknown) => void, name = 'warm-draft') {
    this.#onAnswer = onAnswer
    this.#db = openDB<OutboxSchema>(name, 1, {
      upgrade: (db) => void db.createObjectStore('writes', { keyPath: 'id' }),
    })
    globalThis.addEventListener?.('online', () => void this.flush())
  }

  /** From now on this person's writes go out. */
  async serve(person: string): Promise<void> {
    this.#person = person
    await this.#refresh()
    void this.flush()
  }

  /** Store a write and try to send it. Resolves once it is sent or refused, or known to wait. */
  async put(write: Omit<Write, 'id' | 'person'>): Promise<Outcome> {
    const entry: Write = { ...write, id: newId(), person: this.#person }
    const settled = new Promise<Outcome>((resolve) => this.#settle.set(entry.id, resolve))
    await (await this.#db).put('writes', entry)
    await this.#refresh()
    void this.flush()
    return settled
  }

  waiting = (): readonly Write[] => this.#waiting

  /** What a person should know of: nothing while all goes out as it is written. */
  stuck = (): readonly Write[] => (this.#failures > 0 ? this.#waiting : NONE)

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }

  /** Send what waits, oldest first; stops at the first that finds no line. */
  async flush(): Promise<void> {
    this.#sending ??= this.#sendAll().finally(() => {
      this.#sending = undefined
    })
    return this.#sending
  }

  async #sendAll(): Promise<void> {
    clearTimeout(this.#timer)
    for (let next = this.#waiting[0]; next; next = this.#waiting[0]) {
      const outcome = await this.#send(next)
      if (outcome.state === 'waiting') {
        this.#later()
        for (const write of this.#waiting) this.#tell(write.id, outcome)
        for (const listener of this.#listeners) listener()
        return
      }
      this.#failures = 0
      await (await this.#db).delete('writes', next.id)
      await this.#refresh()
      if (outcome.state === 'sent') this.#onAnswer(next, outcome.answer)
      this.#tell(next.id, outcome)
    }
  }

  async #send(write: Write): Promise<Outcome> {
    try {
      const response = await fetch(write.path, {
        method: 'PUT',
        body: JSON.stringify(write.body),
        headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
      })
      if (response.ok) return { state: 'sent', answer: await response.json() }
      // signed out, or a server that is only restarting: it waits
      if (response.status === 401 || response.status >= 500) return { state: 'waiting' }
      return { state: 'refused', problem: await problemOf(response) }
    } catch {
      return { state: 'waiting' }
    }
  }

  #tell(id: string, outcome: Outcome): void {
    this.#settle.get(id)?.(outcome)
    this.#settle.delete(id)
  }

  #later(): void {
    const wait = PATIENCE[Math.min(this.#failures, PATIENCE.length - 1)]
    this.#failures += 1
    this.#timer = setTimeout(() => void this.flush(), wait)
  }

  async #refresh(): Promise<void> {
    const all = await (await this.#db).getAll('writes')
    this.#waiting = all.filter((write) => write.person === this.#person)
    for (const listener of this.#listeners) listener()
  }
}
