import { describe, expect, it, vi } from 'vitest'
import { HeatPlot } from '../features/heat/HeatPlot'
import { vocabulary } from '../test/fixtures'
import { shown } from '../test/render'
import { pathOf, planeOf } from './plane'

vi.stubGlobal('matchMedia', () => ({
  matches: true,
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
}))

const trace = [0, 10, 20].map((minute) => ({ minute, box_c: 21 + 4 * minute, exhaust_c: 21, moisture: 0.5 }))
const run = { minutes: 40, stopped_by: null, trips: [], trace, energy: { value: 3, unit: 'kWh' } }

describe('a plot', () => {
  it('puts small numbers low and left, and a line through its points', () => {
    const plane = planeOf(640, 200, [0, 60], [0, 100])
    expect(plane.x(0)).toBeLessThan(plane.x(60))
    expect(plane.y(0)).toBeGreaterThan(plane.y(100))
    expect(pathOf(plane, [[0, 0], [60, 100]])).toMatch(/^M[\d.]+ [\d.]+ L[\d.]+ [\d.]+$/) // biome-ignore format: two points
  })

  it('has a table of its numbers behind it', async () => {
    const heat = { healthy: run, now: null, high_limit_c: 120, text: 'A load takes 40 min.' }
    const units = { temperature: 'degF' }
    const host = await shown(
      // @ts-expect-error what a plot draws of a heat, and nothing else
      <HeatPlot heat={heat} units={units} vocabulary={vocabulary} />,
    )
    const rows = [...host.querySelectorAll('tbody tr')].map((row) => row.textContent)
    expect(host.querySelector('caption')?.textContent).toContain('°F')
    expect(rows[0]).toBe('070–') // minute 0, 70 °F, nothing now
    expect(rows.length).toBeGreaterThan(3)
  })
})
