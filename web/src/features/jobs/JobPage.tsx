import { t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { Suspense, useEffect, useMemo, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { useLive } from '../../api/live'
import { unheard } from '../../api/optimistic'
import { useJob, useWaiting } from '../../api/queries'
import type { Job } from '../../api/types'
import { type Answering, AnsweringContext } from '../../app/answering'
import { textOf, useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { undoLast, useUndo } from '../../app/undo'
import { type Keys, useKeys } from '../../app/useKeys'
import { Button } from '../../ui/Button'
import { fetched } from '../../ui/fetched'
import { Key } from '../../ui/Key'
import { Failed } from '../../ui/states'
import { useWide } from '../../ui/useWide'
import { AddOperation } from '../bench/AddOperation'
import { BenchPanel } from '../bench/BenchPanel'
import { placeOf } from '../bench/bench'
import { say } from '../bench/Counting'
import { Cutaway } from '../bench/Cutaway'
import { Tray } from '../bench/Tray'
import { CausePanel } from '../cause/CausePanel'
import { ComplaintPanel } from '../complaint/ComplaintPanel'
import { DraftLine } from '../draft-line/DraftLine'
import { DraftStrip } from '../draft-line/DraftStrip'
import { ElementCard } from '../draft-line/ElementCard'
import { DrillBar } from '../drills/DrillBar'
import { FindDialog } from '../find/FindDialog'
import { HandOverPanel } from '../hand-over/HandOverPanel'
import { NameLayout } from '../layouts/NameLayout'
import { MeasurePanel } from '../measure/MeasurePanel'
import { ProvePanel } from '../prove/ProvePanel'
import { ConfirmCause } from '../steps/ConfirmCause'
import { StepsPanel } from '../steps/StepsPanel'
import { WorksPanel } from '../works/WorksPanel'
import { NextCard } from './NextCard'
import { PhoneBar } from './PhoneBar'
import { StageStrip } from './StageStrip'
import { StagesDialog } from './StagesDialog'
import { currentStep, placeOfCheck, useNext } from './useNext'

// asked for once there is something to do: the first view does without
const Expected = fetched(() => import('../works/Expected').then((m) => m.Expected))
const QuotePanel = fetched(() => import('../stock/QuotePanel').then((m) => m.QuotePanel))

/** What a number is typed with. */
const NUMBERS = '0123456789.-'

/** A number belongs to the check in sight: typed into its field, or to the result of that number. */
function answered(key: string): false | undefined {
  const field = document.querySelector<HTMLInputElement>('input[data-answer]')
  field?.focus()
  if (field) return false // the key itself goes into it
  document.querySelectorAll<HTMLButtonElement>('button[data-answer]')[Number(key) - 1]?.click()
}

export function JobPage() {
  const { jobId = '' } = useParams()
  const job = useJob(jobId)
  if (job.isError && !job.data) return <Failed error={job.error} again={() => void job.refetch()} />
  if (!job.data) return <JobShape />
  return <OpenJob key={jobId} job={job.data} />
}

/** A job as it is about to be: its cards stand where they will, so that nothing jumps. */
function JobShape() {
  const { vocabulary } = useSignedIn()
  return (
    <>
      <TopBar />
      <main
        className="mx-auto grid max-w-[1280px] grid-cols-[minmax(0,1fr)] gap-3 px-2 pt-3 sm:px-6"
        aria-busy="true"
      >
        <p className="sr-only" role="status">
          <Trans>Fetching the job …</Trans>
        </p>
        <div className="card-paper h-[54px] md:h-[246px]" />
        <ol className="hidden grid-cols-9 gap-1 md:grid" aria-hidden="true">
          {vocabulary.stages.map(({ code, text }, i) => (
            <li key={code} className="touch text-soft flex items-center gap-1.5 px-2.5 whitespace-nowrap">
              <span>{i + 1}</span> <span>{text}</span>
            </li>
          ))}
        </ol>
        <div className="grid gap-3 md:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)]">
          <div className="card-paper h-80" />
          <div className="card-paper h-56" />
        </div>
      </main>
    </>
  )
}

function OpenJob({ job }: { job: Job }) {
  const { me, vocabulary } = useSignedIn()
  const { stage = job.next.stage } = useParams()
  const [search] = useSearchParams()
  const navigate = useNavigate()
  const [picked, setPicked] = useState<string | null>(null)
  const undo = useUndo(job.id)
  const check = search.get('check')
  const older = unheard(useWaiting(job.id))
  const here = useLive(job.id)
  const [answering] = useState<Answering>(() => new Map())
  const next = useNext(job, stage, check, answering)
  const stages = vocabulary.stages
  const wide = useWide()
  const [askedFor, setAskedFor] = useState<string | null>(null)
  const [trayOpen, setTrayOpen] = useState(false)
  const [stagesOpen, setStagesOpen] = useState(false)
  const [finding, setFinding] = useState(false)
  const [lineOpen, setLineOpen] = useState(false)
  const bench = (stage === 'open' || stage === 'close') && job.bench ? stage : null
  // where the hands are in the machine it is the large picture; the line is a strip then, and always on a phone
  const atMachine = bench !== null || stage === 'mend'
  const strip = atMachine || !wide
  const step = bench ? currentStep(job, bench === 'open' ? job.open : job.close) : undefined
  // a count that was asked belongs to its step
  const asked = step !== undefined && askedFor === step.id
  const ask = () => setAskedFor(step?.id ?? null)
  const digits = useMemo(() => {
    const place = placeOf(job, step)
    const row = place?.fasteners[0]
    if (!asked || !row) return {}
    const state = bench === 'open' ? row.state : row.state === 'loosened' ? 'tight' : 'back'
    return Object.fromEntries(
      Array.from({ length: 10 }, (_, n) => [
        String(n),
        () => say(job.id, { step: place.step, what: 'fastener', key: row.key, state, count: n }),
      ]),
    )
  }, [asked, job, step, bench])
  const keys = useMemo(() => {
    return {
      ...Object.fromEntries([...NUMBERS].map((key) => [key, () => answered(key)])),
      g: () => setStagesOpen(true),
      u: () => undoLast(job.id),
      r: () => {
        void navigate(placeOfCheck(job, 'outlet_flow'))
      },
      '/': () => setFinding(true),
      Escape: () => (picked ? setPicked(null) : void navigate('/jobs')),
    }
  }, [job, navigate, picked])
  const benchKeys: Keys = bench
    ? {
        t: () => (wide ? document.getElementById('tray')?.scrollIntoView() : setTrayOpen(true)),
        c: ask,
      }
    : {}
  useKeys(
    { ...keys, ...benchKeys, ...digits, n: next.run, ' ': next.done ?? (() => undefined) },
    me.habits.single_keys,
  )
  useEffect(() => {
    document.title = t`${job.place.name} · ${textOf(stages, stage)} · Warm Draft`
  }, [job.place.name, stages, stage])

  return (
    <AnsweringContext value={answering}>
      <TopBar>
        <div className="flex min-w-0 items-center gap-1">
          <div className="min-w-0 leading-tight">
            <h1 className="truncate text-base font-bold sm:text-lg">
              {job.place.name}
              {job.machine.name && `, ${job.machine.name}`}
            </h1>
            <p className="text-soft truncate text-sm">
              {job.complaints.map((code) => textOf(vocabulary.complaints, code)).join(' · ') ||
                job.machine.profile_title}
              {here.length > 0 && (
                <b>
                  {' '}
                  ·{' '}
                  <Trans>
                    {here.join(', ')} <Plural value={here.length} one="is" other="are" /> here too
                  </Trans>
                </b>
              )}
            </p>
          </div>
          <Button kind="ghost" className="px-2" aria-label={t`Find`} onClick={() => setFinding(true)}>
            <Glass /> <Key>/</Key>
          </Button>
        </div>
      </TopBar>
      <main className="mx-auto grid max-w-[1280px] grid-cols-[minmax(0,1fr)] gap-3 px-2 pt-3 pb-32 sm:px-6">
        <DrillBar job={job} />
        {strip && !lineOpen ? (
          <DraftStrip
            job={job}
            units={me.units}
            vocabulary={vocabulary}
            older={older}
            proving={stage === 'prove'}
            onOpen={() => setLineOpen(true)}
          />
        ) : (
          <DraftLine
            job={job}
            units={me.units}
            vocabulary={vocabulary}
            picked={picked}
            onPick={setPicked}
            older={older}
            proving={stage === 'prove'}
            onClose={strip ? () => setLineOpen(false) : undefined}
          />
        )}
        {picked && <ElementCard element={picked} job={job} onClose={() => setPicked(null)} />}
        <StageStrip job={job} stage={stage} />
        <div className="grid gap-3 md:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] md:items-start">
          <section className="card-paper p-4 sm:p-5" aria-label={textOf(stages, stage)}>
            {bench ? (
              <div className="grid gap-6">
                <BenchPanel
                  job={job}
                  stage={bench}
                  asked={asked}
                  onAsk={ask}
                  trayOpen={trayOpen}
                  onTray={setTrayOpen}
                />
                {bench === 'open' && !wide && <WorksPanel job={job} />}
                {bench === 'close' && job.working_cause && <ConfirmCause job={job} />}
              </div>
            ) : (
              <StagePanel job={job} stage={stage} check={check} wide={wide} />
            )}
          </section>
          <div className="grid gap-3">
            <NextCard job={job} next={next} undo={undo} />
            {atMachine && wide && job.bench?.drawing && (
              <section className="card-paper p-3" aria-label={t`Cut-away`}>
                <Cutaway job={job} step={step} />
              </section>
            )}
            {bench && wide && (
              <section id="tray" className="card-paper p-4" aria-label={t`Tray`}>
                <Tray job={job} current={step?.operation ?? undefined} />
              </section>
            )}
            {stage === 'cause' && wide && (
              <Suspense fallback={null}>
                <QuotePanel job={job} card />
              </Suspense>
            )}
            {(stage === 'mend' || bench === 'open') && wide && (
              <section className="card-paper p-4">
                <WorksPanel job={job} />
              </section>
            )}
          </div>
        </div>
      </main>
      <PhoneBar job={job} stage={stage} next={next} undo={undo} onStages={() => setStagesOpen(true)} />
      {finding && <FindDialog job={job} onClose={() => setFinding(false)} />}
      {stagesOpen && <StagesDialog job={job} stage={stage} onClose={() => setStagesOpen(false)} />}
    </AnsweringContext>
  )
}

function Glass() {
  return (
    <svg viewBox="0 0 20 20" className="h-5 w-5" aria-hidden="true">
      <circle cx="8.5" cy="8.5" r="5.5" className="fill-none stroke-current" strokeWidth="2" />
      <path d="M13 13l5 5" className="stroke-current" strokeWidth="2.5" strokeLinecap="round" />
    </svg>
  )
}

/** Upkeep and plain orders ask for no cause. */
function NoCause() {
  return (
    <div>
      <h2 className="text-2xl leading-tight font-bold">
        <Trans>No cause is asked for</Trans>
      </h2>
      <p className="text-soft mt-1">
        <Trans>Nothing is complained of: the work goes by the list. What is found on the way joins it.</Trans>
      </p>
    </div>
  )
}

function StagePanel({
  job,
  stage,
  check,
  wide,
}: {
  job: Job
  stage: string
  check: string | null
  wide: boolean
}) {
  switch (stage) {
    case 'complaint':
      return <ComplaintPanel job={job} />
    case 'make_safe':
      return <StepsPanel job={job} title={t`Make it safe`} steps={job.safety} nothing="" />
    case 'measure':
      return <MeasurePanel job={job} check={check} phase="before" />
    case 'cause':
      return (
        <div className="grid gap-6">
          {job.wants_cause ? <CausePanel job={job} /> : <NoCause />}
          <Suspense fallback={null}>
            <Expected job={job} opening />
          </Suspense>
          <WorksPanel job={job} />
          {!wide && (
            <Suspense fallback={null}>
              <QuotePanel job={job} />
            </Suspense>
          )}
        </div>
      )
    case 'open':
      return (
        <div className="grid gap-6">
          <StepsPanel
            job={job}
            title={t`Open`}
            steps={job.open}
            nothing={
              !job.works.lines.some((line) => line.wanted)
                ? t`The way in follows from the list of works: settle on a cause, or add to the list.`
                : job.known_layout
                  ? t`Nothing has to be opened for what is on the list.`
                  : t`Nobody has said yet how this machine comes apart. Find it by looking, or open it by the maker’s sheet: photograph wires first, count screws.`
            }
          />
          {!job.known_layout && !job.handed_over && <NameLayout job={job} />}
          {!job.known_layout && !job.handed_over && job.works.lines.some((line) => line.wanted) && (
            <details>
              <summary className="touch flex cursor-pointer items-center font-bold">
                <Trans>Go without: name what comes off as it comes off</Trans>
              </summary>
              <AddOperation job={job} after={null} byHand />
            </details>
          )}
          <WorksPanel job={job} />
        </div>
      )
    case 'mend':
      return (
        <div className="grid gap-6">
          <StepsPanel
            job={job}
            title={t`Mend`}
            steps={job.mend}
            nothing={t`What is to be done follows from the list of works.`}
          />
          <Suspense fallback={null}>
            <Expected job={job} />
          </Suspense>
          {!wide && <WorksPanel job={job} />}
        </div>
      )
    case 'close':
      return (
        <div className="grid gap-6">
          <StepsPanel
            job={job}
            title={t`Close`}
            steps={job.close}
            nothing={t`The way back follows from what is opened.`}
          />
          {job.working_cause && <ConfirmCause job={job} />}
        </div>
      )
    case 'prove':
      return (
        <>
          <ProvePanel job={job} check={check} />
          {!job.handed_over && (
            <Suspense fallback={null}>
              <Expected job={job} />
            </Suspense>
          )}
        </>
      )
    default:
      return <HandOverPanel job={job} />
  }
}
