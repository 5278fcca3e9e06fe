import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { sentence } from '../../api/client'
import type { JobRecord } from '../../api/types'
import { type PaperSize, setLink, useLink, usePrint } from '../../api/upkeep'
import { written } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { Told, useAct } from '../../ui/useAct'
import { Drawn } from './Drawn'

/** What the customer has of a record that is frozen: the print, the link, the data. */
export function CustomersPaper({ job, record }: { job: string; record: JobRecord }) {
  const [language, setLanguage] = useState(record.language)
  const size: PaperSize = record.size === 'Letter' ? 'Letter' : 'A4'
  const print = usePrint(job, record.edition, language, size)
  const file = (form: string) => `/api/v1/jobs/${job}/record/file?form=${form}&edition=${record.edition}`
  const page = `/api/v1/jobs/${job}/record/page?language=${language}&edition=${record.edition}`
  if (Object.keys(record.languages).length === 0)
    return (
      <p className="mt-3">
        <Trans>
          This record is of an earlier release: open the job again, and its new edition has a paper.
        </Trans>
      </p>
    )
  return (
    <section className="mt-4 grid gap-3">
      <h3 className="text-lg font-bold">
        <Trans>The customer's paper</Trans>
      </h3>
      <Choice
        title={t`In the language of`}
        options={Object.entries(record.languages)}
        value={language}
        onChange={setLanguage}
      />
      <div className="flex flex-wrap items-center gap-3">
        {print.data ? (
          <a href={print.data} target="_blank" rel="noreferrer" className="btn btn-neutral touch">
            <Trans>PDF, {size}</Trans>
          </a>
        ) : (
          <span role="status" className={print.isError ? 'text-error' : 'text-soft'}>
            {print.isError ? sentence(print.error) : t`Being printed …`}
          </span>
        )}
        <a href={page} target="_blank" rel="noreferrer" className="touch inline-flex items-center underline">
          <Trans>As a page</Trans>
        </a>
        <a href={file('json')} download className="touch inline-flex items-center underline">
          {'JSON'}
        </a>
        <a href={file('csv')} download className="touch inline-flex items-center underline">
          {'CSV'}
        </a>
      </div>
      <PrivateLink job={job} />
    </section>
  )
}

/** The private link: shown with its QR code, withdrawn with one press. */
function PrivateLink({ job }: { job: string }) {
  const { me } = useSignedIn()
  const link = useLink(job)
  const { trouble, run } = useAct()
  const may = me.may.includes('hand_over')
  if (!link.data) return null
  const { address, qr, since } = link.data
  return (
    <div className="border-base-300 border-t pt-3">
      {address ? (
        <div className="flex flex-wrap items-center gap-4">
          <Drawn svg={qr} title={t`QR code of the link`} className="size-32" />
          <div className="min-w-0 flex-1">
            <p className="font-bold">
              <Trans>Whoever has this link reads the record</Trans>
            </p>
            <a href={address} target="_blank" rel="noreferrer" className="break-all underline">
              {address}
            </a>
            {since && (
              <p className="text-soft text-sm">
                <Trans>Given on {written(since)}</Trans>
              </p>
            )}
            {may && (
              <Button kind="outline" className="mt-2" onClick={() => run(setLink(job, false))}>
                <Trans>Withdraw the link</Trans>
              </Button>
            )}
          </div>
        </div>
      ) : (
        may && (
          <Button kind="outline" onClick={() => run(setLink(job, true))}>
            <Trans>Give the customer a private link</Trans>
          </Button>
        )
      )}
      <Told trouble={trouble} />
    </div>
  )
}
