import { Trans } from '@lingui/react/macro'

type School = { asks: string; others: string; ours: string; why: string }

/** Where people differ: what we do and why, and what others do. */
export function Schools({ schools }: { schools: readonly School[] }) {
  if (schools.length === 0) return null
  return (
    <details>
      <summary className="touch flex cursor-pointer items-center font-bold">
        <Trans>Where people differ</Trans>
      </summary>
      <dl className="grid gap-3">
        {schools.map((row) => (
          <div key={row.asks}>
            <dt className="font-bold">{row.asks}</dt>
            <dd>
              <Trans>
                We: {row.ours} {row.why}
              </Trans>
              <span className="text-soft block">
                <Trans>Others: {row.others}</Trans>
              </span>
            </dd>
          </div>
        ))}
      </dl>
    </details>
  )
}
