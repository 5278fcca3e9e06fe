import { t } from '@lingui/core/macro'
import { useRef } from 'react'
import type { Job } from '../../api/types'
import { textOf, useSignedIn } from '../../app/signedIn'

/** What the last fact changed: the place that gained or lost most, said in one line. */
export function useSpoken(job: Job): string {
  const { vocabulary } = useSignedIn()
  const last = useRef({ job, said: '' })
  if (last.current.job !== job) {
    const before = new Map(last.current.job.verdict.zones.map((row) => [row.zone, row.probability]))
    const moves = job.verdict.zones
      .map((row) => ({ ...row, was: before.get(row.zone) ?? 0 }))
      .sort((a, b) => Math.abs(b.probability - b.was) - Math.abs(a.probability - a.was))
    const most = moves[0]
    const facts = (of: Job) =>
      of.readings.length + of.findings.length + of.readings.filter((r) => r.withdrawn).length
    const said =
      facts(job) === facts(last.current.job) || !most
        ? last.current.said
        : Math.round(most.was * 100) === Math.round(most.probability * 100)
          ? t`That changed nothing: as expected.`
          : `${textOf(vocabulary.zones, most.zone)}: ${Math.round(most.was * 100)} → ${Math.round(most.probability * 100)} %`
    last.current = { job, said }
  }
  return last.current.said
}
