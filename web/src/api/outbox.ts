import { t } from '@lingui/core/macro'
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { csrfToken, deviceId, told, whose } from './client'
import type { ManyAnswers, Problem } from './types'
import { newId } from './uuid'

/** One write of a technician: an idempotent PUT, safe to repeat, in the order it was made. */
export type Write = {
  /** Of the entry, in order of time. */
  id: string
  /** Of the person signed in when it was made: another one never sends it. */
  person: string
  /** Where it was made; of those kept by an earlier release it is not known. */
  workshop?: string
  job: string
  path: string
  /** What is sent: facts as JSON, or a photo as it is. */
  body: unknown
  /** Said in the bar while it waits. */
  says: string
  /** How often the server stumbled over it. */
  tries?: number
  /** The server said no, and nobody on the screen took the answer: kept until a person decides. */
  problem?: Problem
}
type Made = Omit<Write, 'id' | 'person' | 'workshop' | 'tries' | 'problem'>
export type Outcome =
  | { state: 'sent'; answer: unknown }
  | { state: 'refused'; problem: Problem }
  | { state: 'waiting' }

interface OutboxSchema extends DBSchema {
  writes: { key: string; value: Write }
}

/**
 * What came of a try. away: no line, or a server that is only restarting: all wait. stumbled: this one write cannot be
 * answered: its job waits behind it, the others go on.
 */
type Tried = Outcome | { state: 'away' } | { state: 'stumbled'; problem: Problem }

