import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { csrfToken, deviceId, told } from './client'
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
  /** What is sent: facts as JSON, or a photo as it is. */
  body: unknown
  /** Said in the bar while it waits. */
  says: string
  /** The server said no, and nobody on the screen took the answer: kept until a person decides. */
  problem?: Problem
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
  #all: readonly Write[] = []
  #waiting: readonly Write[] = NONE
  #refused: readonly Write[] = NONE
  #settle = new Map<string, (outcome: Outcome) => void>()
  #sending: Promise<void> | undefined
  #timer: ReturnType<typeof setTimeout> | undefined
  #failures = 0
  #person = ''
  readonly #name: string
  readonly #onAnswer: (write: Write, answer: unknown) => unknown

  constructor(onAnswer: (write: Write, answer: unknown) => unknown, name = 'warm-draft') {
    this.#onAnswer = onAnswer
    this.#name = name
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
  put(write: Omit<Write, 'id' | 'person' | 'problem'>): Promise<Outcome> {
    return this.#store(write)
  }

  waiting = (): readonly Write[] => this.#waiting

  /** What a person should know of: nothing while all goes out as it is written. */
  stuck = (): readonly Write[] => (this.#failures > 0 ? this.#waiting : NONE)

  /** What the server would not take, with the reason: nothing of it is lost until a person says so. */
  refused = (): readonly Write[] => this.#refused

  /** Give a refused write up. */
  async drop(id: string): Promise<void> {
    await (await this.#db).delete('writes', id)
    await this.#refresh()
  }

  /** Send a refused write once more, mended. */
  again(write: Write, change: Partial<Pick<Write, 'path' | 'body'>> = {}): Promise<Outcome> {
    const { job, path, body, says } = { ...write, ...change }
    return this.#store({ job, path, body, says }, write.id)
  }

  async #store(write: Omit<Write, 'id' | 'person' | 'problem'>, insteadOf?: string): Promise<Outcome> {
    const entry: Write = { ...write, id: newId(), person: this.#person }
    const change = (await this.#db).transaction('writes', 'readwrite')
    await Promise.all([
      change.store.put(entry),
      insteadOf === undefined ? undefined : change.store.delete(insteadOf),
      change.done,
    ])
    const settled = new Promise<Outcome>((resolve) => this.#settle.set(entry.id, resolve))
    await this.#refresh()
    void this.flush()
    return settled
  }

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }

  /** Send what waits, oldest first; stops at the first that finds no line. One tab sends at a time. */
  async flush(): Promise<void> {
    if (this.#sending) {
      await this.#sending // that try may have begun before the line was back
      if (this.#waiting.length === 0) return
    }
    this.#sending ??= this.#alone(() => this.#sendAll()).finally(() => {
      this.#sending = undefined
    })
    return this.#sending
  }

  async #alone(work: () => Promise<void>): Promise<void> {
    const { locks } = globalThis.navigator
    await (locks ? locks.request(`outbox ${this.#name}`, work) : work())
  }

  async #sendAll(): Promise<void> {
    clearTimeout(this.#timer)
    await this.#refresh()
    const left = new Set(this.#all.map((write) => write.id))
    for (const id of this.#settle.keys()) if (!left.has(id)) this.#tell(id, { state: 'sent', answer: null }) // by another tab
    for (let next = this.#waiting[0]; next; next = this.#waiting[0]) {
      const outcome = await this.#send(next)
      if (outcome.state === 'waiting') {
        this.#later()
        for (const write of this.#waiting) this.#tell(write.id, outcome)
        this.#changed()
        return
      }
      const db = await this.#db
      if (outcome.state === 'refused' && this.#unheard(next, outcome.problem))
        await db.put('writes', { ...next, problem: outcome.problem })
      else {
        // the answer is on the screen before what was shown ahead of it goes: nothing done looks undone in between
        if (outcome.state === 'sent') await this.#onAnswer(next, outcome.answer)
        await db.delete('writes', next.id)
      }
      await this.#refresh()
      this.#tell(next.id, outcome)
    }
    this.#failures = 0 // only now: what still waited was shown as waiting to its end
    this.#changed()
  }

  /** Two versions to choose from, or nobody there any more who would show why: it is kept. */
  #unheard(write: Write, problem: Problem): boolean {
    return problem.status === 409 || !this.#settle.has(write.id)
  }

  async #send(write: Write): Promise<Outcome> {
    try {
      const response = await fetch(write.path, {
        method: 'PUT',
        body: write.body instanceof Blob ? write.body : JSON.stringify(write.body),
        headers: {
          'Content-Type': write.body instanceof Blob ? write.body.type : 'application/json',
          'X-CSRFToken': csrfToken(),
          'X-Warm-Device': deviceId(),
        },
      })
      if (response.ok) return { state: 'sent', answer: await response.json() }
      const problem = await told(response)
      // signed out, a server that is only restarting, or something between that is not our server: it waits
      if (!problem || response.status === 401 || response.status === 429 || response.status >= 500)
        return { state: 'waiting' }
      return { state: 'refused', problem }
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
    this.#all = all.filter((write) => write.person === this.#person)
    this.#waiting = this.#all.filter((write) => !write.problem)
    this.#refused = this.#all.filter((write) => write.problem)
    this.#changed()
  }

  #changed(): void {
    for (const listener of this.#listeners) listener()
  }
}
