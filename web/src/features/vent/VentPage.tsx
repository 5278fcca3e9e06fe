import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { Link, useParams } from 'react-router'
import { useJob } from '../../api/queries'
import type { Job } from '../../api/types'
import { type Build, useWaysOut } from '../../api/vent'
import { drawPlan } from '../../api/writes'
import { worded } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { Toggles } from '../../ui/Choice'
import { wayUnit } from '../../ui/numbers'
import { Failed, Waiting } from '../../ui/states'
import { Trouble } from '../../ui/Trouble'
import { Around } from './Around'
import { BuildChoice } from './BuildChoice'
import { CutList } from './CutList'
import { HeldAgainst } from './HeldAgainst'
import { Below, hint, Stepped, type Tool, Tools } from './PlanTools'
import { PlanView, VIEWS } from './PlanView'
import {
  boxOf,
  buildOf,
  chosenOf,
  chosenWay,
  covers,
  type Flat,
  faceAt,
  freshPlan,
  type Heading,
  holeOf,
  type Plan,
  planOf,
  resized,
  type View,
  waysOf,
} from './plan'
import type { Vent } from './run'
import { SharedRiser } from './SharedRiser'
import { todayInCells } from './today'
import { type Fitting, pointed, UnderPhoto } from './UnderPhoto'
import { useDrawn } from './useDrawn'
import { WayCards } from './WayCards'

/** The vent drawn anew: where the machine stands, what is in the way, the ways out side by side, what is cut. */
export function VentPage() {
  const { jobId = '' } = useParams()
  const job = useJob(jobId)
  useEffect(() => {
    document.title = t`The vent, drawn anew · Warm Draft`
  }, [])
  if (job.isError && !job.data) return <Failed error={job.error} again={() => void job.refetch()} />
  if (!job.data) return <Waiting what={t`the job`} />
  return <Redraw key={jobId} job={job.data} />
}

