import { msg, t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { layoutDocument, useOwnLayouts } from '../../api/queries'
import type { Problem } from '../../api/types'
import { newId } from '../../api/uuid'
import { keepLayout } from '../../api/writes'
import { type Wording, worded } from '../../app/language'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { useKeys } from '../../app/useKeys'
import { Button } from '../../ui/Button'
import { FileButton } from '../../ui/FileButton'
import { Trouble } from '../../ui/Trouble'
import { documentOf, newRow, type Row, rowsOf, titleOf } from './document'

type Json = Record<string, unknown>
type Draft = { id: string; document: Json; title: string; rows: Row[] }

const draftOf = (id: string, document: Json): Draft => ({
  id,
  document,
  title: titleOf(document),
  rows: rowsOf(document),
})

/** Layouts of ours to start from, and the workshop's own: edited as a table, brought in and given out as files. */
export function LayoutsPage() {
  const { me, vocabulary } = useSignedIn()
  const own = useOwnLayouts()
  const navigate = useNavigate()
  const [draft, setDraft] = useState<Draft | null>(null)
  const [trouble, setTrouble] = useState<string | null>(null)
  const may = me.may.includes('keep_layouts')
  useKeys({ Escape: () => (draft ? setDraft(null) : void navigate('/jobs')) }, me.habits.single_keys)
  useEffect(() => {
    document.title = t`Layouts · Warm Draft`
  }, [])
  const start = async (name: string, id: string, mine: boolean) => {
    const from = await layoutDocument(name)
    setTrouble(null)
    setDraft(draftOf(id, mine ? from : { ...from, title: t`${titleOf(from)}, ours` }))
  }
  const bring = async (file: File) => {
    try {
      const brought = JSON.parse(await file.text()) as Json
      setDraft(draftOf(newId(), brought))
      setTrouble(null)
    } catch {
      setTrouble(t`${file.name} is no JSON; give a file that was saved from here, or one of its format.`)
    }
  }
  return (
    <>
      <TopBar>
        <h1 className="text-lg font-bold">
          <Trans>Layouts</Trans>
        </h1>
      </TopBar>
      <main className="mx-auto grid max-w-[1280px] grid-cols-[minmax(0,1fr)] gap-4 px-3 pt-4 pb-10 sm:px-6">
        {draft ? (
          <Editor key={draft.id} draft={draft} onClose={() => setDraft(null)} />
        ) : (
          <>
            <section className="card-paper p-4">
              <h2 className="text-xl font-bold">
                <Trans>The workshop's own</Trans>
              </h2>
              {own.data?.length === 0 && (
                <p className="mt-1">
                  <Trans>
                    None yet. Start from the nearest below and mend what differs, or bring in a file.
                  </Trans>
                </p>
              )}
              <ul className="mt-2 grid gap-2">
                {(own.data ?? []).map((row) => (
                  <li key={row.id} className="flex flex-wrap items-center gap-2">
                    <b className="flex-1">{titleOf(row.document)}</b>
                    <a
                      className="btn btn-ghost touch"
                      href={`/api/v1/layouts/${row.id}/file`}
                      download={`${titleOf(row.document)}.json`}
                    >
                      <Trans>Save as a file</Trans>
                    </a>
                    <Button kind="outline" onClick={() => void start(row.id, row.id, true)}>
                      <Trans>Edit</Trans>
                    </Button>
                  </li>
                ))}
              </ul>
              {may ? (
                <p className="mt-3">
                  <FileButton
                    text={t`Bring in a file`}
                    name={t`Layout file`}
                    accept="application/json,.json"
                    onFile={(chosen) => void bring(chosen)}
                  />
                </p>
              ) : (
                <p className="mt-2">{me.may_not.keep_layouts}</p>
              )}
              <Trouble says={trouble} />
            </section>
            <section className="card-paper p-4">
              <h2 className="text-xl font-bold">
                <Trans>Ours, to start from</Trans>
              </h2>
              <p className="text-soft">
                <Trans>
                  Makers, counts and minutes in them are ours; the maker's sheet of the machine before you
                  comes first.
                </Trans>
              </p>
              <ul className="mt-2 grid gap-2">
                {vocabulary.layouts.map((row) => (
                  <li key={row.code} className="flex flex-wrap items-center gap-2">
                    <span className="flex-1">
                      <b>{row.text}</b>{' '}
                      <span className="text-soft">
                        <Trans>such as {row.maker}</Trans>
                      </span>
                    </span>
                    <a
                      className="btn btn-ghost touch"
                      href={`/api/v1/layouts/${row.code}/file`}
                      download={`${row.code}.json`}
                    >
                      <Trans>Save as a file</Trans>
                    </a>
                    {may && (
                      <Button kind="outline" onClick={() => void start(row.code, newId(), false)}>
                        <Trans>Start from this</Trans>
                      </Button>
                    )}
                  </li>
                ))}
              </ul>
            </section>
          </>
        )}
      </main>
    </>
  )
}

const COLUMNS: readonly [keyof Omit<Row, 'before'>, Wording, string][] = [
  ['id', msg`Name`, 'w-36'],
  ['does', msg`What to do`, 'w-80'],
  ['open', msg`Open, min`, 'w-20'],
  ['close', msg`Close, min`, 'w-20'],
  ['driver', msg`Driver`, 'w-28'],
  ['needs', msg`After (a | b, c)`, 'w-56'],
  ['reaches', msg`Reaches`, 'w-56'],
  ['fasteners', msg`Fasteners (4 hex_head 16 mm, …)`, 'w-64'],
  ['wires', msg`Wires (device · terminal · colour; …)`, 'w-64'],
  ['cautions', msg`Cautions`, 'w-64'],
  ['closeBefore', msg`Back before`, 'w-40'],
]

/** An operation the server names in `$.document.operations[3].needs`. */
const rowNamed = (problem: Problem | null): number | null => {
  const found = /operations\[(\d+)\]/.exec(problem?.fields[0]?.path ?? '')
  return found ? Number(found[1]) : null
}

function Editor({ draft, onClose }: { draft: Draft; onClose: () => void }) {
  const [title, setTitle] = useState(draft.title)
  const [rows, setRows] = useState(draft.rows)
  const [problem, setProblem] = useState<Problem | null>(null)
  const wrong = rowNamed(problem)
  const set = (at: number, key: keyof Row, value: string) =>
    setRows(rows.map((row, i) => (i === at ? { ...row, [key]: value } : row)))
  const move = (at: number, by: number) => {
    const to = at + by
    const row = rows[at]
    if (!row || to < 0 || to >= rows.length) return
    const others = rows.filter((_, i) => i !== at)
    setRows([...others.slice(0, to), row, ...others.slice(to)])
  }
  const keep = async (removed: boolean) => {
    const outcome = await keepLayout(draft.id, documentOf(draft.document, title, rows), removed)
    if (outcome.state === 'refused') setProblem(outcome.problem)
    else onClose()
  }
  return (
    <section className="card-paper p-4">
      <div className="flex flex-wrap items-end gap-3">
        <label className="flex-1">
          <span className="font-bold">
            <Trans>What it is called</Trans>
          </span>
          <input
            className="field mt-1"
            value={title}
            maxLength={200}
            onChange={(e) => setTitle(e.target.value)}
          />
        </label>
        <Button kind="primary" className="h-[54px]" onClick={() => void keep(false)}>
          <Trans>Keep it</Trans>
        </Button>
        <Button kind="outline" className="h-[54px]" onClick={() => void keep(true)}>
          <Trans>Take it away</Trans>
        </Button>
        <Button kind="ghost" className="h-[54px]" onClick={onClose}>
          <Trans>Leave as it was</Trans>
        </Button>
      </div>
      {problem && (
        <p role="alert" className="text-error mt-2 font-bold">
          {wrong !== null && t`Row ${wrong + 1}: `}
          {problem.message}
        </p>
      )}
      <div className="mt-3 overflow-x-auto">
        <table className="text-sm">
          <thead>
            <tr>
              <th scope="col" className="px-1 text-left">
                #
              </th>
              {COLUMNS.map(([key, name]) => (
                <th key={key} scope="col" className="px-1 text-left">
                  {worded(name)}
                </th>
              ))}
              <th scope="col">
                <span className="sr-only">
                  <Trans>Order</Trans>
                </span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place; its name is being typed
              <tr key={at} className={at === wrong ? 'bg-[var(--wash)]' : ''}>
                <td className="px-1">{at + 1}</td>
                {COLUMNS.map(([key, name, width]) => (
                  <td key={key} className="px-1 py-0.5">
                    <input
                      className={`field min-h-11 ${width}`}
                      aria-label={t`${worded(name)}, row ${at + 1}`}
                      aria-invalid={at === wrong}
                      value={row[key]}
                      onChange={(event) => set(at, key, event.target.value)}
                    />
                  </td>
                ))}
                <td className="flex">
                  <Button
                    kind="ghost"
                    className="px-2"
                    aria-label={t`Row ${at + 1} up`}
                    onClick={() => move(at, -1)}
                  >
                    ↑
                  </Button>
                  <Button
                    kind="ghost"
                    className="px-2"
                    aria-label={t`Row ${at + 1} down`}
                    onClick={() => move(at, 1)}
                  >
                    ↓
                  </Button>
                  <Button
                    kind="ghost"
                    className="px-2"
                    aria-label={t`Row ${at + 1} out`}
                    onClick={() => setRows(rows.filter((_, i) => i !== at))}
                  >
                    ✕
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Button kind="outline" className="mt-2" onClick={() => setRows([...rows, newRow(rows.length + 1)])}>
        <Trans>One more operation</Trans>
      </Button>
    </section>
  )
}
