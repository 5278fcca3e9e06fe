import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Compartment, CountIn, Fastener, Job, UsedPart, Wire } from '../../api/types'
import { count } from '../../api/writes'
import { useSignedIn } from '../../app/signedIn'
import { canUndo } from '../../app/undo'
import { Button } from '../../ui/Button'
import { Key } from '../../ui/Key'
import { colourOf, countsAround, nameOf, recountWords } from './bench'
import { ColourBar } from './ColourBar'

export type Said = Pick<CountIn, 'step' | 'what' | 'key' | 'state'> & { count?: number; note?: string }

/**
 * Say something of one thing at the bench, with what takes it back. undo: what it was before, and what to call it where
 * taking it back is offered.
 */
export function say(job: string, said: Said, undo?: { says: string; state: string; count?: number }): void {
  const body = { count: 1, note: '', ...said }
  void count(job, body)
  if (undo)
    canUndo(job, {
      says: undo.says,
      run: () => void count(job, { ...body, state: undo.state, count: undo.count ?? 1, note: '' }),
    })
}

/** How many came out, or went back: by thumb, or by a digit while it is asked. */
export function CountRow({
  job,
  place,
  row,
  closing,
  asked,
  onAsk,
}: {
  job: Job
  place: Compartment
  row: Fastener
  closing: boolean
  asked: boolean
  onAsk: () => void
}) {
  const [more, setMore] = useState(false)
  const loosened = row.state === 'loosened'
  // a step with this one kind only names it above
  const alone = place.fasteners.length === 1
  const state = closing ? (loosened ? 'tight' : 'back') : row.state
  const expected = closing ? row.came - row.moved - row.replaced - row.missing : row.expected
  const now = closing ? row.back : row.came
  const said = closing ? (loosened ? row.back > 0 : false) : row.counted
  const question = closing
    ? loosened
      ? t`How many are tight again?`
      : t`How many went back?`
    : loosened
      ? t`How many did you loosen?`
      : t`How many came out?`
  const choices = more ? Array.from({ length: 21 }, (_, i) => i) : countsAround(expected)
  const set = (number: number) => {
    say(
      job.id,
      { step: place.step, what: 'fastener', key: row.key, state, count: number },
      { says: row.text, state, count: said ? now : closing && loosened ? 0 : expected },
    )
    setMore(false)
  }
  const trouble = closing ? null : recountWords(row)
  const left = closing && row.left !== 0 && (loosened ? row.back > 0 : row.back !== expected)
  return (
    <fieldset className="mt-3">
      <legend className="text-sm">
        {question} <span className={alone ? 'sr-only' : 'text-soft'}>{row.text}</span>{' '}
        {!asked && (
          <button type="button" className="sr-only" onClick={onAsk}>
            <Trans>Count with the number keys</Trans>
          </button>
        )}
        {asked ? <Key>0–9</Key> : <Key>c</Key>}
      </legend>
      <div data-act className="mt-1 flex flex-wrap gap-2">
        {choices.map((number) => (
          <button
            key={number}
            type="button"
            className="chip min-w-[3.25rem] justify-center text-xl font-bold"
            aria-pressed={said ? number === now : !(closing && loosened) && number === expected}
            aria-label={`${number} ${loosened ? (closing ? t`tight again` : t`loosened`) : closing ? t`back` : t`out`}`}
            onClick={() => set(number)}
          >
            {number}
          </button>
        ))}
        {!more && (
          <button
            type="button"
            className="chip min-w-[3.25rem] justify-center text-xl"
            aria-label={t`Another number`}
            onClick={() => setMore(true)}
          >
            +
          </button>
        )}
      </div>
      {trouble && (
        <p role="status" className="text-primary mt-2 font-bold">
          {trouble}
        </p>
      )}
      {left && (
        <p role="status" className="text-primary mt-2 font-bold">
          {row.left > 0
            ? t`${row.left} of ${row.came} not yet ${loosened ? t`tight` : t`back`}: they belong here.`
            : t`${-row.left} more than came out: whose is it?`}
        </p>
      )}
    </fieldset>
  )
}

/** A wire as a tag: its colour as a bar and as a word, its device, its terminal. */
export function Tag({ wire, small = false }: { wire: Wire; small?: boolean }) {
  const note = wire.notes.at(-1)
  return (
    <span className={`flex items-center gap-2 ${small ? 'text-sm' : ''}`}>
      <ColourBar colour={colourOf(wire)} className="h-8 w-2.5" />
      <span className="leading-tight">
        <b>{wire.device}</b>
        {wire.ground && t` ⏚ ground`}
        <span className="text-soft block">
          {wire.terminal} · {note?.text ?? wire.colour}
        </span>
      </span>
    </span>
  )
}

