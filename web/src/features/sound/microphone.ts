import listener from './listener.js?url&no-inline'
import { type Blocks, lengthOf, peakOf } from './wav'

// fetched before it is wanted: by then there may be no line
void globalThis.fetch?.(listener).catch(() => undefined)

/** A sample this near to full scale is cut off. */
const FULL = 0.99

export type Heard = {
  /** Of what the microphone hears just now: its loudest sample, full scale 1. */
  level: number
  /** So far it was cut off somewhere. */
  clipped: boolean
  seconds: number
}

/** An open microphone. Nothing that a telephone does to a voice is done to the sound, as far as the browser lets it. */
export class Microphone {
  readonly #context: AudioContext
  readonly #stream: MediaStream
  readonly #blocks: Float32Array<ArrayBuffer>[] = []
  #clipped = false

  private constructor(context: AudioContext, stream: MediaStream) {
    this.#context = context
    this.#stream = stream
  }

  /** Opens it; throws what the browser says where it may not, or where there is none. */
  static async open(onHeard: (heard: Heard) => void): Promise<Microphone> {
    const stream = await navigator.mediaDevices.getUserMedia({
      audio: { channelCount: 1, echoCancellation: false, noiseSuppression: false, autoGainControl: false },
    })
    const context = new AudioContext()
    const opened = new Microphone(context, stream)
    await context.audioWorklet.addModule(listener)
    const node = new AudioWorkletNode(context, 'listener', { numberOfOutputs: 0 })
    node.port.onmessage = ({ data }: MessageEvent<Float32Array<ArrayBuffer>>) => {
      opened.#blocks.push(data)
      const level = peakOf(data)
      opened.#clipped ||= level >= FULL
      onHeard({ level, clipped: opened.#clipped, seconds: lengthOf(opened.#blocks) / context.sampleRate })
    }
    context.createMediaStreamSource(stream).connect(node)
    return opened
  }

  get rate(): number {
    return this.#context.sampleRate
  }

  get blocks(): Blocks {
    return this.#blocks
  }

  async close(): Promise<void> {
    for (const track of this.#stream.getTracks()) track.stop()
    if (this.#context.state !== 'closed') await this.#context.close()
  }
}
