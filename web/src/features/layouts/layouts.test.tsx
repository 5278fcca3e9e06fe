import { act } from 'react'
import { beforeEach, describe, expect, it, vi } from 'vitest'

const put = vi.hoisted(() => vi.fn())
const looks = vi.hoisted(() => vi.fn())
vi.mock('../../api/queries', () => ({
  LAYOUTS: '/api/v1/layouts/',
  outbox: { put, subscribe: () => () => undefined, stuck: () => [], refused: () => [] },
  useOwnLayouts: () => ({ data: [{ id: 'own-1', document: { title: 'The old one' }, removed: false }] }),
  useRecognised: (answers: Record<string, string>) => ({ data: looks(answers) }),
  useWaiting: () => [],
  layoutDocument: async (name: string) => ({
    format: 'warm-draft/layout',
    name,
    title: 'Door screen',
    operations: [
      {
        id: 'top',
        does: 'Top off',
        open_minutes: 1,
        close_minutes: 2,
        driver: null,
        needs: [],
        reaches: ['wheel'],
        fasteners: [],
      },
    ],
  }),
}))
vi.mock('../../app/TopBar', () => ({ TopBar: ({ children }: { children: unknown }) => children }))

import { me, vocabulary } from '../../test/fixtures'
import { later, press, shown } from '../../test/render'
import { LayoutChoice } from './LayoutChoice'
import { LayoutsPage } from './LayoutsPage'

const layout = (name: string, probability: number) => ({
  name,
  title: `Layout ${name}`,
  maker: 'Maker',
  variant: { front: 'two' },
  probability,
  in_question: probability >= 0.03,
})
const found = (changes = {}) => ({
  layouts: [layout('a', 0.6), layout('b', 0.35), layout('c', 0.02)],
  next: {
    name: 'screen',
    ask: 'Where is the lint screen?',
    bits: 0.8,
    answers: [{ code: 'top', text: 'In the top' }],
  },
  known: false,
  none_of_them: false,
  ...changes,
})

beforeEach(() => {
  put.mockReset().mockResolvedValue({ state: 'sent', answer: {} })
  looks.mockReset().mockReturnValue(found())
  HTMLDialogElement.prototype.showModal ??= () => undefined
})

describe('which layout is it', () => {
  const looking = async (changed = vi.fn()) => {
    const host = await shown(<LayoutChoice chosen={{ layout: '', variant: {} }} onChange={changed} />)
    await press(host, 'Find it by looking')
    await later(() => host.querySelector('dialog'))
    return host
  }

  it('asks one look after another, takes an answer back, and asks nothing twice', async () => {
    const host = await looking()
    expect(host.textContent).toContain('Where is the lint screen?')
    await press(host, 'In the top')
    expect(looks).toHaveBeenLastCalledWith({ screen: 'top' })
    expect(host.textContent).toContain('60 %')
    expect(host.textContent).not.toContain('Layout c') // too unlikely to show
    await act(async () => host.querySelector('dialog')?.dispatchEvent(new Event('close')))
    await press(host, 'Find it by looking')
    expect(looks).toHaveBeenLastCalledWith({ screen: 'top' })
    await press(host, 'Undo the last answer')
    expect(looks).toHaveBeenLastCalledWith({})
  })

  it('ends when it is sure, with what was seen of it, and says when nothing fits', async () => {
    looks.mockReturnValue(found({ next: null, known: true }))
    const chosen = vi.fn()
    const host = await looking(chosen)
    expect(host.textContent).toContain('It is most likely this one')
    await press(host, 'Layout a')
    expect(chosen).toHaveBeenCalledWith({ layout: 'a', variant: { front: 'two' } })
    looks.mockReturnValue(found({ next: null, none_of_them: true }))
    expect((await looking()).textContent).toContain('start from the nearest')
  })

  it('offers ours and the workshop’s own', async () => {
    const changed = vi.fn()
    const host = await shown(<LayoutChoice chosen={{ layout: '', variant: {} }} onChange={changed} />)
    const select = host.querySelector('select')
    expect(select?.textContent).toContain('The old one (our own)')
    expect(select?.options).toHaveLength(2 + vocabulary.layouts.length)
    await press(host, 'Find it by looking')
    await later(() => host.textContent?.includes('Which layout is it?'))
  })
})

describe('layouts of our own', () => {
  const skilled = { ...me, may: [...me.may, 'keep_layouts'] }

  it('are edited as a table and kept whole', async () => {
    const host = await shown(<LayoutsPage />, skilled)
    await press(host, 'Edit')
    expect(host.querySelectorAll('tbody tr')).toHaveLength(1)
    await press(host, 'One more operation')
    await act(async () => host.querySelector<HTMLElement>('[aria-label="Row 2 up"]')?.click())
    await press(host, 'Keep it')
    const [written] = put.mock.calls[0] ?? []
    expect(written.path).toBe('/api/v1/layouts/own-1')
    expect(written.body.document.operations.map((row: { id: string }) => row.id)).toEqual(['step_2', 'top'])
  })

  it('name the row that does not hold', async () => {
    const message = 'needs go in a circle'
    const fields = [{ path: '$.document.operations[0].needs', message }]
    put.mockResolvedValue({ state: 'refused', problem: { message, fields } })
    const host = await shown(<LayoutsPage />, skilled)
    await press(host, 'Edit')
    await press(host, 'Keep it')
    expect(host.querySelector('[role=alert]')?.textContent).toBe(`Row 1: ${message}`)
    await press(host, 'Leave as it was')
    expect(host.querySelector('table')).toBeNull()
  })

  it('are for those who may; others are told whom to ask', async () => {
    const reason = 'As trainee you can’t; ask a technician.'
    const host = await shown(<LayoutsPage />, {
      ...me,
      may: [],
      may_not: { ...me.may_not, keep_layouts: reason },
    })
    expect(host.textContent).toContain(reason)
    expect(host.textContent).not.toContain('Start from this')
  })
})
