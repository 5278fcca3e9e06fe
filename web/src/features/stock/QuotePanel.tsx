import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { Link } from 'react-router'
import { useQuote } from '../../api/stock'
import type { Job, Quote } from '../../api/types'
import { withdraw } from '../../api/writes'
import { useAnswering } from '../../app/answering'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { money } from '../../ui/money'
import { Schools } from '../../ui/Schools'
import { AskCustomer } from './AskCustomer'
import { PartChoice } from './PartChoice'
import { Signature } from './SignPad'

const ASKS = ['ask_again'] as const

/** What the list of works costs, what the customer said to it, what to bring and what to order. */
export function QuotePanel({ job, card = false }: { job: Job; card?: boolean }) {
  const { data: quote } = useQuote(job)
  const works = job.works.lines.some((line) => line.wanted)
  if (!quote || (!works && quote.needed.every((row) => !row.bring && row.state === null))) return null
  return (
    <div className={`grid gap-6 ${card ? 'card-paper p-4' : ''}`}>
      {works && <Costs job={job} quote={quote} />}
      <Bring job={job} quote={quote} />
    </div>
  )
}

function Costs({ job, quote }: { job: Job; quote: Quote }) {
  const { me } = useSignedIn()
  const [asking, setAsking] = useState(false)
  const { agreed, currency } = quote
  useAnswering(ASKS, () => setAsking(true))
  const title = t`What it costs`
  if (!quote.priced && !agreed)
    return (
      <section aria-label={title}>
        <h2 className="text-xl font-bold">{title}</h2>
        <p className="text-soft mt-1">
          {me.may.includes('keep_the_workshop') ? (
            <Trans>
              What an hour costs is not said yet.{' '}
              <Link className="underline" to="/parts">
                Say it once for the workshop.
              </Link>
            </Trans>
          ) : (
            <Trans>What an hour costs is not said yet: the workshop's lead says it.</Trans>
          )}
        </p>
      </section>
    )
  const unpriced = quote.rows.flatMap((row) => row.unpriced)
  const asks = agreed !== null && agreed.lines.length > 0
  return (
    <section aria-label={title}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-xl font-bold">{title}</h2>
        <p>
          <b className="text-2xl tabular-nums">{money(quote.total, currency)}</b>{' '}
          <span className="text-soft text-sm">
            {quote.complete
              ? t`with ${quote.tax_percent} % tax`
              : t`at least, with ${quote.tax_percent} % tax; without a price: ${unpriced.join(', ')}`}
          </span>
        </p>
      </div>
      {agreed && (
        <div
          role={asks ? 'alert' : undefined}
          className={`mt-2 rounded-xl border-2 p-3 ${asks ? 'border-primary' : 'border-success'}`}
        >
          <p>
            <b>
              {asks
                ? t`Ask again: ${agreed.lines.join(', ')}`
                : t`✓ Agreed: ${money(agreed.total, agreed.currency)}`}
            </b>{' '}
            {asks &&
              t`${money(agreed.beyond, currency)} beyond the ${money(agreed.total, agreed.currency)} that were agreed.`}{' '}
            <span className="text-soft text-sm">
              {agreed.name && (agreed.signature ? t`signed by ${agreed.name}` : t`said by ${agreed.name}`)}
            </span>
          </p>
          {agreed.signature && (
            <svg viewBox="0 0 600 200" className="mt-1 block h-12" role="img" aria-label={t`Signature`}>
              <Signature path={agreed.signature} />
            </svg>
          )}
        </div>
      )}
      {!job.handed_over && (
        <div className="mt-2 flex flex-wrap gap-2">
          <Button kind={agreed && !asks ? 'ghost' : 'neutral'} onClick={() => setAsking(true)}>
            {agreed ? t`Ask again` : t`Ask the customer`}
          </Button>
          {agreed?.id && (
            <Button kind="ghost" onClick={() => void withdraw(job.id, String(agreed.id), true)}>
              <Trans>Take it back</Trans>
            </Button>
          )}
        </div>
      )}
      <details className="mt-2">
        <summary className="touch cursor-pointer underline">
          <Trans>Line by line</Trans>
        </summary>
        <table className="w-full text-left">
          <thead>
            <tr className="text-soft text-sm">
              <th scope="col">
                <Trans>Line</Trans>
              </th>
              <th scope="col" className="text-right">
                <Trans>Work</Trans>
              </th>
              <th scope="col" className="text-right">
                <Trans>Parts</Trans>
              </th>
            </tr>
          </thead>
          <tbody className="tabular-nums">
            {quote.rows.map((row) => (
              <tr key={row.line ?? row.text} className="border-base-300 border-t">
                <td className="py-1">{row.text}</td>
                <td className="text-right">{money(row.labour, currency)}</td>
                <td className="text-right">{money(row.parts, currency)}</td>
              </tr>
            ))}
            <tr className="border-base-content/40 border-t-2">
              <td className="py-1">
                <Trans>Tax</Trans>
              </td>
              <td />
              <td className="text-right">{money(quote.tax, currency)}</td>
            </tr>
          </tbody>
        </table>
      </details>
      {quote.saves && <p className="mt-2 font-bold">{quote.saves}</p>}
      {quote.worth && <p className="mt-2">{quote.worth.text}</p>}
      {asking && <AskCustomer job={job} quote={quote} onClose={() => setAsking(false)} />}
    </section>
  )
}

/** What may be needed once it is open, what is ordered, and where people differ. */
function Bring({ job, quote }: { job: Job; quote: Quote }) {
  const { currency, order } = quote
  if (quote.needed.length === 0) return null
  return (
    <section aria-label={t`Bring along`}>
      <h2 className="text-xl font-bold">
        <Trans>Bring along</Trans>
      </h2>
      {quote.trip && <p className="text-soft">{quote.trip}</p>}
      {quote.needed
        .filter((row) => row.bring || row.state !== null)
        .map((row) => (
          <PartChoice key={row.part} job={job} needed={row} currency={currency} into="packed" />
        ))}
      <ul className="text-soft mt-2 text-sm">
        {quote.needed
          .filter((row) => !row.bring && row.state === null)
          .map((row) => (
            <li key={row.part}>
              <b>{row.text}</b>: {row.why}
            </li>
          ))}
      </ul>
      {order.rows.length > 0 && (
        <div className="mt-3">
          <h3 className="font-bold">
            <Trans>Not at hand: order for {money(order.cost, currency)}, deliveries included</Trans>
          </h3>
          <ul>
            {order.rows.map((row) => (
              <li key={row.number} className="border-base-300 flex flex-wrap gap-x-3 border-b py-1">
                <b>{row.number}</b>
                <span className="flex-1">
                  {row.covers.join(', ')} · {row.supplier}
                </span>
                <span className="tabular-nums">{money(row.price, currency)}</span>
              </li>
            ))}
          </ul>
          <a className="touch inline-flex items-center underline" href={`/api/v1/jobs/${job.id}/order.csv`}>
            <Trans>As a sheet</Trans>
          </a>
        </div>
      )}
      {order.unmet.length > 0 && (
        <p className="text-soft mt-1 text-sm">
          <Trans>In nobody's catalogue here: {order.unmet.join(', ')}.</Trans>
        </p>
      )}
      <Schools schools={quote.schools} />
    </section>
  )
}
