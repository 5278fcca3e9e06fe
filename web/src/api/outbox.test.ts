// @vitest-environment jsdom
import 'fake-indexeddb/auto'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Outbox } from './outbox'

const write = (says: string) => ({
  job: 'job',
  path: `/api/v1/jobs/job/readings/${says}`,
  body: { says },
  says,
})
/** A server that answers one write, or many in one request, by what is said of each. */
const server =
  (of: (says: string) => Promise<number>) =>
  async (path: unknown, init?: RequestInit): Promise<Response> => {
    const body = JSON.parse(String(init?.body))
    const one = async (written: { says: string }) => {
      const status = await of(written.says)
      if (status === 200) sent.push(written.says)
      return { status, problem: status === 200 ? null : { ...refusal, status }, answer: null }
    }
    if (path !== '/api/v1/writes') {
      const { status, problem } = await one(body)
      return answers(status, problem ?? {})
    }
    const came = []
    for (const { body: written } of body.writes) came.push(await one(written))
    return answers(200, { answers: came, jobs: [] })
  }
const refusal = { title: 't', code: 'stumbled', message: 'm', fields: [] }
const answers = (status: number, body: unknown) => new Response(JSON.stringify(body), { status })

let line: ReturnType<typeof vi.fn<typeof fetch>>
let heard: unknown[]
let sent: string[]
let name = 0

beforeEach(() => {
  line = vi.fn<typeof fetch>()
  vi.stubGlobal('fetch', line)
  heard = []
  sent = []
  name += 1
})
afterEach(() => vi.unstubAllGlobals())

const outbox = async (person = 'ada', database = `box ${name}`) => {
  const box = new Outbox((_write, answer) => heard.push(answer), database)
  await box.serve(person)
  return box
}

