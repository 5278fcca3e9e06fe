import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect } from 'react'
import { Link, useNavigate } from 'react-router'
import { beginDrill, type Drill, type Drills, removeCase, useDrills } from '../../api/drills'
import { chooseWorkshop } from '../../api/queries'
import { written } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { Failed, Waiting } from '../../ui/states'
import { Told, useAct } from '../../ui/useAct'

/** What there is to train on, the plainest first, and what was worked. */
export function DrillsPage() {
  const drills = useDrills()
  const navigate = useNavigate()
  const { trouble, run } = useAct()
  useEffect(() => {
    document.title = t`Drills · Warm Draft`
  }, [])
  if (drills.isError && !drills.data)
    return <Failed error={drills.error} again={() => void drills.refetch()} />
  if (!drills.data) return <Waiting what={t`the drills`} />
  const { ladder, cases, drills: worked } = drills.data
  const begin = async (which: string) => {
    const job = await beginDrill(which)
    await navigate(`/jobs/${job}`)
  }
  const levels = [...new Set(ladder.map((rung) => rung.level))]
  const solved = new Set(worked.filter((drill) => drill.found).map((drill) => drill.case))
  const open = worked.filter((drill) => !drill.ended_at)
  const over = worked.filter((drill) => drill.ended_at)
  return (
    <>
      <TopBar>
        <h1 className="text-lg font-bold">
          <Trans>Drills</Trans>
        </h1>
      </TopBar>
      <main className="mx-auto grid max-w-[1280px] grid-cols-1 gap-4 px-3 pt-4 pb-16 sm:px-6 lg:grid-cols-2">
        <p className="text-lg lg:col-span-2">
          <Trans>
            A machine with a hidden fault, on the screens you work with. Its readings err as instruments do,
            and minutes count. At the end it says what was wrong, and what the tool would have done. Nothing
            of it reaches the workshop’s jobs or figures.
          </Trans>
        </p>
        {trouble && <Told trouble={trouble} />}
        <div className="grid grid-cols-1 content-start gap-4 lg:col-start-1">
          {open.length > 0 && <GoOn drills={open} />}
          {levels
            .map((level) => ladder.filter((rung) => rung.level === level))
            .map((rungs) => (
              <section key={rungs[0]?.level} className="card-paper p-4">
                <h2 className="text-xl font-bold">{rungs[0]?.level_text}</h2>
                <ul className="mt-1">
                  {rungs.map((rung) => (
                    <Case
                      key={rung.name}
                      title={rung.title}
                      solved={solved.has(rung.name)}
                      onBegin={() => run(begin(rung.name))}
                    />
                  ))}
                </ul>
              </section>
            ))}
        </div>
        <div className="grid grid-cols-1 content-start gap-4">
          <SetByLead
            cases={cases}
            solved={solved}
            onBegin={(id) => run(begin(id))}
            onRemove={(id) => run(removeCase(id))}
          />
          <Worked drills={over} />
        </div>
      </main>
    </>
  )
}

function Case({
  title,
  by,
  solved,
  onBegin,
  onRemove,
}: {
  title: string
  by?: string
  solved: boolean
  onBegin: () => void
  onRemove?: (() => void) | undefined
}) {
  return (
    <li className="border-base-300 flex flex-wrap items-center gap-x-3 border-t py-1.5 first:border-0">
      <span className="min-w-0 flex-1">
        <b className="block">
          {title}
          {solved && (
            <span className="text-success">
              {' '}
              <span aria-hidden="true">✓</span>
              <span className="sr-only">
                <Trans>mended before</Trans>
              </span>
            </span>
          )}
        </b>
        {by && <span className="text-soft block text-sm">{by}</span>}
      </span>
      {onRemove && (
        <Button kind="ghost" aria-label={t`Take away: ${title}`} onClick={onRemove}>
          <Trans>Take away</Trans>
        </Button>
      )}
      <Button kind="outline" aria-label={t`Begin: ${title}`} onClick={onBegin}>
        <Trans>Begin</Trans>
      </Button>
    </li>
  )
}

/** Drills that are not over: back into the room, to the job. */
function GoOn({ drills }: { drills: Drill[] }) {
  const { me } = useSignedIn()
  const navigate = useNavigate()
  const { trouble, run } = useAct()
  const go = async (drill: Drill) => {
    if (me.workshop_id !== drill.room) await chooseWorkshop(drill.room)
    await navigate(`/jobs/${drill.job_id}`)
  }
  const own = drills.filter((drill) => drill.by === me.name)
  if (own.length === 0) return null
  return (
    <section className="card-paper border-accent border-2 p-4">
      <h2 className="text-xl font-bold">
        <Trans>Not over yet</Trans>
      </h2>
      <ul className="mt-1">
        {own.map((drill) => (
          <li key={drill.job_id} className="flex items-center gap-3 py-1">
            <span className="min-w-0 flex-1">{drill.title}</span>
            <Button kind="outline" aria-label={t`Go on: ${drill.title}`} onClick={() => run(go(drill))}>
              <Trans>Go on</Trans>
            </Button>
          </li>
        ))}
      </ul>
      <Told trouble={trouble} />
    </section>
  )
}

function SetByLead({
  cases,
  solved,
  onBegin,
  onRemove,
}: {
  cases: Drills['cases']
  solved: ReadonlySet<string>
  onBegin: (id: string) => void
  onRemove: (id: string) => void
}) {
  const { me } = useSignedIn()
  const may = me.may.includes('set_drills')
  return (
    <section className="card-paper p-4">
      <h2 className="text-xl font-bold">
        <Trans>Set by your lead</Trans>
      </h2>
      {cases.length === 0 && (
        <p className="text-soft mt-1">
          {may
            ? t`Open a job that is handed over, and make a drill of it: its names stay behind.`
            : t`Nothing is set.`}
        </p>
      )}
      <ul className="mt-1">
        {cases.map((row) => (
          <Case
            key={row.id}
            title={row.title}
            by={row.by}
            solved={solved.has(row.id)}
            onBegin={() => onBegin(row.id)}
            onRemove={may ? () => onRemove(row.id) : undefined}
          />
        ))}
      </ul>
    </section>
  )
}

function Worked({ drills }: { drills: Drill[] }) {
  const { me } = useSignedIn()
  return (
    <section className="card-paper p-4">
      <h2 className="text-xl font-bold">
        <Trans>How they went</Trans>
      </h2>
      {drills.length === 0 && (
        <p className="text-soft mt-1">
          <Trans>No drill is over yet.</Trans>
        </p>
      )}
      <ul className="mt-1">
        {drills.map((drill) => (
          <li key={drill.job_id} className="border-base-300 border-t first:border-0">
            <Link to={`/drills/${drill.job_id}`} className="touch flex items-center gap-3 py-1">
              <span className="min-w-0 flex-1">
                <b className="block truncate">{drill.title}</b>
                <span className="text-soft block truncate text-sm">
                  {drill.by !== me.name && `${drill.by} · `}
                  {written(drill.began_at)}
                </span>
              </span>
              <span className="text-right tabular-nums">
                <span className="block whitespace-nowrap">
                  {drill.found ? t`mended` : t`not mended`} · {t`${Math.round(drill.minutes ?? 0)} min`}
                </span>
                <span className="text-soft block text-sm whitespace-nowrap">
                  {t`the tool: ${Math.round(drill.better_minutes ?? 0)} min`}
                  {(drill.unsafe ?? 0) > 0 && (
                    <b className="text-error"> · {t`unsafe: ${drill.unsafe ?? 0}`}</b>
                  )}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}
