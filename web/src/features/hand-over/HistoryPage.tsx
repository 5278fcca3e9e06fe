import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { useHistory, useJob } from '../../api/queries'
import type { Happening } from '../../api/types'
import { written } from '../../app/language'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { Failed, Waiting } from '../../ui/states'

const moment = (iso: string) =>
  written(iso, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    hour12: false,
  })
/** Later than this between the act and its arrival, it is worth saying, ms. */
const LATE = 120_000

/** The latest page came first; within each, in order. */
const inOrder = (pages: readonly { rows: Happening[] }[]) => pages.toReversed().flatMap((page) => page.rows)

/** What happened on a job, in order, as sentences. */
export function HistoryPage() {
  const { jobId = '' } = useParams()
  const job = useJob(jobId)
  const history = useHistory(jobId)
  useEffect(() => {
    document.title = t`What happened · Warm Draft`
  }, [])
  if (history.isError && !history.data)
    return <Failed error={history.error} again={() => void history.refetch()} />
  if (!history.data) return <Waiting what={t`the history`} />
  return (
    <>
      <TopBar>
        <h1 className="truncate text-lg font-bold">
          <Trans>What happened{job.data && `: ${job.data.place.name}`}</Trans>
        </h1>
      </TopBar>
      <main className="mx-auto max-w-3xl px-3 pt-4 pb-16 sm:px-6">
        <Link to={`/jobs/${jobId}`} className="btn btn-ghost touch -ml-3">
          <Trans>← The job</Trans>
        </Link>
        {history.hasNextPage && (
          <Button
            kind="outline"
            className="mt-2 w-full"
            disabled={history.isFetchingNextPage}
            onClick={() => void history.fetchNextPage()}
          >
            <Trans>What happened before</Trans>
          </Button>
        )}
        <ol className="card-paper mt-2 p-4">
          {inOrder(history.data.pages).map((row) => (
            <li
              key={`${row.received_at}${row.text}`}
              className="border-base-300 grid gap-x-4 border-b py-2 last:border-0 sm:grid-cols-[11rem_1fr]"
            >
              <span className="text-soft text-sm">{moment(row.at)}</span>
              <span>
                <b>{row.by}</b> {row.text}
                {Date.parse(row.received_at) - Date.parse(row.at) > LATE && (
                  <span className="text-soft block text-sm">
                    <Trans>arrived {moment(row.received_at)}</Trans>
                  </span>
                )}
              </span>
            </li>
          ))}
        </ol>
      </main>
    </>
  )
}
