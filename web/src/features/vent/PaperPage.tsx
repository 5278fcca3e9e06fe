import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { useJob } from '../../api/queries'
import type { Job } from '../../api/types'
import { useWaysOut } from '../../api/vent'
import { worded } from '../../app/language'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { Failed, Waiting } from '../../ui/states'
import { Sheet } from './CutList'
import { PlanView, VIEWS } from './PlanView'
import { buildOf, chosenWay, planOf } from './plan'

/** The way that was chosen, on paper for the van: the drawing, the cuts, the order, what must not be done. */
export function PaperPage() {
  const { jobId = '' } = useParams()
  const job = useJob(jobId)
  useEffect(() => {
    document.title = t`The new run · Warm Draft`
  }, [])
  if (job.isError && !job.data) return <Failed error={job.error} again={() => void job.refetch()} />
  if (!job.data) return <Waiting what={t`the job`} />
  return <Paper job={job.data} />
}

function Paper({ job }: { job: Job }) {
  const plan = planOf(job)
  const { data: found } = useWaysOut(job, buildOf(plan?.chosen))
  const way = chosenWay(plan, found)
  return (
    <>
      <TopBar>
        <Link to={`/jobs/${job.id}/vent`} className="touch inline-flex items-center underline">
          <Trans>Back to the plan</Trans>
        </Link>
      </TopBar>
      <main className="mx-auto max-w-3xl px-3 py-4 print:max-w-none print:p-0">
        <h1 className="text-2xl font-bold">
          <Trans>The new run: {job.title}</Trans>
        </h1>
        {!way || !plan ? (
          <p>
            {found ? (
              <Trans>No way is chosen, or what was drawn since closed it. Choose one on the plan.</Trans>
            ) : (
              <Trans>Working it out …</Trans>
            )}
          </p>
        ) : (
          <>
            <p className="text-lg">
              <b>{way.title}</b>. {way.text} {way.promise}
            </p>
            <div className="my-2 grid grid-cols-2 gap-3">
              {VIEWS.map(([view, title]) => (
                <PlanView
                  key={view}
                  plan={plan}
                  view={view}
                  title={worded(title)}
                  boxes={found?.boxes ?? []}
                  way={way}
                  today={[]}
                  corner={null}
                  onTap={() => undefined}
                  measured
                />
              ))}
            </div>
            <p className="text-soft text-sm">
              <Trans>
                One square is {plan.cell.value} {plan.cell.unit}.
              </Trans>
            </p>
            <h2 className="mt-2 text-xl font-bold">
              <Trans>Cut and build</Trans>
            </h2>
            <Sheet way={way} never={found?.never ?? []} />
            <p className="text-soft mt-2 text-sm">{found?.check}</p>
            <Button
              kind="primary"
              className="no-print mt-4 h-[54px] w-full text-lg"
              onClick={() => window.print()}
            >
              <Trans>Print</Trans>
            </Button>
          </>
        )}
      </main>
    </>
  )
}
