import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { useRecord } from '../../api/queries'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { Failed, Waiting } from '../../ui/states'
import { RecordSheet } from './RecordSheet'

/** The record, for the customer: one sheet. */
export function RecordPage() {
  const { jobId = '' } = useParams()
  const [asked] = useSearchParams()
  const record = useRecord(jobId, Number(asked.get('edition') ?? 0) || 0)
  useEffect(() => {
    document.title = t`Record · Warm Draft`
  }, [])
  if (record.isError && !record.data)
    return <Failed error={record.error} again={() => void record.refetch()} />
  if (!record.data) return <Waiting what={t`the record`} />
  const { edition, editions } = record.data
  return (
    <>
      <TopBar>
        <Link to={`/jobs/${jobId}`} className="touch inline-flex items-center underline">
          <Trans>Back to the job</Trans>
        </Link>
      </TopBar>
      <main className="mx-auto max-w-3xl px-3 py-4 print:max-w-none print:p-0">
        <RecordSheet record={record.data} />
        {editions > 1 && (
          <p className="no-print mt-3 flex flex-wrap items-center gap-x-4">
            <Trans>Editions:</Trans>
            {Array.from({ length: editions }, (_, i) => i + 1).map((number) =>
              number === edition ? (
                <b key={number}>{number}</b>
              ) : (
                <Link
                  key={number}
                  to={`/jobs/${jobId}/record?edition=${number}`}
                  className="touch inline-flex items-center underline"
                >
                  {number}
                </Link>
              ),
            )}
          </p>
        )}
        <Button
          kind="primary"
          className="no-print mt-4 h-[54px] w-full text-lg"
          onClick={() => window.print()}
        >
          <Trans>Print</Trans>
        </Button>
      </main>
    </>
  )
}
