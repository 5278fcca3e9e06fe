/** A layout's document as the editor's rows, and back. What the editor does not show stays as it came. */

type Json = Record<string, unknown>
export type Row = {
  id: string
  does: string
  open: string
  close: string
  driver: string
  needs: string
  reaches: string
  fasteners: string
  wires: string
  cautions: string
  closeBefore: string
  /** Everything else of the operation. */
  rest: Json
}

const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : [])
const text = (value: unknown): string => (typeof value === 'string' ? value : '')
const names = (value: unknown) => list(value).map(text).filter(Boolean)

export const titleOf = (document: Json): string => text(document.title) || text(document.name) || 'unnamed'

/** "a | b, c": one of a or b, and c. */
export const needsText = (needs: unknown): string =>
  list(needs)
    .map((choice) => names(choice).join(' | '))
    .join(', ')
export const needsOf = (typed: string): string[][] =>
  typed
    .split(',')
    .map((choice) =>
      choice
        .split('|')
        .map((name) => name.trim())
        .filter(Boolean),
    )
    .filter((choice) => choice.length > 0)

/** "12 hex head 10 mm, 2 clamp screw loosened": count, kind, length, and whether they stay in. */
export function fastenersText(fasteners: unknown): string {
  return list(fasteners)
    .map((row) => {
      const { count, kind, state, length } = row as Json
      const size = length as { value: number; unit: string } | undefined
      return `${count} ${kind}${size ? ` ${size.value} ${size.unit}` : ''}${state === 'loosened' ? ' loosened' : ''}`
    })
    .join(', ')
}
export function fastenersOf(typed: string, before: unknown): unknown[] {
  const known = list(before) as Json[]
  return typed
    .split(',')
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => {
      const found = /^(\d+)\s*[×x]?\s*(.*?)(?:\s+([\d.]+)\s*(mm|in|cm))?(\s+loosened)?$/i.exec(part)
      const kind = found?.[2]?.trim() || part
      const old = known.find((row) => row.kind === kind)
      const { length: _length, ...rest } = old ?? {}
      return {
        ...rest,
        kind,
        count: Number(found?.[1] ?? 1),
        state: found?.[5] ? 'loosened' : 'out',
        ...(found?.[3] ? { length: { value: Number(found[3]), unit: found[4] ?? 'mm' } } : {}),
      }
    })
}

/** "motor · plug · white; motor · frame · green · ground". */
export const wiresText = (wires: unknown): string =>
  (list(wires) as Json[])
    .map((wire) =>
      [wire.device, wire.terminal, wire.colour, wire.ground ? 'ground' : ''].filter(Boolean).join(' · '),
    )
    .join('; ')
export const wiresOf = (typed: string): unknown[] =>
  typed
    .split(';')
    .map((wire) => wire.split(/\s*[·/]\s*/).map((part) => part.trim()))
    .filter(([device]) => device)
    .map(([device, terminal = '', colour = '', ground]) => ({
      device,
      terminal,
      colour,
      ...(ground ? { ground: true } : {}),
    }))

const SHOWN = [
  'id', 'does', 'open_minutes', 'close_minutes', 'driver', 'needs', 'reaches', 'fasteners', 'wires', 'cautions',
  'close_before',
] // biome-ignore format: a list of keys

export function rowsOf(document: Json): Row[] {
  return (list(document.operations) as Json[]).map((op) => ({
    id: text(op.id),
    does: text(op.does),
    open: String(op.open_minutes ?? ''),
    close: String(op.close_minutes ?? ''),
    driver: text(op.driver),
    needs: needsText(op.needs),
    reaches: names(op.reaches).join(', '),
    fasteners: fastenersText(op.fasteners),
    wires: wiresText(op.wires),
    cautions: names(op.cautions).join(' / '),
    closeBefore: names(op.close_before).join(', '),
    rest: Object.fromEntries(
      Object.entries(op).filter(([key]) => !SHOWN.includes(key) || key === 'fasteners'),
    ),
  }))
}

const split = (typed: string, by: string) =>
  typed
    .split(by)
    .map((part) => part.trim())
    .filter(Boolean)

/** The document with the rows as they are now; what is wrong with it the server says, by its place. */
export function documentOf(before: Json, title: string, rows: readonly Row[]): Json {
  return {
    ...before,
    title,
    operations: rows.map((row) => {
      const wires = wiresOf(row.wires)
      const cautions = split(row.cautions, ' / ')
      const closeBefore = split(row.closeBefore, ',')
      return {
        ...row.rest,
        id: row.id.trim(),
        does: row.does,
        open_minutes: Number(row.open),
        close_minutes: Number(row.close),
        driver: row.driver.trim() || null,
        needs: needsOf(row.needs),
        reaches: split(row.reaches, ','),
        fasteners: fastenersOf(row.fasteners, row.rest.fasteners),
        ...(wires.length > 0 ? { wires } : {}),
        ...(cautions.length > 0 ? { cautions } : {}),
        ...(closeBefore.length > 0 ? { close_before: closeBefore } : {}),
      }
    }),
  }
}

export const newRow = (number: number): Row => ({
  id: `step_${number}`,
  does: '',
  open: '1',
  close: '1',
  driver: '',
  needs: '',
  reaches: '',
  fasteners: '',
  wires: '',
  cautions: '',
  closeBefore: '',
  rest: {},
})
