import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { sentence } from '../../api/client'
import { useBalance } from '../../api/queries'
import type { Balance, Job } from '../../api/types'
import { Button } from '../../ui/Button'
import { askedOf, EMPTY, FRESH, keepTray, type Row, type Tray, trayOf } from './tray'

/** Trial masses on the vanes, run by run, and what they tell: where the wheel is heavy, and what to add. */
export function BalanceTray({ job }: { job: Job }) {
  const [tray, setTray] = useState<Tray>(() => trayOf(job.id))
  const keep = (next: Tray) => {
    keepTray(job.id, next)
    setTray(next)
  }
  const asked = askedOf(tray)
  const found = useBalance(job.id, asked)
  const change = (at: number, row: Row) =>
    keep({ ...tray, rows: tray.rows.map((old, i) => (i === at ? row : old)) })
  return (
    <section aria-label={t`Balance the wheel`}>
      <p>
        <Trans>
          Clean first: most wheels need no more. One that is clean and whole and still shakes is balanced with
          trial masses: a run without any, then the same mass on three vanes a third of the wheel apart. Vane
          0 is the one you mark; count one way round.
        </Trans>
      </p>
      <div className="mt-2 flex flex-wrap gap-3">
        <Field says={t`radius, mm`} value={tray.radius} onChange={(radius) => keep({ ...tray, radius })} />
        <Field
          says={t`vanes`}
          hint={t`as of its kind`}
          value={tray.vanes}
          onChange={(vanes) => keep({ ...tray, vanes })}
        />
      </div>
      <table className="mt-2 w-full max-w-xl text-left">
        <thead className="text-soft text-sm">
          <tr>
            <th className="font-normal">
              <Trans>run</Trans>
            </th>
            <th className="font-normal">
              <Trans>mass, g</Trans>
            </th>
            <th className="font-normal">
              <Trans>vane</Trans>
            </th>
            <th className="font-normal">
              <Trans>how strong</Trans>
            </th>
            <th className="font-normal">
              <Trans>phase, °</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {tray.rows.map((row, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a run is its place in the tray
            <tr key={i}>
              <th scope="row" className="pr-2 font-normal">
                {i === 0 ? t`bare` : i}
              </th>
              <td>
                {i > 0 && (
                  <Cell
                    says={t`mass of run ${i}`}
                    value={row.grams}
                    onChange={(grams) => change(i, { ...row, grams })}
                  />
                )}
              </td>
              <td>
                {i > 0 && (
                  <Cell
                    says={t`vane of run ${i}`}
                    value={row.vane}
                    onChange={(vane) => change(i, { ...row, vane })}
                  />
                )}
              </td>
              <td>
                <Cell
                  says={i === 0 ? t`how strong, bare` : t`how strong in run ${i}`}
                  value={row.amplitude}
                  onChange={(amplitude) => change(i, { ...row, amplitude })}
                />
              </td>
              <td>
                <Cell
                  says={i === 0 ? t`phase, bare` : t`phase of run ${i}`}
                  value={row.phase}
                  onChange={(phase) => change(i, { ...row, phase })}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button kind="outline" onClick={() => keep({ ...tray, rows: [...tray.rows, { ...EMPTY }] })}>
          <Trans>One more run</Trans>
        </Button>
        {tray.rows.some((row) => row.amplitude) && (
          <Button kind="ghost" onClick={() => keep(FRESH)}>
            <Trans>Empty the tray</Trans>
          </Button>
        )}
      </div>
      <p className="text-soft text-sm">
        <Trans>
          How strong in one unit, whatever it is: a phone's shake, a meter's number. With the phase one trial
          mass is enough. The tray stays on this device.
        </Trans>
      </p>
      {asked && found.isError && (
        <p role="alert" className="mt-2 font-bold">
          {sentence(found.error)}
        </p>
      )}
      {asked && found.data && <Told balance={found.data} vanes={Number(tray.vanes) || null} />}
    </section>
  )
}

function Told({ balance, vanes }: { balance: Balance; vanes: number | null }) {
  return (
    <div className="mt-3 flex flex-wrap items-start gap-4" role="status" aria-label={t`What it tells`}>
      <ol className="min-w-60 flex-1 list-inside list-decimal">
        {balance.text.map((line, i) => (
          <li key={line} className={i === 0 ? 'text-lg font-bold' : 'mt-1'}>
            {line}
          </li>
        ))}
      </ol>
      {balance.add.length > 0 && <Wheel balance={balance} vanes={vanes ?? balance.vanes} />}
    </div>
  )
}

/** The wheel from its face: where it is heavy, and where masses go. */
function Wheel({ balance, vanes }: { balance: Balance; vanes: number }) {
  const at = (vane: number, r: number): [number, number] => {
    const turn = (2 * Math.PI * vane) / vanes - Math.PI / 2
    return [100 + r * Math.cos(turn), 100 + r * Math.sin(turn)]
  }
  const spoke = (vane: number) => `M${at(vane, 70).join(' ')}L${at(vane, 80).join(' ')}`
  const [hx, hy] = at(balance.unbalance.vane, 62)
  return (
    <svg
      viewBox="0 0 200 200"
      className="h-48 w-48"
      role="img"
      aria-label={t`The wheel with its heavy place and the masses`}
    >
      <circle cx="100" cy="100" r="80" fill="none" className="stroke-base-300" strokeWidth="2" />
      <path
        d={Array.from({ length: vanes }, (_, vane) => spoke(vane)).join('')}
        className="stroke-base-content"
      />
      <path d={spoke(0)} className="stroke-base-content" strokeWidth="4" />
      <text
        x={at(0, 92)[0]}
        y={at(0, 92)[1] + 4}
        textAnchor="middle"
        fontSize="12"
        className="fill-base-content"
      >
        0
      </text>
      <circle cx={hx} cy={hy} r="9" fill="var(--soft)" />
      <text x={100} y={100} textAnchor="middle" fontSize="12" style={{ fill: 'var(--soft)' }}>
        <Trans>grey: heavy</Trans>
      </text>
      {balance.add.map((row, i) => {
        const [x, y] = at(row.vane, 62 - 24 * i)
        return (
          <g key={row.vane}>
            <circle cx={x} cy={y} r="11" fill="var(--now)" />
            <text
              x={x}
              y={y + 4}
              textAnchor="middle"
              fontSize="11"
              fontWeight="700"
              className="fill-base-100"
            >
              {row.vane}
            </text>
          </g>
        )
      })}
    </svg>
  )
}

function Field({
  says,
  hint,
  value,
  onChange,
}: {
  says: string
  hint?: string
  value: string
  onChange: (value: string) => void
}) {
  return (
    <label className="block w-36">
      {says}
      <input
        className="field mt-1"
        inputMode="decimal"
        placeholder={hint}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  )
}

function Cell({ says, value, onChange }: { says: string; value: string; onChange: (value: string) => void }) {
  return (
    <input
      className="field h-11 w-full min-w-0 px-2"
      aria-label={says}
      inputMode="decimal"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  )
}
