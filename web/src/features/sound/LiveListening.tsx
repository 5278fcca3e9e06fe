import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { sentence } from '../../api/client'
import { listenTo } from '../../api/queries'
import type { Job, SoundAnswer } from '../../api/types'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Trouble'
import { Level } from './Level'
import { useMicrophone } from './useMicrophone'
import { latest, lengthOf, wavOf } from './wav'

/** So much of what was heard last is judged, and so much is there before the first, s. */
const WINDOW_S = 6
const LEAST_S = 4
/** Before it is judged anew, ms. */
const EVERY_MS = 1500

/** The strongest part, named while one moves about; nothing of it is kept. */
export function LiveListening({ job, onClose }: { job: Job; onClose: () => void }) {
  const { heard, trouble, start, close, open } = useMicrophone()
  const [told, setTold] = useState<SoundAnswer | null>(null)
  const [deaf, setDeaf] = useState<string | null>(null)
  useEffect(() => {
    let gone = false
    const listen = async () => {
      const microphone = open.current
      if (microphone && lengthOf(microphone.blocks) >= LEAST_S * microphone.rate)
        try {
          const answer = await listenTo(
            job.id,
            wavOf(latest(microphone.blocks, WINDOW_S * microphone.rate), microphone.rate),
          )
          if (!gone) {
            setTold(answer)
            setDeaf(null)
          }
        } catch (error) {
          if (!gone) setDeaf(sentence(error))
        }
      if (!gone) setTimeout(() => void listen(), EVERY_MS)
    }
    void start().then(listen)
    return () => {
      gone = true
    }
  }, [start, open, job.id])
  const best = told?.sources[0]
  return (
    <section className="card-paper p-3" aria-label={t`Listening`}>
      {heard && <Level heard={heard} />}
      <p className="mt-2 min-h-10 text-2xl font-bold" role="status">
        {best ? `${best.text}, ${Math.round(100 * best.score)} %` : t`Listening: a few seconds …`}
      </p>
      <p className="text-soft">
        <Trans>
          The latest {WINDOW_S} seconds. Go slowly along the machine: where one part gains, that is where it
          is. Nothing of this is kept; record where it is loudest.
        </Trans>
      </p>
      <Trouble says={trouble ?? deaf} />
      <Button kind="outline" className="mt-2" onClick={() => void close().then(onClose)}>
        <Trans>Stop listening</Trans>
      </Button>
    </section>
  )
}