const NONE: readonly Write[] = []
/** After so many tries a write that the server stumbles over is set aside, and its job goes on. */
export const MOST_TRIES = 5
/** Writes that go in one request, and how long they may be together, characters. */
const MOST_AT_ONCE = 25
const MOST_TOGETHER = 500_000

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
  #keeping: Promise<unknown> = Promise.resolve()
  #timer: ReturnType<typeof setTimeout> | undefined
  #failures = 0
  #person = ''
  #workshop = ''
  readonly #name: string
  readonly #onAnswer: (write: Write, answer: unknown) => unknown
  /** The browser's session is somebody else's by now. */
  readonly #onStranger: () => void

  constructor(
    onAnswer: (write: Write, answer: unknown) => unknown,
    name = 'warm-draft',
    onStranger: () => void = () => undefined,
  ) {
    this.#onAnswer = onAnswer
    this.#onStranger = onStranger
    this.#name = name
    this.#db = openDB<OutboxSchema>(name, 1, {
      upgrade: (db) => void db.createObjectStore('writes', { keyPath: 'id' }),
    })
    globalThis.addEventListener?.('online', () => void this.flush())
  }

  /** From now on this person's writes go out. */
  async serve(person: string, workshop = ''): Promise<void> {
    this.#person = person
    this.#workshop = workshop
    await this.#refresh()
    void this.flush()
  }

  /** Store a write and try to send it. Resolves once it is sent or refused, or known to wait. */
  put(write: Made): Promise<Outcome> {
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
    return this.#store({ job, path, body, says }, write)
  }

  /** Everything that was put so far is kept on the device. */
  kept = (): Promise<unknown> => this.#keeping

  async #store(write: Made, insteadOf?: Write): Promise<Outcome> {
    const workshop = insteadOf?.workshop ?? this.#workshop
    const entry: Write = { ...write, id: newId(), person: this.#person, ...(workshop && { workshop }) }
    const kept = this.#keep(entry, insteadOf)
    this.#keeping = Promise.allSettled([this.#keeping, kept])
    const { outcome } = await kept
    void this.flush()
    return outcome
  }

  /** Kept on the device; then, and not before, somebody may send it: outcome is what comes of that. */
  async #keep(entry: Write, insteadOf: Write | undefined): Promise<{ outcome: Promise<Outcome> }> {
    const change = (await this.#db).transaction('writes', 'readwrite')
    await Promise.all([
      change.store.put(entry),
      insteadOf === undefined ? undefined : change.store.delete(insteadOf.id),
      change.done,
    ])
    const outcome = new Promise<Outcome>((resolve) => this.#settle.set(entry.id, resolve))
    await this.#refresh()
    return { outcome }
  }

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }

  /**
   * Send what waits, oldest first, each job in its order; stops where there is no line. One tab sends at a time. Ends in
   * any case: what cannot be answered is set aside, never tried for ever.
   */
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
    const held = new Set<string>() // jobs whose next write the server stumbled over
    let together = true
    for (;;) {
      const free = this.#waiting.filter((write) => !held.has(write.job))
      const first = free[0]
      if (!first) break
      const group = together ? fitting(free) : []
      const tried = group.length > 1 ? await this.#sendMany(group) : [await this.#send(first)]
      if (!tried) {
        together = false // they do not go together: one by one, so that each is answered for itself
        continue
      }
      const writes = group.length > 1 ? group : [first]
      for (const [i, write] of writes.entries()) {
        const came = tried[i] ?? { state: 'away' }
        if (came.state === 'away') return this.#noLine()
        if (held.has(write.job)) continue // behind one that stumbled: tried again after it
        if (!(await this.#settled(write, came))) held.add(write.job)
      }
      await this.#refresh()
    }
    if (this.#waiting.length > 0) return this.#noLine()
    this.#failures = 0 // only now: what still waited was shown as waiting to its end
    this.#changed()
  }

  /** All that waits goes on waiting, and who wrote it is told. */
  #noLine(): void {
    this.#later()
    for (const write of this.#waiting) this.#tell(write.id, { state: 'waiting' })
    this.#changed()
  }

  /** What came of one write is kept; false where it stays, to be tried again. */
  async #settled(write: Write, came: Exclude<Tried, { state: 'away' }>): Promise<boolean> {
    const db = await this.#db
    const tries = (write.tries ?? 0) + 1
    if (came.state === 'waiting') return false
    if (came.state === 'stumbled' && tries < MOST_TRIES) {
      await db.put('writes', { ...write, tries })
      return false
    }
    const problem = came.state === 'sent' ? undefined : came.problem
    if (problem && (came.state === 'stumbled' || this.#unheard(write, problem)))
      await db.put('writes', { ...write, tries, problem })
    else {
      // the answer is on the screen before what was shown ahead of it goes: nothing done looks undone in between
      if (came.state === 'sent') await this.#onAnswer(write, came.answer)
      await db.delete('writes', write.id)
    }
    await this.#refresh()
    this.#tell(write.id, came.state === 'stumbled' ? { state: 'refused', problem: came.problem } : came)
    return true
  }

  /** Two versions to choose from, or nobody there any more who would show why: it is kept. */
  #unheard(write: Write, problem: Problem): boolean {
    return problem.status === 409 || !this.#settle.has(write.id)
  }

  async #send(write: Write): Promise<Tried> {
    try {
      const response = await fetch(write.path, {
        method: 'PUT',
        body: write.body instanceof Blob ? write.body : JSON.stringify(write.body),
        headers: {
          'Content-Type': write.body instanceof Blob ? write.body.type : 'application/json',
          ...this.#headers(write),
        },
      })
      if (response.ok) return { state: 'sent', answer: await response.json() }
      return this.#refusedBy(response.status, await told(response))
    } catch {
      return { state: 'away' } // no line, or something between that answers with a page of its own
    }
  }

  /** Many in one request, each kept or refused by itself; undefined where they cannot go together. */
  async #sendMany(writes: readonly Write[]): Promise<Tried[] | undefined> {
    try {
      const response = await fetch('/api/v1/writes', {
        method: 'POST',
        body: JSON.stringify({ writes: writes.map(({ path, body }) => ({ path, body })) }),
        headers: { 'Content-Type': 'application/json', ...this.#headers(writes[0]) },
      })
      if (!response.ok) {
        const came = this.#refusedBy(response.status, await told(response))
        return came.state === 'away' ? writes.map(() => came) : undefined
      }
      const { answers, jobs }: ManyAnswers = await response.json()
      const shown = new Map(jobs.map((job) => [job.id, job]))
      return writes.map((write, i) => {
        const answer = answers[i]
        if (!answer) return { state: 'away' }
        if (answer.status < 400)
          return { state: 'sent', answer: answer.answer ?? shown.get(write.job) ?? null }
        return this.#refusedBy(answer.status, answer.problem ?? undefined)
      })
    } catch {
      return writes.map(() => ({ state: 'away' }))
    }
  }

  #headers(write: Write | undefined): Record<string, string> {
    const mine = write ?? { person: this.#person }
    return { 'X-CSRFToken': csrfToken(), 'X-Warm-Device': deviceId(), ...whose(mine) }
  }

  #refusedBy(status: number, problem: Problem | undefined): Tried {
    if (problem?.code === 'someone_else') {
      this.#onStranger()
      return { state: 'away' }
    }
    // signed out, asked to slow down, a server that is only restarting or busy
    if (status === 401 || status === 429 || status === 502 || status === 503 || status === 504)
      return { state: 'away' }
    if (problem && status < 500) return { state: 'refused', problem }
    return { state: 'stumbled', problem: problem ?? unreadable(status) }
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

/** The next writes that go in one request: of one workshop, as JSON, not too long together, none before its turn. */
function fitting(free: readonly Write[]): Write[] {
  const group: Write[] = []
  let length = 0
  for (const write of free) {
    if (write.body instanceof Blob || write.workshop !== free[0]?.workshop || write.tries) break
    length += JSON.stringify(write.body).length
    if (group.length === MOST_AT_ONCE || length > MOST_TOGETHER) break
    group.push(write)
  }
  return group
}

/** An answer that is not our server's, or not in its words. */
function unreadable(status: number): Problem {
  const message =
    status === 413
      ? t`This is larger than what is let through on the way to the server.`
      : t`Something on the way answered ${status} instead of the server.`
  return { title: 'failed', status, code: 'failed', message, fields: [] }
}