/** The wires of a step. Opening: a note of the colour seen where it differs. Closing: each on its terminal. */
export function WireRows({ job, place, closing }: { job: Job; place: Compartment; closing: boolean }) {
  const { step: at, wires } = place
  if (wires.length === 0) return null
  const on = (wire: Wire, is: boolean) =>
    say(
      job.id,
      { step: at, what: 'wire', key: wire.key, state: is ? 'on' : 'off' },
      { says: nameOf(wire), state: is ? 'off' : 'on' },
    )
  const plain = wires.filter((wire) => !wire.ground && wire.off)
  return (
    <div className="mt-3">
      <p className="text-sm">
        {closing
          ? t`Each wire on its terminal:`
          : t`Wires that come off (colour is what you see, not what tells them):`}
      </p>
      <ul className="mt-1 grid gap-2 sm:grid-cols-2">
        {wires.map((wire) => (
          <li
            key={wire.key}
            className={`flex items-center justify-between gap-2 rounded-xl border px-3 py-1.5 ${wire.contradicts ? 'border-primary border-2' : 'border-base-300'}`}
          >
            <Tag wire={wire} />
            {closing ? (
              <button
                type="button"
                className="chip"
                aria-pressed={!wire.off}
                aria-label={t`${nameOf(wire)}: on`}
                onClick={() => on(wire, wire.off)}
              >
                {wire.off ? t`On` : t`✓ on`}
              </button>
            ) : (
              <ColourNote job={job} at={at} wire={wire} />
            )}
          </li>
        ))}
      </ul>
      {closing && plain.length > 1 && (
        <Button
          kind="outline"
          className="mt-2"
          onClick={() => {
            for (const wire of plain) on(wire, true)
          }}
        >
          <Trans>All {plain.length} on by their tags</Trans>
        </Button>
      )}
      {wires.map(
        (wire) =>
          wire.contradicts && (
            <div key={wire.key} role="alert" className="border-primary mt-2 rounded-xl border-2 p-3">
              <p className="font-bold">
                <Trans>Two notes contradict: {nameOf(wire)}</Trans>
              </p>
              <Contradiction job={job} at={at} wire={wire} />
            </div>
          ),
      )}
    </div>
  )
}

function ColourNote({ job, at, wire }: { job: Job; at: string; wire: Wire }) {
  const { vocabulary } = useSignedIn()
  const [asking, setAsking] = useState(false)
  if (!asking)
    return (
      <Button
        kind="ghost"
        className="px-2 text-sm"
        aria-label={t`Another colour on ${nameOf(wire)}`}
        onClick={() => setAsking(true)}
      >
        <Trans>other colour</Trans>
      </Button>
    )
  return (
    <select
      className="field max-w-32"
      autoFocus
      aria-label={t`Colour seen on ${nameOf(wire)}`}
      defaultValue=""
      onChange={(event) => {
        say(job.id, { step: at, what: 'wire', key: wire.key, state: 'noted', note: event.target.value })
        setAsking(false)
      }}
    >
      <option value="" disabled>
        <Trans>colour seen</Trans>
      </option>
      {vocabulary.colours.map(({ code, text }) => (
        <option key={code} value={code}>
          {text}
        </option>
      ))}
    </select>
  )
}

/** Two notes that cannot both be right, side by side to choose from. */
export function Contradiction({ job, at, wire }: { job: Job; at: string; wire: Wire }) {
  const notes = [...new Map(wire.notes.map((note) => [note.colour.toLowerCase(), note])).values()]
  return (
    <div className="mt-2 grid grid-cols-2 gap-2">
      {notes.slice(-2).map((note) => (
        <Button
          key={note.colour}
          kind="outline"
          className="h-auto min-h-[54px] flex-col items-start gap-0 py-2"
          onClick={() =>
            say(job.id, {
              step: at,
              what: 'wire',
              key: wire.key,
              state: 'noted',
              count: 0,
              note: note.colour,
            })
          }
        >
          <span className="text-lg">{note.text}</span>
          <span className="text-left text-sm font-normal">
            <Trans>noted by {note.by || t`you`}; this is right</Trans>
          </span>
        </Button>
      ))}
    </div>
  )
}

/** Parts that have to be new, or that move to the new assembly. */
export function PartRows({ job, place }: { job: Job; place: Compartment }) {
  const { parts } = place
  if (parts.length === 0) return null
  return (
    <ul className="mt-3 grid gap-2">
      {parts.map((part) => (
        <li key={part.part} className="flex flex-wrap items-center gap-2">
          <span className="min-w-0 flex-1">
            <b>{part.text}</b>{' '}
            <span className="text-soft">{part.carried_over ? t`on the old part` : t`has to be new`}</span>
          </span>
          <PartWords job={job.id} at={place.step} part={part} />
        </li>
      ))}
    </ul>
  )
}

export function PartWords({ job, at, part }: { job: string; at: string; part: UsedPart }) {
  const choices = part.carried_over
    ? ([
        ['carried', t`moved to the new one`],
        ['stays', t`old part stays`],
      ] as const)
    : ([
        ['renewed', t`a new one is in`],
        ['not_needed', t`not needed here`],
      ] as const)
  if (part.settled)
    return (
      <button
        type="button"
        className="chip"
        aria-pressed="true"
        onClick={() => say(job, { step: at, what: 'part', key: part.part, state: 'unsaid' })}
      >
        <Trans>✓ said</Trans>
      </button>
    )
  return (
    <>
      {choices.map(([state, text]) => (
        <button
          key={state}
          type="button"
          className="chip"
          onClick={() =>
            say(job, { step: at, what: 'part', key: part.part, state }, { says: part.text, state: 'unsaid' })
          }
        >
          {text}
        </button>
      ))}
    </>
  )
}
