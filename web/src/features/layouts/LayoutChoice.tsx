import { Trans } from '@lingui/react/macro'
import { Suspense, useState } from 'react'
import { useOwnLayouts } from '../../api/queries'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { fetched } from '../../ui/fetched'
import { titleOf } from './document'

const Recognise = fetched(() => import('./Recognise').then((m) => m.Recognise))

export type Chosen = { layout: string; variant: Record<string, string> }

/** The way in of a machine: known by its looks, one of ours or the workshop's own, and in what this one differs. */
export function LayoutChoice({ chosen, onChange }: { chosen: Chosen; onChange: (chosen: Chosen) => void }) {
  const { vocabulary } = useSignedIn()
  const own = useOwnLayouts()
  const [looking, setLooking] = useState(false)
  // what was answered once is not asked again, however often one looks
  const [answers, setAnswers] = useState<Record<string, string>>({})
  const known = vocabulary.layouts.find((row) => row.code === chosen.layout)
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-2">
        <label className="block max-w-md flex-1">
          <span className="font-bold">
            <Trans>The way in</Trans>
          </span>
          <select
            className="field mt-1"
            value={chosen.layout}
            onChange={(event) => onChange({ layout: event.target.value, variant: {} })}
          >
            <option value="">
              <Trans>not known yet</Trans>
            </option>
            {vocabulary.layouts.map((row) => (
              <option key={row.code} value={row.code}>
                {row.text}
              </option>
            ))}
            {(own.data ?? []).map((row) => (
              <option key={row.id} value={row.id}>
                <Trans>{titleOf(row.document)} (our own)</Trans>
              </option>
            ))}
          </select>
        </label>
        <Button kind="outline" onClick={() => setLooking(true)}>
          <Trans>Find it by looking</Trans>
        </Button>
      </div>
      {known?.choices.map((choice) => (
        <Choice
          key={choice.name}
          title={choice.asks}
          options={choice.answers.map((answer) => [answer.code, answer.text] as const)}
          value={chosen.variant[choice.name] ?? choice.answers[0]?.code ?? ''}
          onChange={(answer) =>
            onChange({ ...chosen, variant: { ...chosen.variant, [choice.name]: answer } })
          }
        />
      ))}
      {looking && (
        <Suspense>
          <Recognise
            onClose={() => setLooking(false)}
            answers={answers}
            onAnswer={setAnswers}
            onChoose={(layout, variant) => {
              onChange({ layout, variant })
              setLooking(false)
            }}
          />
        </Suspense>
      )}
    </div>
  )
}
