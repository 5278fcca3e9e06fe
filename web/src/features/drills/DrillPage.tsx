import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { beginDrill, type DrillTold, useDrill } from '../../api/drills'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { money } from '../../ui/money'
import { bare, unitFor } from '../../ui/numbers'
import { Failed, Waiting } from '../../ui/states'
import { Told, useAct } from '../../ui/useAct'

type Moves = NonNullable<DrillTold['told']>['own']

/** How a drill went: what was wrong, the minutes beside the tool's way, and what was not safe. */
export function DrillPage() {
  const { jobId = '' } = useParams()
  const drill = useDrill(jobId)
  const navigate = useNavigate()
  const { trouble, run } = useAct()
  useEffect(() => {
    document.title = t`A drill · Warm Draft`
  }, [])
  if (drill.isError && !drill.data) return <Failed error={drill.error} again={() => void drill.refetch()} />
  if (!drill.data) return <Waiting what={t`the drill`} />
  const { title, told, by } = drill.data
  const again = async () => {
    const job = await beginDrill(drill.data.case)
    await navigate(`/jobs/${job}`)
  }
  return (
    <>
      <TopBar>
        <h1 className="truncate text-lg font-bold">
          <Trans>
            {title}, by {by}
          </Trans>
        </h1>
      </TopBar>
      <main className="mx-auto grid max-w-[1280px] grid-cols-1 gap-4 px-3 pt-4 pb-16 sm:px-6 lg:grid-cols-2">
        {told ? (
          <>
            <Verdict drill={drill.data} told={told} />
            {told.unsafe.length > 0 && (
              <section className="card-paper border-error border-2 p-4 lg:col-span-2">
                <h2 className="text-error text-xl font-bold">
                  <Trans>Not safe</Trans>
                </h2>
                <ul className="mt-1 list-disc pl-6 text-lg">
                  {told.unsafe.map((row) => (
                    <li key={`${row.code} ${row.subject}`}>{row.text}</li>
                  ))}
                </ul>
              </section>
            )}
            {told.advice.length > 0 && (
              <section className="card-paper p-4 lg:col-span-2">
                <h2 className="text-xl font-bold">
                  <Trans>Where another act promised more</Trans>
                </h2>
                <ol className="mt-1 grid gap-1">
                  {told.advice.map((row) => (
                    <li key={row.at} className="flex gap-3">
                      <span className="text-soft w-24 shrink-0">{t`In place of ${row.at + 1}`}</span>
                      <span>{row.text}</span>
                    </li>
                  ))}
                </ol>
              </section>
            )}
            <Way title={t`Your way`} moves={told.own} minutes={told.minutes} longest={longest(told)} />
            <Way
              title={t`The tool’s way on the same machine`}
              moves={told.better}
              minutes={told.better_minutes}
              longest={longest(told)}
            />
          </>
        ) : (
          <p className="lg:col-span-2">
            <Trans>This drill is not over yet.</Trans>
          </p>
        )}
        <div className="flex flex-wrap gap-2 lg:col-span-2">
          <Link to="/drills" className="btn btn-primary touch">
            <Trans>All drills</Trans>
          </Link>
          <Button kind="outline" onClick={() => run(again())}>
            <Trans>The same again, drawn anew</Trans>
          </Button>
          <Told trouble={trouble} />
        </div>
      </main>
    </>
  )
}

const longest = (told: NonNullable<DrillTold['told']>) =>
  Math.max(...[...told.own, ...told.better].map((move) => move.minutes), 1)

function Verdict({ drill, told }: { drill: DrillTold; told: NonNullable<DrillTold['told']> }) {
  const { hidden, cost, better_cost } = drill
  const { me } = useSignedIn()
  return (
    <section className="card-paper p-4 lg:col-span-2">
      <h2 className={`text-2xl font-bold ${told.found ? 'text-success' : 'text-error'}`}>
        {told.found ? t`Mended` : t`Not mended`}
      </h2>
      <p className="mt-1 text-lg">
        <Trans>It was:</Trans>{' '}
        <b>
          {hidden
            .filter((row) => row.fault)
            .map((row) => row.text)
            .join(' · ')}
        </b>
      </p>
      {hidden
        .filter((row) => row.reading)
        .map((row) => (
          <p key={row.text}>{row.text}</p>
        ))}
      <dl className="mt-3 flex flex-wrap gap-x-10 gap-y-2">
        <Minutes of={t`minutes, your way`}>{told.minutes}</Minutes>
        <Minutes of={t`minutes, the tool’s way`}>{told.better_minutes}</Minutes>
      </dl>
      {cost !== null && better_cost !== null && (
        <p className="mt-2 text-lg">
          <Trans>
            {money(cost, me.currency)} of work against {money(better_cost, me.currency)}
          </Trans>
        </p>
      )}
    </section>
  )
}

function Minutes({ of, children }: { of: string; children: number }) {
  return (
    <div className="flex flex-col-reverse">
      <dt className="text-soft text-sm">{of}</dt>
      <dd className="text-3xl font-bold tabular-nums">{Math.round(children)}</dd>
    </div>
  )
}

/** Acts in their order, each as long as it took. */
function Way({
  title,
  moves,
  minutes,
  longest: most,
}: {
  title: string
  moves: Moves
  minutes: number
  longest: number
}) {
  return (
    <section className="card-paper p-4">
      <h2 className="text-xl font-bold">
        {title} <span className="text-soft font-normal">{t`${Math.round(minutes)} min`}</span>
      </h2>
      {moves.length === 0 && (
        <p className="text-soft mt-1">
          <Trans>Nothing was done.</Trans>
        </p>
      )}
      <ol className="mt-1">
        {moves.map((move, i) => (
          // an act may be done twice
          // biome-ignore lint/suspicious/noArrayIndexKey: the list never changes
          <li key={i} className="border-base-300 border-t py-1.5 first:border-0">
            <span className="flex items-baseline gap-3">
              <span className="text-soft w-6 text-right tabular-nums">{i + 1}</span>
              <span className="min-w-0 flex-1">
                {move.text}
                {move.do === 'mend' && (
                  <b className={move.mended ? 'text-success' : 'text-error'}>
                    {' '}
                    {move.mended ? t`that was it` : t`it was not that`}
                  </b>
                )}
                <Gave move={move} />
              </span>
              <span className="whitespace-nowrap tabular-nums">{t`${Math.round(move.minutes)} min`}</span>
            </span>
            <span
              aria-hidden="true"
              className={`mt-0.5 ml-9 block h-1.5 rounded-full ${move.do === 'mend' ? 'bg-accent' : 'bg-primary'}`}
              style={{ width: `calc((100% - 2.25rem) * ${move.minutes / most})` }}
            />
          </li>
        ))}
      </ol>
    </section>
  )
}

function Gave({ move }: { move: Moves[number] }) {
  const { me, vocabulary } = useSignedIn()
  const { gave } = move
  if (!gave) return null
  const check = vocabulary.checks.find((row) => row.check === gave.check)
  const kind = vocabulary.kinds.find((row) => row.kind === check?.observes)
  const unit = kind && unitFor(kind.dimension, me.units, vocabulary)
  const says =
    gave.value && unit
      ? `${bare(gave.value, unit)} ${unit.look}`
      : check?.results.find((row) => row.code === gave.result)?.text
  return says ? <span className="text-soft"> → {says}</span> : null
}
