import { beforeEach, describe, expect, it, vi } from 'vitest'

const { put, held } = vi.hoisted(() => ({ put: vi.fn(), held: { waiting: [] as unknown[] } }))
vi.mock('../../api/queries', () => ({ outbox: { put }, useWaiting: () => held.waiting }))

import { act } from 'react'
import { aJob } from '../../test/fixtures'
import { later, shown } from '../../test/render'
import { PhotoButton, Photos } from './Photos'

URL.createObjectURL = () => 'blob:waits'
URL.revokeObjectURL = () => undefined
const photo = (step: string) => ({
  id: step,
  url: `/api/v1/photos/${step}`,
  width: 4,
  height: 3,
  step,
  by: 'Ada',
  at: '',
  on_record: false,
  wires: [] as { key: string; x: number; y: number }[],
})

const chosen = async (host: HTMLElement, file: File) => {
  const input = host.querySelector<HTMLInputElement>('input[type=file]')
  if (!input) throw new Error('there is no place for a photo')
  Object.defineProperty(input, 'files', { value: [file] })
  await act(async () => input.dispatchEvent(new Event('change', { bubbles: true })))
}

beforeEach(() => {
  put.mockReset()
  held.waiting = []
})

describe('photos of a step', () => {
  it('shows those of this step and what waits on the device', async () => {
    held.waiting = [
      {
        id: 'w',
        path: '/api/v1/jobs/j/photos/w?at=x&step=open.drum',
        body: new Blob(['x'], { type: 'image/jpeg' }),
      },
      { id: 'm', path: '/api/v1/jobs/j/marks/m', body: {} },
    ]
    const host = await shown(
      <Photos job={aJob({ photos: [photo('open.drum'), photo('open.top')] })} step="open.drum" />,
    )
    expect([...host.querySelectorAll('img')].map((image) => image.getAttribute('src'))).toEqual([
      '/api/v1/photos/open.drum',
      'blob:waits',
    ])
  })

  it('sends a photo as it is where the browser cannot read it, with its step and its time', async () => {
    put.mockResolvedValue({ state: 'sent', answer: null })
    const file = new File(['no picture'], 'a.heic', { type: 'image/heic' })
    await chosen(await shown(<PhotoButton job={aJob()} step="open.drum" />), file)
    const [write] = put.mock.lastCall ?? []
    expect(write.body).toBe(file)
    expect(write.path).toMatch(/\/photos\/[0-9a-f-]{36}\?at=.+&step=open\.drum$/)
  })

  const wires = ['fuse', 'motor'].map((device) => ({
    key: device,
    device,
    terminal: 'lug',
    colour: 'red',
    colour_code: 'red',
    ground: false,
    off: true,
    notes: [],
    contradicts: false,
    said: null,
  }))
  const press = (host: Element, words: string) =>
    act(async () => {
      const button = [...host.querySelectorAll('button')].find((row) => row.textContent?.includes(words))
      if (!button) throw new Error(`there is no ${words}`)
      button.click()
    })

  it('is put on the record and keeps the wires marked on it', async () => {
    put.mockResolvedValue({ state: 'sent', answer: null })
    const marked = { ...photo('open.drum'), wires: [{ key: 'fuse', x: 0.1, y: 0.2 }] }
    const host = await shown(<Photos job={aJob({ photos: [marked] })} step="open.drum" wires={wires} />)
    expect(host.querySelector('figcaption')?.textContent).toBe('1fuse · lug')
    await press(host, 'Put on the record')
    const [write] = put.mock.lastCall ?? []
    expect(write.path).toMatch(/\/photos\/open\.drum\/notes\/[0-9a-f-]{36}$/)
    expect(write.body).toMatchObject({ on_record: true, wires: marked.wires })
  })

  it('takes a wire by touch, goes on to the next, moves it by arrows, and keeps all at once', async () => {
    put.mockResolvedValue({ state: 'sent', answer: null })
    HTMLDialogElement.prototype.showModal = function () {
      this.open = true
    }
    const host = await shown(
      <Photos job={aJob({ photos: [photo('open.drum')] })} step="open.drum" wires={wires} />,
    )
    await press(host, 'Mark the wires')
    const area = await later(() => host.querySelector<HTMLElement>('dialog button[aria-label^="The photo"]'))
    area.getBoundingClientRect = () => ({ left: 0, top: 0, width: 200, height: 100 }) as DOMRect
    await act(async () => {
      area.dispatchEvent(new MouseEvent('click', { bubbles: true, detail: 1, clientX: 50, clientY: 80 }))
    })
    expect(host.querySelector('dialog [aria-pressed=true]')?.textContent).toContain('motor')
    for (const key of ['ArrowLeft', 'ArrowUp'])
      await act(async () => area.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, key })))
    await press(host, 'Keep the marks')
    expect(put.mock.lastCall?.[0].body).toMatchObject({
      on_record: false,
      wires: [
        { key: 'fuse', x: 0.25, y: 0.8 },
        { key: 'motor', x: 0.48, y: 0.48 },
      ],
    })
  })

  it('says why a photo was refused', async () => {
    put.mockResolvedValue({ state: 'refused', problem: { message: 'This is no JPEG.' } })
    const host = await shown(<PhotoButton job={aJob()} step="open.drum" />)
    await chosen(host, new File(['x'], 'a.txt', { type: 'text/plain' }))
    expect(host.querySelector('[role=alert]')?.textContent).toBe('This is no JPEG.')
  })
})
