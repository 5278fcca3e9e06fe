// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from 'vitest'
import { askedOf, EMPTY, keepTray, type Tray, trayOf } from './tray'

const row = (grams: string, vane: string, amplitude: string, phase = '') => ({
  grams,
  vane,
  amplitude,
  phase,
})
const tray = (...rows: Tray['rows']): Tray => ({ radius: '80', vanes: '', rows })

beforeEach(() => localStorage.clear())

describe('what is asked of a tray', () => {
  it.each([
    ['nothing typed', tray(EMPTY, EMPTY)],
    ['only the bare run', tray(row('', '', '3.2'), EMPTY)],
    ['no radius', { ...tray(row('', '', '3'), row('5', '0', '4')), radius: 'wide' }],
    ['a run without its vane', tray(row('', '', '3'), row('5', '', '4'))],
  ])('%s: nothing yet', (_, told) => expect(askedOf(told)).toBeNull())

  it('the runs that are whole, with a comma as with a point', () => {
    const told = tray(row('', '', '3,2'), row('5', '0', '4.1', '20'), row('5', '12', ''), EMPTY)
    expect(askedOf(told)).toEqual({
      radius_mm: 80,
      vanes: null,
      runs: [
        { grams: 0, vane: null, amplitude: 3.2, phase_deg: null },
        { grams: 5, vane: 0, amplitude: 4.1, phase_deg: 20 },
      ],
    })
  })
})

describe('a tray on this device', () => {
  it('stays with its job', () => {
    keepTray('a', tray(row('', '', '7')))
    expect(trayOf('a').rows[0]?.amplitude).toBe('7')
    expect(trayOf('b').rows).toHaveLength(4)
  })

  it('is fresh where what is kept is no tray', () => {
    localStorage.setItem('warm-draft-tray-a', '{rubbish')
    expect(trayOf('a').rows).toHaveLength(4)
  })
})
