import { describe, expect, it } from 'vitest'
import { latest, lengthOf, peakOf, wavOf } from './wav'

const block = (...samples: number[]) => new Float32Array(samples)

describe('a recording as a WAV', () => {
  it('says what it is and holds its samples, cut off at full scale', async () => {
    const file = new DataView(await wavOf([block(0, 0.5), block(-1, 2)], 48_000).arrayBuffer())
    const word = (at: number) => String.fromCharCode(...[0, 1, 2, 3].map((i) => file.getUint8(at + i)))
    expect([word(0), word(8), word(36)]).toEqual(['RIFF', 'WAVE', 'data'])
    expect([file.getUint32(24, true), file.getUint16(22, true), file.getUint16(34, true)]).toEqual([
      48_000, 1, 16,
    ])
    expect(file.getUint32(40, true)).toBe(8)
    expect(file.byteLength).toBe(file.getUint32(4, true) + 8)
    expect([0, 1, 2, 3].map((i) => file.getInt16(44 + 2 * i, true))).toEqual([0, 16384, -32767, 32767])
  })
})

describe('the latest of what was heard', () => {
  it.each([
    [2, [4, 5]],
    [3, [3, 4, 5]],
    [9, [1, 2, 3, 4, 5]],
    [0, []],
  ])('%i samples', (samples, wanted) => {
    const kept = latest([block(1, 2), block(3), block(4, 5)], samples)
    expect(kept.flatMap((part) => [...part])).toEqual(wanted)
    expect(lengthOf(kept)).toBe(wanted.length)
  })
})

it('a block is as loud as its loudest sample, whichever way it goes', () => {
  expect(peakOf(block(0.1, -0.7, 0.3))).toBeCloseTo(0.7)
})
