import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { type ReactNode, useEffect } from 'react'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Trouble'
import { Level } from './Level'
import { useMicrophone } from './useMicrophone'
import { wavOf } from './wav'

/** A recording is kept from so many seconds on, and ends by itself, s: slow knocks need their time. */
const LEAST_S = 10
const MOST_S = 20

/** Records with its level in sight, for as long as it takes to hear what is slow. children: what one may do instead. */
export function Record({ onRecorded, children }: { onRecorded: (sound: Blob) => void; children: ReactNode }) {
  const { heard, trouble, start, close } = useMicrophone()
  const keep = async () => {
    const was = await close()
    if (was) onRecorded(wavOf(was.blocks, was.rate))
  }
  const full = heard !== null && heard.seconds >= MOST_S
  // biome-ignore lint/correctness/useExhaustiveDependencies: it ends once, when it is full
  useEffect(() => {
    if (full) void keep()
  }, [full])
  if (heard === null)
    return (
      <>
        <div className="flex flex-wrap gap-2">
          <Button kind="neutral" className="h-[54px] px-6 text-lg" onClick={() => void start()}>
            <span aria-hidden="true">●</span> <Trans>Record</Trans>
          </Button>
          {children}
        </div>
        <Trouble says={trouble} />
      </>
    )
  const left = Math.max(0, Math.ceil(LEAST_S - heard.seconds))
  return (
    <section className="card-paper p-3" aria-label={t`Recording`}>
      <p className="text-3xl font-bold" role="timer">
        {Math.floor(heard.seconds)} s{' '}
        <span className="text-soft text-base font-normal">
          <Trans>of {MOST_S}; hold it still</Trans>
        </span>
      </p>
      <Level heard={heard} />
      <div className="mt-2 flex flex-wrap gap-2">
        <Button kind="neutral" className="h-[54px]" disabled={left > 0} onClick={() => void keep()}>
          {left > 0 ? t`${left} s more` : t`That is enough`}
        </Button>
        <Button kind="ghost" className="h-[54px]" onClick={() => void close()}>
          <Trans>Drop it</Trans>
        </Button>
      </div>
    </section>
  )
}
