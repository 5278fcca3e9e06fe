import { useQuote } from '../../api/stock'
import type { Job } from '../../api/types'
import { PartChoice } from './PartChoice'

/** The parts that a line of works takes for certain: which thing is fitted, held beside the old one. */
export function FittedParts({ job, line }: { job: Job; line: string }) {
  const { data: quote } = useQuote(job)
  if (!quote) return null
  return quote.needed
    .filter((row) => row.line === line && row.probability >= 1)
    .map((row) => <PartChoice key={row.part} job={job} needed={row} currency={quote.currency} into="used" />)
}
