import { t } from '@lingui/core/macro'
import { Suspense } from 'react'
import type { Job, Step } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { fetched } from '../../ui/fetched'
import { Waiting } from '../../ui/states'
import { LookForm } from '../measure/LookForm'
import { ReadingForm } from '../measure/ReadingForm'

const PartTest = fetched(() => import('../meter/MeterBench').then((m) => m.PartTest))

/** A step that is a look or a meter test: answered where the hands are, and recorded as what it is. */
export function StepCheck({ job, step }: { job: Job; step: Step }) {
  const { vocabulary } = useSignedIn()
  const phase = step.after ? 'after' : 'before'
  const check = vocabulary.checks.find((entry) => entry.check === step.check_name)
  const metered = step.check_name?.startsWith('meter_') ? step.check_name.slice('meter_'.length) : null
  const part = vocabulary.meter_parts.find((entry) => entry.part === metered)
  if (part)
    return (
      <Suspense fallback={<Waiting what={t`this part`} />}>
        <div className="mt-3">
          <PartTest job={job} part={part} phase={phase} />
        </div>
      </Suspense>
    )
  if (!check) return null
  if (check.observes) return <ReadingForm job={job} check={check} phase={phase} replaces={undefined} />
  return <LookForm job={job} check={check} phase={phase} />
}
