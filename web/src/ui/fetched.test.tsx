import { act, type ComponentType, Suspense } from 'react'
import { describe, expect, it, vi } from 'vitest'
import { later, shown } from '../test/render'
import { Fetching, fetched } from './fetched'

const drawn = (load: () => Promise<ComponentType>) => {
  const Part = fetched(load)
  return shown(
    <Fetching>
      <Suspense fallback="on its way">
        <Part />
      </Suspense>
    </Fetching>,
  )
}

describe('a part of the app that is fetched when it is wanted', () => {
  it('stands where it was wanted', async () => {
    const host = await drawn(() => Promise.resolve(() => <p>the bench</p>))
    expect(await later(() => host.querySelector('p'))).toHaveProperty('textContent', 'the bench')
  })

  it('says that it did not come, and asks for the page anew', async () => {
    vi.spyOn(console, 'error').mockImplementation(() => undefined)
    const reload = vi.fn()
    vi.stubGlobal('location', { ...window.location, reload })
    const host = await drawn(() => Promise.reject(new TypeError('Failed to fetch')))
    expect(await later(() => host.querySelector('[role=alert]'))).toBeTruthy()
    await act(async () => host.querySelector('button')?.click())
    expect(reload).toHaveBeenCalledOnce()
    vi.unstubAllGlobals()
  })

  it('hides no other fault', async () => {
    vi.spyOn(console, 'error').mockImplementation(() => undefined)
    const broken = () => {
      throw new RangeError('a fault of ours')
    }
    await expect(drawn(() => Promise.resolve(broken))).rejects.toThrow('a fault of ours')
  })
})
