import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job, Quote } from '../../api/types'
import { agree, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { Field } from '../../ui/Field'
import { money } from '../../ui/money'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'
import { SignPad } from './SignPad'

/** What the customer is asked, turned towards them: the lines, the sum, their name under it. */
export function AskCustomer({ job, quote, onClose }: { job: Job; quote: Quote; onClose: () => void }) {
  const [name, setName] = useState(job.place.contact)
  const [signature, setSignature] = useState('')
  const { trouble, write } = useWrite()
  const total = money(quote.total, quote.currency)
  const lines = quote.rows.flatMap((row) => row.line ?? [])
  const agreed = async (path: string) => {
    const { id, outcome } = agree(job.id, {
      lines,
      total: quote.total,
      currency: quote.currency,
      name: name.trim(),
      signature: path,
    })
    if (!(await write(outcome))) return
    canUndo(job.id, { says: t`agreed: ${total}`, run: () => void withdraw(job.id, id, true) })
    onClose()
  }
  return (
    <Dialog title={t`What is to be done, and what it costs`} onClose={onClose}>
      <ul>
        {quote.rows.map((row) => (
          <li key={row.line ?? row.text} className="border-base-300 flex gap-3 border-b py-1.5">
            <span className="flex-1">
              {row.text}
              {quote.agreed && !row.agreed && (
                <b className="text-primary block text-sm">
                  <Trans>new since you agreed</Trans>
                </b>
              )}
            </span>
            <span className="tabular-nums">{money(row.net, quote.currency)}</span>
          </li>
        ))}
        <li className="flex gap-3 py-1.5">
          <span className="flex-1">
            <Trans>Tax, {quote.tax_percent} %</Trans>
          </span>
          <span className="tabular-nums">{money(quote.tax, quote.currency)}</span>
        </li>
      </ul>
      <p className="mt-2 flex gap-3 text-xl font-bold">
        <span className="flex-1">{quote.complete ? t`With tax` : t`With tax, at least`}</span>
        <span className="tabular-nums">{total}</span>
      </p>
      <div className="mt-3 grid gap-3">
        <Field title={t`Name`} value={name} onChange={setName} maxLength={120} />
        <SignPad value={signature} onChange={setSignature} />
        <Trouble says={trouble} />
        <div className="flex flex-wrap gap-2">
          <Button kind="primary" disabled={!signature} onClick={() => void agreed(signature)}>
            <Trans>Agreed and signed</Trans>
          </Button>
          <Button kind="outline" onClick={() => void agreed('')}>
            <Trans>Agreed by word</Trans>
          </Button>
          {signature && (
            <Button kind="ghost" onClick={() => setSignature('')}>
              <Trans>Sign anew</Trans>
            </Button>
          )}
        </div>
      </div>
    </Dialog>
  )
}
