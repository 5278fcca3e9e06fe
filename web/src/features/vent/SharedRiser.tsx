import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job } from '../../api/types'
import { type RiserAsked, useRiser } from '../../api/vent'
import { useSignedIn } from '../../app/signedIn'
import { Choice } from '../../ui/Choice'
import { Field } from '../../ui/Field'
import { bare, shown, unitFor } from '../../ui/numbers'
import { TYPED, useSettled } from '../../ui/useSettled'

/** Machines like this one on one duct: what each gets when one, some or all of them run, and where lint settles. */
export function SharedRiser({ job }: { job: Job }) {
  const { me, vocabulary } = useSignedIn()
  const far = me.units.way ?? 'm'
  const [typed, setTyped] = useState({ machines: '4', storey: '', lateral: '', end: '', fan: '' })
  const [diameter, setDiameter] = useState('6')
  const machines = Math.min(Math.max(Math.round(Number(typed.machines)) || 1, 1), 24)
  const asked = useSettled(
    JSON.stringify({ ...typed, machines, diameter_in: Number(diameter), lateral_bends: 1, hood: 'open' }),
    TYPED,
  )
  const { data, error } = useRiser(job, JSON.parse(asked) as RiserAsked)
  const flow = unitFor('flow', me.units, vocabulary)
  const speed = unitFor('air_speed', me.units, vocabulary)
  const fields = [
    ['machines', t`Machines`, ''],
    ['storey', t`From one to the next, ${far}`, far === 'ft' ? '10' : '3'],
    ['lateral', t`Each one's own duct, ${far}`, far === 'ft' ? '3' : '1'],
    ['end', t`Above the last, ${far}`, far === 'ft' ? '10' : '3'],
    ['fan', t`A fan at the end draws, ${me.units.pressure ?? ''}`, '0'],
  ] as const
  return (
    <div>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-5">
        {fields.map(([name, title, such]) => (
          <Field
            key={name}
            title={title}
            placeholder={such}
            value={typed[name]}
            onChange={(value) => setTyped({ ...typed, [name]: value })}
            inputMode="decimal"
            maxLength={30}
          />
        ))}
      </div>
      <div className="mt-2">
        <Choice
          title={t`Bore of the riser`}
          options={['4', '6', '8', '10', '12'].map((inches) => [inches, `${inches} in`] as const)}
          value={diameter}
          onChange={setDiameter}
        />
      </div>
      {error ? (
        <p role="alert">{error.message}</p>
      ) : (
        data && (
          <>
            <ul className="mt-2 grid gap-1">
              {data.text.map((row, i) => (
                <li key={row} className={i === 0 ? 'text-lg font-bold' : ''}>
                  {row}
                </li>
              ))}
            </ul>
            <div className="mt-2 overflow-x-auto">
              <table className="w-full text-right">
                <caption className="text-soft text-left text-sm">
                  <Trans>{flow.look} at each machine, from the foot up</Trans>
                </caption>
                <thead>
                  <tr>
                    <th className="text-left">
                      <Trans>Running</Trans>
                    </th>
                    {data.patterns[0]?.flows.map((_, i) => (
                      // biome-ignore lint/suspicious/noArrayIndexKey: a machine is its place on the riser
                      <th key={i}>{i + 1}</th>
                    ))}
                    <th>
                      <Trans>Slowest air</Trans>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {data.patterns.map((row) => (
                    <tr key={row.text} className="border-base-300 border-t">
                      <th className="py-1 text-left font-normal">{row.text}</th>
                      {row.flows.map((q, i) => (
                        // biome-ignore lint/suspicious/noArrayIndexKey: a machine is its place on the riser
                        <td key={i} className={q ? 'font-bold' : 'text-soft'}>
                          {q ? bare(q, flow) : '–'}
                        </td>
                      ))}
                      <td>{shown(row.least_speed, speed)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </>
        )
      )}
    </div>
  )
}
