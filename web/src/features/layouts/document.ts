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
  /** The operation as it came: what the table does not show stays. */
  before: Json
}

const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : [])
const text = (value: unknown): string => (typeof value === 'string' ? value : '')
const split = (typed: string, by: string) =>
  typed
    .split(by)
    .map((part) => part.trim())
    .filter(Boolean)
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

type Size = { value: number; unit: string }
type FastenerRow = Json & { kind: string; count: number; state: string; length?: Size }

const sizeText = (size: Size | undefined) => (size ? ` ${size.value} ${size.unit}` : '')

/** "12 hex_head 10 mm, 2 clamp_screw loosened": count, kind, length, and whether they stay in. */
export const fastenersText = (fasteners: unknown): string =>
  (list(fasteners) as FastenerRow[])
    .map(
      ({ count, kind, state, length }) =>
        `${count} ${kind}${sizeText(length)}${state === 'loosened' ? ' loosened' : ''}`,
    )
    .join(', ')

const typedFastener = (part: string): FastenerRow => {
  const found = /^(\d+)\s*[×x]?\s*(.*?)(?:\s+([\d.]+)\s*(mm|in|cm))?(\s+loosened)?$/i.exec(part)
  return {
    kind: found?.[2]?.trim() || part,
    count: Number(found?.[1] ?? 1),
    state: found?.[5] ? 'loosened' : 'out',
    ...(found?.[3] ? { length: { value: Number(found[3]), unit: found[4] ?? 'mm' } } : {}),
  }
}

/** What was typed, each with what the table does not show of the row it stands for: the likest one not yet taken. */
export function fastenersOf(typed: string, before: unknown): unknown[] {
  const known = list(before) as FastenerRow[]
  const taken = new Set<FastenerRow>()
  const wanted = split(typed, ',').map(typedFastener)
  const alike: ((row: FastenerRow, now: FastenerRow) => boolean)[] = [
    (row, now) => row.count === now.count && sizeText(row.length) === sizeText(now.length),
    (row, now) => sizeText(row.length) === sizeText(now.length),
    () => true,
  ]
  const rests = new Map<FastenerRow, Json>()
  for (const like of alike)
    for (const now of wanted) {
      if (rests.has(now)) continue
      const row = known.find((one) => !taken.has(one) && one.kind === now.kind && like(one, now))
      if (!row) continue
      taken.add(row)
      const { length: _, ...rest } = row
      rests.set(now, rest)
    }
  return wanted.map((now) => ({ ...rests.get(now), ...now }))
}

/** "motor · plug · white; motor · frame · green · ground". */
export const wiresText = (wires: unknown): string =>
  (list(wires) as Json[])
    .map((wire) =>
      [wire.device, wire.terminal, wire.colour, wire.ground ? 'ground' : ''].filter(Boolean).join(' · '),
    )
    .join('; ')
export const wiresOf = (typed: string): unknown[] =>
  split(typed, ';')
    .map((wire) => (wire.includes('·') ? split(wire, '·') : split(wire, '/')))
    .filter(([device]) => device)
    .map(([device, terminal = '', colour = '', ground]) => ({
      device,
      terminal,
      colour,
      ...(ground ? { ground: true } : {}),
    }))

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
    before: op,
  }))
}

/** Lists that an operation may leave out: they are written where they say something, or stood there empty. */
const ifAny = (before: Json, key: string, now: unknown[]): Json =>
  now.length > 0 || key in before ? { [key]: now } : {}

/** The document with the rows as they are now; what is wrong with it the server says, by its place. */
export function documentOf(before: Json, title: string, rows: readonly Row[]): Json {
  return {
    ...before,
    title,
    operations: rows.map((row) => ({
      ...row.before,
      id: row.id.trim(),
      does: row.does,
      open_minutes: Number(row.open),
      close_minutes: Number(row.close),
      driver: row.driver.trim() || null,
      needs: needsOf(row.needs),
      reaches: split(row.reaches, ','),
      fasteners: fastenersOf(row.fasteners, row.before.fasteners),
      ...ifAny(row.before, 'wires', wiresOf(row.wires)),
      ...ifAny(row.before, 'cautions', split(row.cautions, ' / ')),
      ...ifAny(row.before, 'close_before', split(row.closeBefore, ',')),
    })),
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
  before: {},
})