function Redraw({ job }: { job: Job }) {
  const { me, vocabulary } = useSignedIn()
  const unit = wayUnit(me.units, vocabulary).unit === 'ft' ? 'ft' : 'm'
  const recorded = planOf(job)
  const { drawn, draw, trouble, saved } = useDrawn(job, recorded, (plan, version) =>
    drawPlan(job.id, plan, version),
  )
  const [before, setBefore] = useState<(Plan | null)[]>([])
  const [tool, setTool] = useState<Tool>('machine')
  const [corner, setCorner] = useState<{ view: View; at: Flat } | null>(null)
  const [build, setBuild] = useState<Build>(buildOf(recorded?.chosen))
  const [fitting, setFitting] = useState<Fitting | null>(null)
  const [seen, setSeen] = useState<string | null>(null)
  const { data: found } = useWaysOut(job, build)
  const plan = drawn
  if (!plan)
    return (
      <>
        <TopBar>
          <BackTo job={job} />
        </TopBar>
        <main className="mx-auto max-w-3xl px-3 py-4">
          <h1 className="text-2xl font-bold">
            <Trans>The vent, drawn anew</Trans>
          </h1>
          <p className="mt-2">
            <Trans>
              Draw where the machine stands and what is in the way, say which walls are outdoors: you get the
              ways out with the least pressure lost, what this machine gives on each, and what to cut.
            </Trans>
          </p>
          <Button
            kind="primary"
            className="mt-4 h-[54px] w-full text-lg"
            onClick={() => draw(freshPlan(unit))}
          >
            <Trans>Begin the plan</Trans>
          </Button>
        </main>
      </>
    )
  const change = (next: Plan) => {
    setBefore([...before.slice(-99), plan])
    draw(next)
  }
  const boxes = found?.boxes ?? []
  const stands = boxes.find((box) => box.kind === 'machine')
  const opening = (kind: string) => vocabulary.plan_things.find((row) => row.code === kind)?.opening ?? false
  const tap = (view: View, at: Flat) => {
    if (tool === 'machine') {
      change({
        ...plan,
        machine: view === 'above' ? [at.x, at.y, plan.machine[2]] : [at.x, plan.machine[1], at.y],
      })
    } else if (tool === 'erase') {
      const last = plan.things.findLastIndex((_, i) => {
        const box = boxes[i + 1]
        return box && covers(box, view, at)
      })
      const holes = plan.holes.filter((hole) => !covers({ low: hole.cell, high: hole.cell }, view, at))
      if (holes.length < plan.holes.length) change({ ...plan, holes })
      else if (last >= 0) change({ ...plan, things: plan.things.filter((_, i) => i !== last) })
    } else if (tool === 'hole') {
      const heading = faceAt(plan, view, at)
      if (!heading) return
      const [width, depth, height] = plan.cells
      const cell: Plan['machine'] =
        view === 'above'
          ? [at.x, at.y, heading === '+z' ? height - 1 : plan.machine[2]]
          : [at.x, heading === '+y' ? depth - 1 : Math.min(plan.machine[1] + 1, depth - 1), at.y]
      if (cell[0] < width) change({ ...plan, holes: [...plan.holes, { cell, heading }] })
    } else if (!corner || corner.view !== view) {
      setCorner({ view, at })
    } else {
      const back = (stands?.high[1] ?? plan.machine[1]) + 1
      change({
        ...plan,
        things: [...plan.things, boxOf(plan, view, tool, opening(tool), corner.at, at, back)],
      })
      setCorner(null)
    }
  }
  const undo = () => {
    const last = before.at(-1)
    if (last === undefined) return
    setBefore(before.slice(0, -1))
    setCorner(null)
    draw(last)
  }
  const all = waysOf(found)
  const chosen = chosenWay(plan, found)
  const way = all.find((row) => row.key === seen) ?? chosen ?? all[0]
  const shot = job.photos.find((row) => row.id === plan.photo?.id)
  const photo = shot && plan.photo ? { url: shot.url, lies: plan.photo } : undefined
  const today = stands ? todayInCells(job.vent as Vent | null, plan, stands, vocabulary.units) : []
  const old = holeOf(plan, today.at(-1))
  const set = (axis: 0 | 1 | 2, by: number) => {
    const cells = plan.cells.map((count, i) => (i === axis ? Math.min(Math.max(count + by, 3), 40) : count))
    change(resized(plan, cells as Plan['cells']))
  }
  return (
    <>
      <TopBar>
        <BackTo job={job} />
      </TopBar>
      <main className="mx-auto grid max-w-[1280px] grid-cols-[minmax(0,1fr)] gap-4 px-3 py-3 sm:px-6 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)] lg:grid-rows-[auto_1fr]">
        <section aria-label={t`Plan`} className="min-w-0">
          <h1 className="text-2xl font-bold">
            <Trans>The vent, drawn anew</Trans>
          </h1>
          <Tools
            tool={tool}
            onTool={(next) => {
              setTool(next)
              setCorner(null)
            }}
          />
          <p className="mt-2 min-h-6" aria-live="polite">
            {hint(tool, corner !== null)}
          </p>
          <div className="mt-1 grid gap-3 md:grid-cols-2">
            {VIEWS.map(([view, title]) => (
              <PlanView
                key={view}
                plan={plan}
                view={view}
                title={worded(title)}
                boxes={boxes}
                way={way}
                today={today}
                corner={corner?.view === view ? corner.at : null}
                photo={view === 'facing' ? photo : undefined}
                onPoint={
                  view === 'facing' && fitting && plan.photo
                    ? (at) => {
                        if (!plan.photo) return
                        const came = pointed(fitting, plan.photo, at)
                        setFitting(came.fitting)
                        if (came.photo !== plan.photo) change({ ...plan, photo: came.photo })
                      }
                    : undefined
                }
                onTap={(at) => tap(view, at)}
              />
            ))}
          </div>
          <div className="mt-2 flex flex-wrap items-center gap-2">
            <Button kind="outline" disabled={before.length === 0} onClick={undo}>
              <Trans>Undo</Trans>
            </Button>
            {(
              [
                [0, t`Width`],
                [1, t`Depth`],
                [2, t`Height`],
              ] as const
            ).map(([axis, title]) => (
              <Stepped
                key={axis}
                title={title}
                value={`${Math.round(plan.cells[axis] * plan.cell.value * 100) / 100} ${plan.cell.unit}`}
                onBy={(by) => set(axis, by)}
              />
            ))}
          </div>
          <div className="mt-3">
            <Toggles
              title={t`Outdoors lies beyond`}
              options={vocabulary.plan_faces}
              values={plan.outdoors}
              onChange={(outdoors) => change({ ...plan, outdoors: outdoors as Heading[] })}
            />
          </div>
          <UnderPhoto
            job={job}
            plan={plan}
            fitting={fitting}
            onFitting={setFitting}
            onPhoto={(next) => {
              const { photo: _, ...rest } = plan
              change(next ? { ...rest, photo: next } : rest)
            }}
          />
          {today.length > 1 && (
            <p className="text-soft mt-2 text-sm">
              <Trans>The dashed line is the run there is now, as it was drawn.</Trans>
            </p>
          )}
          {old && !plan.holes.some((hole) => hole.cell.join() === old.cell.join()) && (
            <Button
              kind="outline"
              className="mt-2"
              onClick={() => change({ ...plan, holes: [...plan.holes, old] })}
            >
              <Trans>Its hole may be used again</Trans>
            </Button>
          )}
          <Trouble says={trouble} />
        </section>
        <section aria-label={t`Ways out`} className="min-w-0 lg:col-start-2 lg:row-span-2 lg:row-start-1">
          <h2 className="text-xl font-bold">
            <Trans>Ways out</Trans>
          </h2>
          <BuildChoice
            build={build}
            onChange={(next) => {
              setBuild(next)
              if (chosen) change({ ...plan, chosen: chosenOf(chosen, next) })
            }}
          />
          <HeldAgainst
            job={job.id}
            unit={unit}
            value={plan.code_profile}
            onChange={(profile) => {
              const { code_profile: _, ...rest } = plan
              change(profile ? { ...rest, code_profile: profile } : rest)
            }}
          />
          {found && (
            <WayCards
              found={found}
              pending={!saved}
              seen={way?.key ?? null}
              chosen={chosen?.key ?? null}
              onSee={setSeen}
              onChoose={(row) => {
                setSeen(row.key)
                change({ ...plan, chosen: chosenOf(row, build) })
              }}
            />
          )}
        </section>
        {chosen && (
          <div className="min-w-0 lg:col-start-1 lg:row-start-2">
            <CutList job={job} way={chosen} never={found?.never ?? []} />
          </div>
        )}
        <Below title={t`Behind the machine, and air for the room`}>
          <Around
            job={job}
            diameter_in={build.diameter_in}
            behind={plan.behind}
            onBehind={(behind) => change({ ...plan, behind })}
          />
        </Below>
        <Below title={t`A duct shared with other machines`}>
          <SharedRiser job={job} />
        </Below>
        <p className="text-soft text-sm lg:col-span-2">{found?.check}</p>
      </main>
    </>
  )
}

function BackTo({ job }: { job: Job }) {
  return (
    <Link to={`/jobs/${job.id}`} className="touch inline-flex items-center underline">
      <Trans>Back to the job</Trans>
    </Link>
  )
}
