/** Sound as it is heard, full scale 1, in blocks that follow one another. */
export type Blocks = readonly Float32Array<ArrayBuffer>[]

const HEAD = 44
const FULL = 0x7fff

export const lengthOf = (blocks: Blocks): number => blocks.reduce((sum, block) => sum + block.length, 0)

/** A WAV of one channel, 16 bit: what every tool reads. */
export function wavOf(blocks: Blocks, rate: number): Blob {
  const samples = lengthOf(blocks)
  const file = new DataView(new ArrayBuffer(HEAD + 2 * samples))
  const word = (at: number, text: string) => {
    for (let i = 0; i < text.length; i++) file.setUint8(at + i, text.charCodeAt(i))
  }
  word(0, 'RIFF')
  file.setUint32(4, HEAD - 8 + 2 * samples, true)
  word(8, 'WAVEfmt ')
  file.setUint32(16, 16, true)
  file.setUint16(20, 1, true) // plain samples
  file.setUint16(22, 1, true)
  file.setUint32(24, rate, true)
  file.setUint32(28, 2 * rate, true)
  file.setUint16(32, 2, true)
  file.setUint16(34, 16, true)
  word(36, 'data')
  file.setUint32(40, 2 * samples, true)
  let at = HEAD
  for (const block of blocks)
    for (const sample of block) {
      file.setInt16(at, Math.round(Math.max(-1, Math.min(1, sample)) * FULL), true)
      at += 2
    }
  return new Blob([file], { type: 'audio/wav' })
}

/** The last so many samples, and no more. */
export function latest(blocks: Blocks, samples: number): Blocks {
  const kept: Float32Array<ArrayBuffer>[] = []
  let left = samples
  for (let i = blocks.length - 1; i >= 0 && left > 0; i--) {
    const block = blocks[i]
    if (!block) break
    kept.unshift(block.length > left ? block.slice(block.length - left) : block)
    left -= block.length
  }
  return kept
}

/** How loud a block is at its loudest, full scale 1. */
export const peakOf = (block: Float32Array): number =>
  block.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
