import { useExpected } from '../../api/stock'
import type { Job } from '../../api/types'

/** What the work is expected to give; opening: whether it is worth opening for it. */
export function Expected({ job, opening = false }: { job: Job; opening?: boolean }) {
  const { data } = useExpected(job)
  if (!data || !job.works.lines.some((line) => line.wanted)) return null
  const gains = new Map(data.gains.map((row) => [row.line, row.text]))
  const lines = job.works.lines.filter((line) => gains.has(line.name))
  return (
    <div className="border-base-300 mt-3 border-l-4 pl-3">
      {data.kept && <p className="text-lg font-bold">{data.kept}</p>}
      <p className={data.kept ? '' : 'font-bold'}>{data.text}</p>
      {opening && data.opening && <p>{data.opening}</p>}
      {opening && lines.length > 1 && (
        <ul className="text-soft text-sm">
          {lines.map((line) => (
            <li key={line.name}>
              {line.text}: {gains.get(line.name)}
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
