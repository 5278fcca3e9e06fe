import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { Link } from 'react-router'
import type { Job, WayOut } from '../../api/types'

/** What is bought for a way and how it is cut; what it goes together of, in order; what must not be done. */
export function CutList({ job, way, never }: { job: Job; way: WayOut; never: readonly string[] }) {
  return (
    <section className="card-paper p-3" aria-label={t`Cut list`}>
      <h2 className="text-xl font-bold">
        <Trans>Cut and build</Trans>
      </h2>
      <Sheet way={way} never={never} />
      <Link to={`/jobs/${job.id}/vent/paper`} className="btn btn-outline touch mt-3 w-full">
        <Trans>Paper for the van</Trans>
      </Link>
    </section>
  )
}

/** The same on the screen and on paper. */
export function Sheet({ way, never }: { way: WayOut; never: readonly string[] }) {
  return (
    <>
      <h3 className="mt-2 font-bold">
        {way.cuts_proven ? <Trans>Buy and cut, the cheapest there is</Trans> : <Trans>Buy and cut</Trans>}
      </h3>
      {way.bars.length === 0 && (
        <p>
          <Trans>No straight piece: the bends meet.</Trans>
        </p>
      )}
      <ul data-bars>
        {way.bars.map((bar, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two lengths may be cut alike
          <li key={i}>
            <b>{bar.stock}</b>: {bar.pieces.join(' · ')}{' '}
            <span className="text-soft">
              <Trans>{bar.left} left</Trans>
            </span>
          </li>
        ))}
      </ul>
      <h3 className="mt-2 font-bold">
        <Trans>Parts</Trans>
      </h3>
      <ul className="columns-2">
        {way.parts.map((part) => (
          <li key={part.part}>
            {part.count} × {part.text}
            {part.cost && (
              <span className="text-soft">
                {' '}
                {part.cost} {way.currency}
              </span>
            )}
          </li>
        ))}
      </ul>
      <h3 className="mt-2 font-bold">
        <Trans>In this order</Trans>
      </h3>
      <ol className="list-decimal pl-6">
        {way.build.map((text, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two bends may read alike
          <li key={i}>{text}</li>
        ))}
      </ol>
      <h3 className="mt-2 font-bold">
        <Trans>Never</Trans>
      </h3>
      <ul>
        {never.map((text) => (
          <li key={text}>
            <span aria-hidden="true">✕ </span>
            {text}
          </li>
        ))}
      </ul>
    </>
  )
}
