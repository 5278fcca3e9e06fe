import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { useHeat } from '../../api/queries'
import type { Job } from '../../api/types'
import { textOf, useSignedIn } from '../../app/signedIn'
import { allOf } from '../../ui/lists'
import { digits, shown, unitFor } from '../../ui/numbers'
import { Failed, Waiting } from '../../ui/states'
import { HeatPlot } from './HeatPlot'

/** How a load dries: temperature over time, healthy beside now, each trip marked, and what it costs more. */
export function HeatPanel({ job }: { job: Job }) {
  const { me, vocabulary } = useSignedIn()
  const [loads, setLoads] = useState(5)
  const [price, setPrice] = useState(0.3)
  const heat = useHeat(job, loads, price)
  if (heat.isError && !heat.data) return <Failed error={heat.error} again={() => void heat.refetch()} />
  if (!heat.data) return <Waiting what={t`the heat`} />
  const { healthy, now, text, story } = heat.data
  const count = (limit: string) => now?.trips.filter((trip) => trip.limit === limit).length ?? 0
  return (
    <div>
      <h2 className="text-xl font-bold">{text}</h2>
      <p className="text-soft">
        <Trans>
          A load of {shown(heat.data.load, unitFor('mass', me.units, vocabulary))} from the washer
          {story.length > 0 &&
            t`, with ${allOf(story.map((fault) => textOf(vocabulary.faults, fault).toLowerCase()))} as likely now`}
          .
        </Trans>
      </p>
      <HeatPlot heat={heat.data} units={me.units} vocabulary={vocabulary} />
      {now && (
        <p className="mt-2">
          {count('high_limit') > 0
            ? t`The high limit opens ${count('high_limit')} times: heat comes in bursts, the load waits for it.`
            : t`No limit opens on the way.`}
        </p>
      )}
      <dl className="mt-3 grid grid-cols-[minmax(0,1fr)_auto_auto] gap-x-4">
        <dt className="text-soft" />
        <dd className="text-soft text-right">
          <Trans>healthy</Trans>
        </dd>
        <dd className="text-soft text-right">
          <Trans>now</Trans>
        </dd>
        <dt>
          <Trans>Minutes to dry</Trans>
        </dt>
        <dd className="text-right font-bold">
          {healthy.minutes === null ? '–' : digits(healthy.minutes, 0)}
        </dd>
        <dd className="text-right font-bold">
          {now ? (now.minutes === null ? t`never` : digits(now.minutes, 0)) : '–'}
        </dd>
        <dt>
          <Trans>Energy a load, kWh</Trans>
        </dt>
        <dd className="text-right font-bold">{digits(healthy.energy.value, 2)}</dd>
        <dd className="text-right font-bold">{now ? digits(now.energy.value, 2) : '–'}</dd>
      </dl>
      <div className="mt-3 flex flex-wrap gap-3">
        <label className="flex items-center gap-2">
          <span>
            <Trans>Loads a week</Trans>
          </span>
          <input
            className="field w-20"
            type="number"
            min={0}
            max={100}
            value={loads}
            onChange={(event) => setLoads(Number(event.target.value))}
          />
        </label>
        <label className="flex items-center gap-2">
          <span>
            <Trans>{heat.data.currency} a kWh</Trans>
          </span>
          <input
            className="field w-24"
            type="number"
            min={0}
            step={0.01}
            value={price}
            onChange={(event) => setPrice(Number(event.target.value))}
          />
        </label>
      </div>
    </div>
  )
}
