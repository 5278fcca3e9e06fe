import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useCurves, useRates } from '../../api/queries'
import type { Job } from '../../api/types'
import { knocking, Spectrum } from './Spectrum'

/** The latest recording before the work beside the latest after it. */
export function Compared({ job }: { job: Job }) {
  const latest = (phase: 'before' | 'after') => {
    const sound = job.sounds.findLast((row) => row.phase === phase && row.in_force && !row.healthy)
    const recording = job.recordings.find((row) => row.id === sound?.id)
    return { sound, url: recording?.url ?? '', part: recording?.part ?? '' }
  }
  const before = latest('before')
  const after = latest('after')
  const was = useCurves(before.url)
  const now = useCurves(after.url)
  const rates = useRates(job, {
    motor_off: after.sound?.heard.motor_off ?? 0,
    belt_off: after.sound?.heard.belt_off ?? 0,
  })
  if (!before.sound || !after.sound || !was.data || !now.data) return null
  const both = (curve: 'spectrum' | 'knocks') =>
    [
      { name: t`before`, db: was.data[`${curve}_db`], step: was.data[`${curve}_step_hz`], look: 'was' },
      { name: t`after`, db: now.data[`${curve}_db`], step: now.data[`${curve}_step_hz`], look: 'now' },
    ] as const
  const marks = rates.data ?? []
  const heard = before.sound.heard.measured_rates
  return (
    <section className="mt-4 grid gap-2" aria-label={t`Before and after`}>
      <h3 className="text-lg font-bold">
        <Trans>Before and after</Trans>
      </h3>
      <p>
        {before.sound.heard.sources[0]?.text} → <b>{after.sound.heard.sources[0]?.text}</b>
      </p>
      <Spectrum
        title={t`What comes and goes, dB above the noise`}
        lines={both('knocks')}
        marks={knocking(marks)}
        heard={heard}
      />
      <Spectrum
        title={t`Loudness by pitch, dB below full scale`}
        lines={both('spectrum')}
        marks={marks.filter((mark) => mark.part === 'wheel')}
        heard={heard}
      />
      <p className="text-soft text-sm">
        {before.part !== after.part && (
          <>
            <Trans>
              Held elsewhere: before {before.part}, after {after.part}.
            </Trans>{' '}
          </>
        )}
        <Trans>
          What stands above the noise compares. How loud it is as a whole does so only with the same phone at
          the same place; many phones turn themselves up and down.
        </Trans>
      </p>
    </section>
  )
}
