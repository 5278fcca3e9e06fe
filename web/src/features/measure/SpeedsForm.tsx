import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { SpeedsIn } from '../../api/types'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { asNumber } from '../../ui/numbers'

type Method = SpeedsIn['method']
/** Three fills: the middle one counts. */
const FILLS = 3

/** A flow from air speeds, one in the middle or a traverse with its points drawn; or from a bag and a watch. */
export function SpeedsForm({ byBag, onSave }: { byBag: boolean; onSave: (speeds: SpeedsIn) => void }) {
  const { me, vocabulary } = useSignedIn()
  const [method, setMethod] = useState<Method>(byBag ? 'bag' : 'centre')
  const [bore, setBore] = useState(me.habits.length === 'in' ? '4 in' : '102 mm')
  const [unit, setUnit] = useState<SpeedsIn['unit']>(me.habits.length === 'in' ? 'ft/min' : 'm/s')
  const [typed, setTyped] = useState<string[]>([])
  const places = vocabulary.traverse
  const [litres, setLitres] = useState('200')
  const bag = method === 'bag'
  const count = method === 'traverse' ? 2 * places.length : bag ? FILLS : 1
  const values = Array.from({ length: count }, (_, i) => asNumber(typed[i] || 'NaN'))
  const complete = values.every((value) => value > 0)
  return (
    <form
      className="grid gap-2 pb-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (complete) onSave({ method, bore, unit, litres: Number(litres) || 200, values })
      }}
    >
      <Choice
        title={t`How?`}
        options={[
          ['centre', t`in the middle`],
          ['near_bend', t`in the middle, near a bend`],
          ['traverse', t`a traverse of 12 points`],
          ['bag', t`a bag and a watch`],
        ]}
        value={method}
        onChange={(value) => setMethod(value as Method)}
      />
      <div className="flex flex-wrap gap-2">
        {bag && (
          <label className="flex items-center gap-2">
            <span>
              <Trans>Bag, litres</Trans>
            </span>
            <input
              className="field w-24"
              inputMode="decimal"
              value={litres}
              maxLength={5}
              onChange={(event) => setLitres(event.target.value)}
            />
          </label>
        )}
        <label className={bag ? 'hidden' : 'flex items-center gap-2'}>
          <span>
            <Trans>Bore</Trans>
          </span>
          <input
            className="field w-24"
            value={bore}
            maxLength={20}
            onChange={(event) => setBore(event.target.value)}
          />
        </label>
        {!bag && (
          <Choice
            title={t`Speed in`}
            options={[
              ['ft/min', 'ft/min'],
              ['m/s', 'm/s'],
            ]}
            value={unit}
            onChange={(value) => setUnit(value === 'm/s' ? 'm/s' : 'ft/min')}
          />
        )}
        {bag && (
          <span className="self-center">
            <Trans>Seconds until it is full, {FILLS} times:</Trans>
          </span>
        )}
      </div>
      <div className="flex flex-wrap items-start gap-4">
        <div className="grid flex-1 grid-cols-[repeat(auto-fill,minmax(6.5rem,1fr))] gap-2">
          {values.map((_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the traverse
            <label key={i} className="flex items-center gap-1">
              <span className="text-soft w-6 text-right">{count > 1 ? i + 1 : ''}</span>
              <input
                className="field px-2"
                inputMode="decimal"
                aria-label={
                  bag
                    ? t`seconds of fill ${i + 1}`
                    : count > 1
                      ? t`speed at point ${i + 1}`
                      : t`speed in the middle`
                }
                value={typed[i] ?? ''}
                maxLength={8}
                onChange={(event) => {
                  const next = [...typed]
                  next[i] = event.target.value
                  setTyped(next)
                }}
              />
            </label>
          ))}
        </div>
        {method === 'traverse' && <Points places={places} />}
      </div>
      <Button type="submit" kind="neutral" className="justify-self-start" disabled={!complete}>
        <Trans>Save the flow</Trans>
      </Button>
    </form>
  )
}

/** The two diameters of a traverse, each point numbered, as far from the wall as it is. */
function Points({ places }: { places: readonly number[] }) {
  return (
    <svg
      viewBox="0 0 140 140"
      className="h-36 w-36"
      role="img"
      aria-label={t`Points 1 to 6 across, 7 to 12 up and down`}
    >
      <circle cx="70" cy="70" r="60" className="fill-base-200 stroke-base-content" strokeWidth="2" />
      {places.map((share, i) => {
        const at = 10 + share * 120
        return (
          <g key={share} className="fill-base-content" fontSize="11">
            <text x={at} y={66} textAnchor="middle">
              {i + 1}
            </text>
            <circle cx={at} cy={70} r="2" />
            <text x={76} y={at + 4}>
              {i + 1 + places.length}
            </text>
            <circle cx={70} cy={at} r="2" />
          </g>
        )
      })}
    </svg>
  )
}
