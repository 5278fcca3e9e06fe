import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { type ReactNode, useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { useRecord, useRecordAhead } from '../../api/queries'
import type { Job, JobRecord } from '../../api/types'
import { useLink, useStory } from '../../api/upkeep'
import { handOver, openAgain } from '../../api/writes'
import { useAnswering } from '../../app/answering'
import { dayOf } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { MakeCase } from '../drills/MakeCase'
import { CustomersPaper } from './CustomersPaper'
import { PaperChoice, type PaperWanted } from './PaperChoice'
import { RecordSheet } from './RecordSheet'

const HAND_OVER = ['hand_over'] as const
const PLAIN: PaperWanted = { language: '', size: 'A4', link: true, name: '', signature: '' }
/** How long the record has to be in sight before Next freezes it, ms: two presses in one movement never do. */
const LOOKED_AT = 1000

export function HandOverPanel({ job }: { job: Job }) {
  const { me } = useSignedIn()
  const [note, setNote] = useState('')
  const [override, setOverride] = useState('')
  const holds = job.bench?.gate.holds ?? false
  const unproven = job.proof.holds
  const noCause = job.wants_cause && !job.confirmed_cause
  const needsReason = (noCause || holds || unproven) && me.may.includes('override')
  const { trouble, write } = useWrite()
  const missing = job.stages.filter((row) => row.state === 'open' && row.stage !== 'hand_over')
  const { vocabulary } = useSignedIn()
  const may = me.may.includes('hand_over') && !job.handed_over
  const freeze = async () => {
    await write(handOver(job.id, { ...paper, note, override: needsReason ? override.trim() : '' }))
  }
  const button = useRef<HTMLButtonElement>(null)
  const ahead = useRecordAhead(job)
  const drawn = !ahead.isLoading
  const [chosen, setChosen] = useState<PaperWanted | null>(null)
  const paper = chosen ?? { ...PLAIN, language: ahead.data?.language ?? '' }
  const [looked, setLooked] = useState(false)
  useEffect(() => {
    const timer = drawn ? setTimeout(() => setLooked(true), LOOKED_AT) : undefined
    return () => clearTimeout(timer)
  }, [drawn])
  useAnswering(HAND_OVER, () => {
    if (may && looked) void freeze()
    else button.current?.focus()
  })
  if (job.handed_over)
    return (
      <div>
        <h2 className="text-success text-2xl font-bold">
          <Trans>✓ Handed over</Trans>
        </h2>
        <p className="mt-1">
          <Trans>The record is frozen: what the customer has in hand never changes.</Trans>
        </p>
        <Link to={`/jobs/${job.id}/record`} className="btn btn-neutral touch mt-3">
          <Trans>Show the record</Trans>
        </Link>
        <Frozen job={job}>
          <FileLink job={job} />
          {me.may.includes('hand_over') && <OpenAgain job={job} />}
          <MakeCase job={job} />
        </Frozen>
      </div>
    )
  return (
    <form
      data-looked={looked}
      onSubmit={(event) => {
        event.preventDefault()
        void freeze()
      }}
    >
      <h2 className="text-xl font-bold">
        <Trans>Hand over</Trans>
      </h2>
      {job.editions > 0 && (
        <p className="mt-1">
          <Trans>
            Opened again: what the customer has in hand stands as{' '}
            <Link to={`/jobs/${job.id}/record`} className="underline">
              edition {job.editions}
            </Link>
            .
          </Trans>
        </p>
      )}
      <p className="mt-1">{job.proof.text}</p>
      {missing.length > 0 && (
        <p className="mt-2">
          <Trans>
            <b>Still open:</b>{' '}
            {missing
              .map((row) => vocabulary.stages.find((stage) => stage.code === row.stage)?.text)
              .join(', ')}
            . It will stand on the record as it is.
          </Trans>
        </p>
      )}
      {unproven && (
        <p role="status" className="text-primary mt-2 font-bold">
          <Trans>
            Not proven.{' '}
            <Link to={`/jobs/${job.id}/prove`} className="underline">
              Measure at Prove
            </Link>
          </Trans>
        </p>
      )}
      {holds && (
        <p role="status" className="text-primary mt-2 font-bold">
          <Trans>
            Not closed: {job.bench?.gate.discrepancies[0]?.text}{' '}
            <Link to={`/jobs/${job.id}/close`} className="underline">
              Settle it at Close
            </Link>
          </Trans>
        </p>
      )}
      <label className="mt-3 block">
        <span className="font-bold">
          <Trans>For the customer, until the next visit</Trans>
        </span>
        <textarea
          className="field mt-1 min-h-28 py-2"
          value={note}
          maxLength={2000}
          placeholder={t`What to do between visits, what to watch for`}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      <PaperChoice job={job.id} wanted={paper} onChange={setChosen} />
      {needsReason && (
        <label className="mt-3 block">
          <span className="font-bold">
            {noCause
              ? t`Without a confirmed cause: why?`
              : holds
                ? t`With the machine not closed: why?`
                : t`Without a proof: why?`}
          </span>
          <span className="text-soft block text-sm">
            <Trans>As lead you may; the reason stands on the record.</Trans>
          </span>
          <input
            className="field mt-1"
            value={override}
            maxLength={500}
            onChange={(event) => setOverride(event.target.value)}
          />
        </label>
      )}
      <Trouble says={trouble} />
      {may ? (
        <Button ref={button} type="submit" kind="neutral" className="mt-3 h-[54px] text-lg">
          <Trans>Freeze the record</Trans>
        </Button>
      ) : (
        <p className="text-soft mt-3">{me.may_not.hand_over}</p>
      )}
      <FileLink job={job} />
      {ahead.data && <Ahead record={{ ...ahead.data, note }} />}
    </form>
  )
}

/** What the customer will have in hand, as it would stand now. */
function Ahead({ record }: { record: JobRecord }) {
  return (
    <section className="mt-4" aria-label={t`The record as it will stand`}>
      <h3 className="font-bold">
        <Trans>The record as it will stand</Trans>
      </h3>
      <div className="border-base-300 mt-2 rounded-xl border">
        <RecordSheet record={record} />
      </div>
    </section>
  )
}

/** What came of it: the customer's paper, and when the machine is due. All of it is there at once: what came later would
 * push what stands below away from under a finger. */
function Frozen({ job, children }: { job: Job; children: ReactNode }) {
  const record = useRecord(job.id, 0)
  const story = useStory(job.machine.id)
  const link = useLink(job.id)
  if (record.isLoading || story.isLoading || link.isLoading) return null
  const due = story.data?.upkeep?.service_by
  return (
    <>
      {record.data && <CustomersPaper job={job.id} record={record.data} />}
      <p className="border-base-300 mt-4 border-t pt-3">
        {due && (
          <b className="mr-3 text-lg">
            <Trans>Due again by {dayOf(due)}</Trans>
          </b>
        )}
        <Link to={`/machines/${job.machine.id}`} className="touch inline-flex items-center underline">
          <Trans>The machine: its story and its next visit</Trans>
        </Link>
      </p>
      {children}
    </>
  )
}

function FileLink({ job }: { job: Job }) {
  return (
    <p className="mt-4 flex flex-wrap gap-x-6">
      <Link to={`/jobs/${job.id}/history`} className="touch inline-flex items-center underline">
        <Trans>What happened, in order</Trans>
      </Link>
      <a href={`/api/v1/jobs/${job.id}/file`} download className="touch inline-flex items-center underline">
        <Trans>The job as a file</Trans>
      </a>
      <a href={`/api/v1/jobs/${job.id}/bundle`} download className="touch inline-flex items-center underline">
        <Trans>All of it, with photos and sounds (ZIP)</Trans>
      </a>
    </p>
  )
}

/** A record is never changed: the job is opened again, and handing over makes a new edition beside the old one. */
function OpenAgain({ job }: { job: Job }) {
  const [why, setWhy] = useState('')
  const { trouble, write } = useWrite()
  return (
    <details className="mt-3">
      <summary className="touch flex cursor-pointer items-center">
        <Trans>Something has to be added or put right</Trans>
      </summary>
      <form
        className="grid gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          void write(openAgain(job.id, why.trim()))
        }}
      >
        <label className="block">
          <span className="font-bold">
            <Trans>Why it is opened again</Trans>
          </span>
          <input
            className="field mt-1"
            required
            maxLength={500}
            value={why}
            onChange={(event) => setWhy(event.target.value)}
          />
        </label>
        <p className="text-soft text-sm">
          <Trans>The record there is stays; handing over again makes a new edition.</Trans>
        </p>
        <Trouble says={trouble} />
        <Button type="submit" kind="outline" className="justify-self-start" disabled={!why.trim()}>
          <Trans>Open it again</Trans>
        </Button>
      </form>
    </details>
  )
}