describe('the outbox', () => {
  it('sends a write once and hands its answer on', async () => {
    line.mockResolvedValue(answers(200, { verdict: 1 }))
    const box = await outbox()
    expect(await box.put(write('a'))).toEqual({ state: 'sent', answer: { verdict: 1 } })
    expect(line).toHaveBeenCalledOnce()
    expect(heard).toEqual([{ verdict: 1 }])
    expect(box.waiting()).toEqual([])
  })

  it('keeps what finds no line, in order, and sends it when the line is back', async () => {
    line.mockRejectedValue(new TypeError('no line'))
    const box = await outbox()
    expect((await box.put(write('a'))).state).toBe('waiting')
    expect((await box.put(write('b'))).state).toBe('waiting')
    expect(box.stuck().map((entry) => entry.says)).toEqual(['a', 'b'])
    line.mockImplementation(server(async () => 200))
    await box.flush()
    expect(sent).toEqual(['a', 'b'])
    expect(box.stuck()).toEqual([])
  })

  it('survives a closed browser', async () => {
    line.mockRejectedValue(new TypeError('no line'))
    await (await outbox()).put(write('a'))
    line.mockResolvedValue(answers(200, {}))
    const reopened = await outbox()
    await vi.waitFor(() => expect(reopened.waiting()).toEqual([]))
    expect(line).toHaveBeenCalledTimes(2)
  })

  it('takes a refusal out and says why', async () => {
    const problem = {
      title: 't',
      status: 422,
      code: 'not_possible',
      message: 'no machine has that',
      fields: [],
    }
    line.mockResolvedValue(answers(422, problem))
    const box = await outbox()
    expect(await box.put(write('a'))).toEqual({ state: 'refused', problem })
    expect(box.waiting()).toEqual([])
    expect(heard).toEqual([])
  })

  it.each([
    [401, { code: 'not_signed_in', message: 'm' }],
    [429, { code: 'slow_down', message: 'm' }],
    [502, {}],
    [403, 'a page of whoever owns this wireless net'],
    [404, {}],
  ])('waits while %i comes from a server that cannot take it, or is not ours', async (status, body) => {
    line.mockResolvedValue(answers(status, body))
    const box = await outbox()
    expect((await box.put(write('a'))).state).toBe('waiting')
    expect(box.waiting()).toHaveLength(1)
  })

  it('keeps a conflict until a person decides: the other version goes up, or this one with what it lacked', async () => {
    const problem = { title: 't', status: 409, code: 'changed_meanwhile', message: 'm', fields: [] }
    line.mockImplementation(async () => answers(409, problem))
    const box = await outbox()
    await box.put(write('a'))
    await box.put(write('b'))
    expect(box.refused().map((entry) => [entry.says, entry.problem?.code])).toEqual([
      ['a', 'changed_meanwhile'],
      ['b', 'changed_meanwhile'],
    ])
    const [first, second] = box.refused()
    await box.drop(first?.id ?? '')
    line.mockImplementation(async () => answers(200, {}))
    if (second) expect((await box.again(second, { body: { based_on: 4 } })).state).toBe('sent')
    expect(line.mock.lastCall?.[1]?.body).toBe('{"based_on":4}')
    expect([...box.refused(), ...box.waiting()]).toEqual([])
  })

  it('keeps what is refused when the screen that would say so is gone', async () => {
    line.mockRejectedValue(new TypeError('no line'))
    await (await outbox()).put(write('a'))
    line.mockImplementation(async () => answers(422, { code: 'not_possible', message: 'm', status: 422 }))
    const reopened = await outbox()
    await vi.waitFor(() => expect(reopened.refused()).toHaveLength(1))
    expect(reopened.waiting()).toEqual([])
  })

  it('sends many that waited in one request, each kept or refused by itself', async () => {
    line.mockRejectedValue(new TypeError('no line'))
    const box = await outbox()
    for (const says of ['a', 'b', 'c', 'd']) await box.put(write(says))
    line.mockReset()
    line.mockImplementation(server(async (says) => (says === 'b' ? 422 : 200)))
    await box.flush()
    expect(line.mock.calls.map(([path]) => path)).toEqual(['/api/v1/writes'])
    expect(sent).toEqual(['a', 'c', 'd'])
    expect(box.refused().map((entry) => entry.says)).toEqual(['b'])
    expect(box.waiting()).toEqual([])
  })

  it('sets aside what the server stumbles over five times; other jobs never wait for it, its own does in order', async () => {
    line.mockImplementation(server(async (says) => (says === 'poison' ? 500 : 200)))
    const box = await outbox()
    await box.put(write('poison'))
    await box.put(write('behind it'))
    await box.put({ ...write('elsewhere'), job: 'other' })
    expect(sent).toEqual(['elsewhere'])
    expect(box.waiting().map((entry) => entry.says)).toEqual(['poison', 'behind it'])
    for (let i = 0; i < 5; i++) await box.flush()
    expect(box.refused().map((entry) => [entry.says, entry.problem?.status])).toEqual([['poison', 500]])
    expect(sent).toEqual(['elsewhere', 'behind it'])
    expect(box.waiting()).toEqual([])
  })

  it('sets aside what a page of somebody else’s answers five times, with its reason', async () => {
    line.mockImplementation(async () => new Response('<h1>Too large</h1>', { status: 413 }))
    const box = await outbox()
    await box.put(write('a'))
    for (let i = 0; i < 5; i++) await box.flush()
    expect(box.refused()[0]?.problem).toMatchObject({ status: 413, code: 'failed' })
    expect(box.refused()[0]?.problem?.message).toContain('larger than what is let through')
  })

  it('says whose each write is and where it was made, whoever is signed in by now', async () => {
    line.mockImplementation(async () => answers(409, { status: 409, code: 'someone_else', message: 'm' }))
    const strangers = vi.fn()
    const box = new Outbox(() => undefined, `box ${name}`, strangers)
    await box.serve('ada', 'fell')
    expect((await box.put(write('a'))).state).toBe('waiting')
    expect(line.mock.lastCall?.[1]?.headers).toMatchObject({
      'X-Warm-Person': 'ada',
      'X-Warm-Workshop': 'fell',
    })
    expect(strangers).toHaveBeenCalled()
    expect(box.refused()).toEqual([])
  })

  it('never sends one person’s writes as another', async () => {
    line.mockRejectedValue(new TypeError('no line'))
    await (await outbox('ada')).put(write('a'))
    line.mockResolvedValue(answers(200, {}))
    line.mockClear()
    const other = await outbox('ben')
    await other.flush()
    expect(line).not.toHaveBeenCalled()
    expect(other.waiting()).toEqual([])
  })

  it('says nothing of a write that goes out as it is made', async () => {
    let answer: (response: Response) => void = () => undefined
    line.mockReturnValue(
      new Promise((resolve) => {
        answer = resolve
      }),
    )
    const box = await outbox()
    const sent = box.put(write('a'))
    await vi.waitFor(() => expect(line).toHaveBeenCalled())
    expect(box.stuck()).toEqual([])
    answer(answers(200, {}))
    await sent
  })
})
