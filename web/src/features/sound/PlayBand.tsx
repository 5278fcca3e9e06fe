import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useRef, useState } from 'react'
import type { Curves, PartRate } from '../../api/types'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Trouble'

/** Where a part is heard that stands in the low lines alone, Hz: what a small speaker still gives. */
const LOW_BAND = { low: 20, high: 160 }

/** Plays what is heard of one part: the band where it stands out most, and nothing else. */
export function PlayBand({
  url,
  bands,
  marks,
}: {
  url: string
  bands: Curves['bands']
  marks: readonly PartRate[]
}) {
  const context = useRef<AudioContext | null>(null)
  const [playing, setPlaying] = useState<string | null>(null)
  const [trouble, setTrouble] = useState<string | null>(null)
  const stop = () => {
    void context.current?.close()
    context.current = null
    setPlaying(null)
  }
  useEffect(() => () => void context.current?.close(), [])
  const play = async (part: string) => {
    stop()
    setTrouble(null)
    const { low, high } = bands[part] ?? LOW_BAND
    try {
      const audio = new AudioContext()
      context.current = audio
      setPlaying(part)
      const answer = await fetch(url)
      const source = audio.createBufferSource()
      source.buffer = await audio.decodeAudioData(await answer.arrayBuffer())
      const middle = Math.sqrt(low * high)
      const sharp = middle / (high - low)
      const first = new BiquadFilterNode(audio, { type: 'bandpass', frequency: middle, Q: sharp })
      const second = new BiquadFilterNode(audio, { type: 'bandpass', frequency: middle, Q: sharp })
      source
        .connect(first)
        .connect(second)
        .connect(new GainNode(audio, { gain: 3 }))
        .connect(audio.destination)
      source.onended = () => context.current === audio && stop()
      source.start()
    } catch {
      stop()
      setTrouble(t`This browser cannot play the recording.`)
    }
  }
  return (
    <div>
      <p className="font-bold">
        <Trans>Hear one part alone</Trans>
      </p>
      <div className="flex flex-wrap gap-2">
        {marks
          .filter((mark) => mark.part in bands)
          .map((mark) => (
            <Button
              key={mark.part}
              kind="outline"
              aria-pressed={playing === mark.part}
              onClick={() => (playing === mark.part ? stop() : void play(mark.part))}
            >
              {playing === mark.part ? '■' : '▶'} {mark.text}
            </Button>
          ))}
      </div>
      <Trouble says={trouble} />
    </div>
  )
}
