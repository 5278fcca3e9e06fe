import { beforeEach, describe, expect, it, vi } from 'vitest'

const { put, held } = vi.hoisted(() => ({ put: vi.fn(), held: { waiting: [] as unknown[] } }))
vi.mock('../../api/queries', () => ({ outbox: { put }, useWaiting: () => held.waiting }))

import { act } from 'react'
import { aJob } from '../../test/fixtures'
import { shown } from '../../test/render'
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

  it('says why a photo was refused', async () => {
    put.mockResolvedValue({ state: 'refused', problem: { message: 'This is no JPEG.' } })
    const host = await shown(<PhotoButton job={aJob()} step="open.drum" />)
    await chosen(host, new File(['x'], 'a.txt', { type: 'text/plain' }))
    expect(host.querySelector('[role=alert]')?.textContent).toBe('This is no JPEG.')
  })
})
