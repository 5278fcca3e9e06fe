import { t } from '@lingui/core/macro'
import createClient from 'openapi-fetch'
import type { paths } from './schema'
import type { Problem } from './types'
import { newId } from './uuid'

/** The token changes at sign-in: read the cookie each time, never keep it. */
export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? ''
}

const DEVICE = 'warm-draft-device'

/** This device: its own writes in a row are no conflict with each other. */
export function deviceId(): string {
  const known = localStorage.getItem(DEVICE)
  if (known) return known
  const made = newId()
  localStorage.setItem(DEVICE, made)
  return made
}

/** Who this page is: a page of one person never asks or writes as another who signed in beside it. */
export const identity = { person: '', workshop: '' }

/** What a request carries of whose it is. */
export function whose({ person, workshop }: { person: string; workshop?: string }): Record<string, string> {
  return { ...(person && { 'X-Warm-Person': person }), ...(workshop && { 'X-Warm-Workshop': workshop }) }
}

export const client = createClient<paths>({ baseUrl: window.location.origin })

client.use({
  onRequest({ request }) {
    for (const [name, value] of Object.entries(whose(identity))) request.headers.set(name, value)
    if (request.method !== 'GET' && request.method !== 'HEAD') {
      request.headers.set('X-CSRFToken', csrfToken())
      request.headers.set('X-Warm-Device', deviceId())
    }
    return request
  },
})

/** The server said no, and why. */
export class Refused extends Error {
  readonly problem: Problem
  constructor(problem: Problem) {
    super(problem.message)
    this.problem = problem
  }
}

/** What to tell a person of any failure. */
export function sentence(error: unknown): string {
  if (error instanceof Refused) return error.message
  return t`No answer from the server. What you wrote is kept; it is sent when the line is back.`
}

type Answer<T> = { data?: T; error?: unknown; response: Response }

function isProblem(value: unknown): value is Problem {
  return typeof value === 'object' && value !== null && 'code' in value && 'message' in value
}

/** Where the next page of a list begins; undefined on its last. */
export const nextOf = (response: Response): string | undefined =>
  response.headers.get('X-Warm-Next') ?? undefined

/** The data of an answer, or the refusal thrown. */
export function unwrap<T>({ data, error, response }: Answer<T>): T {
  if (data !== undefined) return data
  if (isProblem(error)) throw new Refused(error)
  throw new Error(`the server answered ${response.status}`)
}

/** Nothing to be given: it is done, or the refusal is thrown. */
export function done({ error, response }: Answer<unknown>): void {
  if (response.ok) return
  if (isProblem(error)) throw new Refused(error)
  throw new Error(`the server answered ${response.status}`)
}

/** What our server says is wrong; undefined where it was not our server that answered. */
export async function told(response: Response): Promise<Problem | undefined> {
  const said: unknown = await response.json().catch(() => undefined)
  return isProblem(said) ? said : undefined
}

/** A problem read from any failed response, for those who fetch by themselves. */
export async function problemOf(response: Response): Promise<Problem> {
  const problem = await told(response)
  if (problem) return problem
  return {
    title: 'failed',
    status: response.status,
    code: 'failed',
    message: t`The server answered ${response.status}; try again.`,
    fields: [],
  }
}
