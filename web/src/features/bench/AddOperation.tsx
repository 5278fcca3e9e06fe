import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useRef, useState } from 'react'
import type { Job } from '../../api/types'
import { newId } from '../../api/uuid'
import { addOperation, markStep, withdraw } from '../../api/writes'
import { useAnswering } from '../../app/answering'
import { textOf, useSignedIn } from '../../app/signedIn'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { Trouble } from '../../ui/Trouble'
import { useWrite } from '../../ui/useWrite'

/** What a step put in is taken for, until the clock knows better, minutes. */
const MINUTES = 2
const FIND_WAY_IN = ['find_way_in'] as const
const FEW = ['0', '1', '2', '3', '4', '5', '6', '8', '10', '12']
type Wire = { device: string; terminal: string; colour: string }

/** What came off and stands in no layout, as a step of its own: named, counted, wired; it goes back in its turn. */
export function AddOperation({ job, after, byHand }: { job: Job; after: string | null; byHand: boolean }) {
  const { vocabulary } = useSignedIn()
  const [does, setDoes] = useState('')
  const [kind, setKind] = useState('hex_head')
  const [count, setCount] = useState('0')
  const [loose, setLoose] = useState(false)
  const [wires, setWires] = useState<Wire[]>([])
  const [reaches, setReaches] = useState<string[]>([])
  const { trouble, write } = useWrite()
  const field = useRef<HTMLInputElement>(null)
  useAnswering(FIND_WAY_IN, () => {
    const folded = field.current?.closest('details')
    if (folded) folded.open = true
    field.current?.focus()
  })
  // parts that the works want and nothing leads to yet
  const wanted = byHand ? job.works.unreached : []
  const fastener = vocabulary.fasteners.find((row) => row.code === kind)
  const save = async () => {
    const name = does.trim()
    if (!name) return
    const id = `own_${newId().slice(-12)}`
    const { id: fact, outcome } = addOperation(job.id, {
      operation: {
        id,
        does: name,
        open_minutes: MINUTES,
        close_minutes: MINUTES,
        driver: null,
        needs: [],
        reaches,
        fasteners:
          Number(count) > 0 ? [{ kind, count: Number(count), state: loose ? 'loosened' : 'out' }] : [],
        wires: wires.filter((wire) => wire.device.trim()),
      },
      after: after ?? '',
    })
    const step = { step: `open.${id}`, why: '' }
    void markStep(job.id, { ...step, state: 'done' })
    // at once: whoever types the next thing before this one is answered must not lose it
    setDoes('')
    setCount('0')
    setWires([])
    setReaches([])
    if (!(await write(outcome))) {
      setDoes((typed) => typed || name)
      return
    }
    canUndo(job.id, {
      says: name,
      run: () => {
        void markStep(job.id, { ...step, state: 'undone' })
        void withdraw(job.id, fact, true)
      },
    })
  }
  const change = (at: number, part: Partial<Wire>) =>
    setWires(wires.map((wire, i) => (i === at ? { ...wire, ...part } : wire)))
  return (
    <form
      className="border-base-300 mt-3 grid gap-3 rounded-xl border p-3"
      aria-label={t`What came off`}
      onSubmit={(event) => {
        event.preventDefault()
        void save()
      }}
    >
      <label className="block">
        <span className="font-bold">
          {byHand ? <Trans>What comes off next?</Trans> : <Trans>What else came off?</Trans>}
        </span>
        <input
          ref={field}
          className="field mt-1"
          value={does}
          maxLength={200}
          placeholder={t`as you would tell it: back panel off`}
          onChange={(event) => setDoes(event.target.value)}
        />
      </label>
      <div className="flex flex-wrap items-end gap-3">
        <Choice
          title={t`Screws`}
          options={FEW.map((number) => [number, number] as const)}
          value={count}
          onChange={setCount}
        />
        {Number(count) > 0 && (
          <>
            <label className="block">
              <span className="text-soft text-sm">
                <Trans>kind</Trans>
              </span>
              <select className="field" value={kind} onChange={(event) => setKind(event.target.value)}>
                {vocabulary.fasteners.map((row) => (
                  <option key={row.code} value={row.code}>
                    {row.many}
                  </option>
                ))}
              </select>
            </label>
            <button type="button" className="chip" aria-pressed={loose} onClick={() => setLoose(!loose)}>
              <Trans>only loosened</Trans>
            </button>
            <span className="sr-only">{fastener?.text}</span>
          </>
        )}
      </div>
      {wires.map((wire, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a wire is its place in the list
        <div key={i} className="grid grid-cols-3 gap-2">
          <input
            className="field"
            aria-label={t`Wire ${i + 1}: which part`}
            placeholder={t`part`}
            value={wire.device}
            maxLength={60}
            onChange={(event) => change(i, { device: event.target.value })}
          />
          <input
            className="field"
            aria-label={t`Wire ${i + 1}: which terminal`}
            placeholder={t`terminal`}
            value={wire.terminal}
            maxLength={60}
            onChange={(event) => change(i, { terminal: event.target.value })}
          />
          <select
            className="field"
            aria-label={t`Wire ${i + 1}: colour`}
            value={wire.colour}
            onChange={(event) => change(i, { colour: event.target.value })}
          >
            {vocabulary.colours.map((row) => (
              <option key={row.code} value={row.code}>
                {row.text}
              </option>
            ))}
          </select>
        </div>
      ))}
      <Button
        kind="ghost"
        className="-ml-3 justify-self-start"
        onClick={() => setWires([...wires, { device: '', terminal: t`plug`, colour: 'white' }])}
      >
        <Trans>+ wire</Trans>
      </Button>
      {wanted.length > 0 && (
        <fieldset>
          <legend className="font-bold">
            <Trans>Within reach now?</Trans>
          </legend>
          <div className="mt-1.5 flex flex-wrap gap-2">
            {wanted.map((part) => (
              <button
                key={part}
                type="button"
                className="chip"
                aria-pressed={reaches.includes(part)}
                onClick={() =>
                  setReaches(
                    reaches.includes(part) ? reaches.filter((other) => other !== part) : [...reaches, part],
                  )
                }
              >
                {vocabulary.acts.find((act) => act.part === part)?.part_text ?? textOf([], part)}
              </button>
            ))}
          </div>
        </fieldset>
      )}
      <p className="text-soft text-sm">
        <Trans>A photo first. Closing goes the other way round, with the same gate.</Trans>
      </p>
      <Trouble says={trouble} />
      <Button type="submit" kind="neutral" className="h-[54px] justify-self-start" disabled={!does.trim()}>
        <Trans>It is off</Trans>
      </Button>
    </form>
  )
}
