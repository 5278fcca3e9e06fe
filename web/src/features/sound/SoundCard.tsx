import { t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { type Drive, useCurves, useRates } from '../../api/queries'
import type { Job, Sound } from '../../api/types'
import { asNumber } from '../../ui/numbers'
import { PlayBand } from './PlayBand'
import { knocking, type Line, Spectrum, Trace } from './Spectrum'

/** Sources worth a line: less speaks for the others than one would act on. */
const WORTH_A_LINE = 0.05

/** What a recording told: a plain sentence first, then how sure, then what it was made from. */
export function SoundCard({ job, sound, url, open }: { job: Job; sound: Sound; url: string; open: boolean }) {
  const { heard } = sound
  return (
    <>
      <p className="text-xl leading-snug font-bold">{heard.text}</p>
      {heard.beside > 0 && (
        <p className="text-soft">
          <Plural
            value={heard.beside}
            one="Held beside one healthy machine of this kind."
            other="Held beside # healthy machines of this kind."
          />
        </p>
      )}
      {heard.notes.map((note) => (
        <p key={note} className="mt-1 flex gap-2 font-bold">
          <span aria-hidden="true">⚠</span> {note}
        </p>
      ))}
      {heard.verdict !== 'nothing_stands_out' && (
        <ul className="mt-1">
          {heard.by_hand.map((how) => (
            <li key={how}>
              <Trans>By hand:</Trans> {how}
            </li>
          ))}
        </ul>
      )}
      {!sound.healthy && (
        <ul className="mt-2 max-w-md" aria-label={t`What speaks for what`}>
          {heard.sources
            .filter((row, i) => i === 0 || row.score >= WORTH_A_LINE)
            .map((row) => (
              <li key={row.source} className="grid grid-cols-[1fr_7rem_3.5rem] items-center gap-2">
                <span className="leading-tight">{row.text}</span>
                <svg
                  viewBox="0 0 100 10"
                  className="h-3 w-full"
                  preserveAspectRatio="none"
                  aria-hidden="true"
                >
                  <rect width="100" height="10" rx="4" className="fill-base-300" />
                  <rect width={100 * row.score} height="10" rx="4" className="fill-base-content" />
                </svg>
                <span className="text-right whitespace-nowrap">{Math.round(100 * row.score)} %</span>
              </li>
            ))}
        </ul>
      )}
      {url && <Made job={job} sound={sound} url={url} open={open} />}
    </>
  )
}

/** What it was made from: the spectrum with the parts' marks, what knocks, and a moment of it. */
function Made({
  job,
  sound,
  url,
  open: openAtFirst,
}: {
  job: Job
  sound: Sound
  url: string
  open: boolean
}) {
  const [open, setOpen] = useState(openAtFirst)
  return (
    <details className="mt-2" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="touch flex cursor-pointer items-center font-bold">
        <Trans>What it was made from</Trans>
      </summary>
      {open && <Drawn job={job} sound={sound} url={url} />}
    </details>
  )
}

const share = (off: number | null) => Math.round(1000 * (off ?? 0)) / 1000

/** Where the latest recording of a healthy machine of the kind is, among this job's. */
const healthyOf = (job: Job) => {
  const healthy = job.sounds.findLast((row) => row.healthy && row.in_force)
  return job.recordings.find((row) => row.id === healthy?.id)?.url ?? ''
}

function Drawn({ job, sound, url }: { job: Job; sound: Sound; url: string }) {
  const { heard } = sound
  const [drive, setDrive] = useState<Drive>({
    motor_off: share(heard.motor_off),
    belt_off: share(heard.belt_off),
  })
  const curves = useCurves(url)
  const rates = useRates(job, drive)
  const beside = useCurves(sound.healthy ? '' : healthyOf(job))
  if (!curves.data) return null
  const { data } = curves
  const marks = rates.data ?? []
  const lines = (curve: 'spectrum' | 'knocks'): Line[] =>
    [
      { name: t`this recording`, from: data, look: 'now' as const },
      { name: t`a healthy one`, from: beside.data, look: 'was' as const },
    ].flatMap(({ name, from, look }) =>
      from ? [{ name, db: from[`${curve}_db`], step: from[`${curve}_step_hz`], look }] : [],
    )
  return (
    <div className="grid gap-3">
      <Spectrum
        title={t`Loudness by pitch, dB below full scale`}
        lines={lines('spectrum')}
        marks={marks.filter((mark) => ['wheel', 'motor', 'idler', 'roller'].includes(mark.part))}
        heard={heard.measured_rates}
      />
      <Spectrum
        title={t`What comes and goes, dB above the noise`}
        lines={lines('knocks')}
        marks={knocking(marks)}
        heard={heard.measured_rates}
      />
      <Trace title={t`The first seconds, dB about the mean`} db={data.trace_db} step={data.trace_step_s} />
      <PlayBand url={url} bands={data.bands} marks={marks} />
      <fieldset className="grid gap-2 sm:grid-cols-2">
        <legend className="font-bold">
          <Trans>Move the marks</Trans>
        </legend>
        <Slide
          says={t`motor, beside its plate`}
          value={drive.motor_off}
          onChange={(motor_off) => setDrive({ ...drive, motor_off })}
        />
        <Slide
          says={t`belt, beside that`}
          value={drive.belt_off}
          onChange={(belt_off) => setDrive({ ...drive, belt_off })}
        />
        <Diameter
          says={t`roller's diameter, mm`}
          value={drive.roller_mm}
          onChange={(roller_mm) => setDrive({ ...drive, roller_mm })}
        />
        <Diameter
          says={t`idler's diameter, mm`}
          value={drive.idler_mm}
          onChange={(idler_mm) => setDrive({ ...drive, idler_mm })}
        />
      </fieldset>
    </div>
  )
}

function Slide({
  says,
  value,
  onChange,
}: {
  says: string
  value: number
  onChange: (value: number) => void
}) {
  return (
    <label className="block">
      {says}: <b>{(100 * value).toFixed(1)} %</b>
      <input
        type="range"
        className="touch block w-full accent-[var(--now)]"
        min={-0.06}
        max={0.06}
        step={0.001}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
      />
    </label>
  )
}

function Diameter({
  says,
  value,
  onChange,
}: {
  says: string
  value: number | undefined
  onChange: (value: number | undefined) => void
}) {
  return (
    <label className="block">
      {says}
      <input
        className="field mt-1"
        inputMode="decimal"
        placeholder={t`as of its kind`}
        defaultValue={value}
        onBlur={(event) => {
          const mm = asNumber(event.target.value)
          onChange(mm >= 5 && mm <= 500 ? mm : undefined)
        }}
      />
    </label>
  )
}
