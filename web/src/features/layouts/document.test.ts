import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import {
  documentOf,
  fastenersOf,
  fastenersText,
  needsOf,
  needsText,
  newRow,
  rowsOf,
  wiresOf,
  wiresText,
} from './document'

const DOCUMENT = {
  format: 'warm-draft/layout',
  version: 1,
  name: 'x',
  title: 'A layout',
  driver_change_minutes: 0.4,
  'x-own': 1,
  operations: [
    {
      id: 'top',
      does: 'Top off',
      open_minutes: 1,
      close_minutes: 2,
      driver: null,
      needs: [],
      reaches: [],
      fasteners: [],
      area: 'top',
    },
    {
      id: 'wheel',
      does: 'Wheel off',
      open_minutes: 3,
      close_minutes: 4,
      driver: 'hex-1/4',
      needs: [['top', 'back'], ['belt']],
      reaches: ['blower_wheel', 'motor'],
      fasteners: [
        { kind: 'hex head', count: 4, state: 'out', length: { value: 16, unit: 'mm' }, finish: 'zinc' },
        { kind: 'clamp screw', count: 1, state: 'loosened' },
      ],
      wires: [{ device: 'motor', terminal: 'frame', colour: 'green', ground: true }],
      cautions: ['Edges.', 'Spring: pinch.'],
      close_before: ['top'],
      check: ['No wobble.'],
    },
  ],
}

/** Every layout of ours in every variant, as the core gives it. */
const SHIPPED = execFileSync(
  process.env.WARM_PYTHON ?? join('..', '.venv', 'bin', 'python'),
  [
    '-c',
    `
import itertools, json
from warmdraft.teardown import choices_of, layout_document, layout_names
for name in layout_names():
    dims = [[("energy", e) for e in ("electric", "gas")], [("supply", s) for s in ("plug", "hard_wired")]]
    dims += [[(choice.name, answer) for answer in choice.answers] for choice in choices_of(name)]
    for chosen in itertools.product(*dims):
        print(json.dumps(layout_document(name, frozenset(chosen))))
`,
  ],
  { env: { ...process.env, PYTHONPATH: join('..', 'core') }, encoding: 'utf8', maxBuffer: 1e8 },
)
  .trim()
  .split('\n')
  .map((line) => JSON.parse(line) as { name: string; title: string; operations: Record<string, unknown>[] })

describe('every layout of ours', () => {
  it('goes to rows and back without losing anything', () => {
    expect(SHIPPED.length).toBeGreaterThan(32)
    for (const layout of SHIPPED) expect(documentOf(layout, layout.title, rowsOf(layout))).toEqual(layout)
  })

  it('goes from rows to a document and back', () => {
    for (const layout of SHIPPED) {
      const rows = rowsOf(layout)
      expect(rowsOf(documentOf(layout, layout.title, rows))).toEqual(rows)
    }
  })

  it('keeps all else where one thing is changed', () => {
    for (const layout of SHIPPED) {
      const rows = rowsOf(layout).map((row, i) =>
        i === 3 ? { ...row, open: '9', does: 'Another way' } : row,
      )
      const wanted = layout.operations.map((op, i) =>
        i === 3 ? { ...op, open_minutes: 9, does: 'Another way' } : op,
      )
      expect(documentOf(layout, layout.title, rows)).toEqual({ ...layout, operations: wanted })
    }
  })
})

describe('a layout as a table', () => {
  it('goes to rows and back without losing anything', () => {
    expect(documentOf(DOCUMENT, 'A layout', rowsOf(DOCUMENT))).toEqual(DOCUMENT)
  })

  it('reads an AND of ORs as people type it', () => {
    expect(needsText([['a', 'b'], ['c']])).toBe('a | b, c')
    expect(needsOf(' a|b , c, ')).toEqual([['a', 'b'], ['c']])
    expect(needsOf('')).toEqual([])
  })

  it.each([
    ['12 hex head 10 mm', [{ kind: 'hex head', count: 12, state: 'out', length: { value: 10, unit: 'mm' } }]],
    ['2 clamp screw loosened', [{ kind: 'clamp screw', count: 2, state: 'loosened' }]],
    ['nut', [{ kind: 'nut', count: 1, state: 'out' }]],
    ['', []],
  ])('reads fasteners: %s', (typed, fasteners) => {
    expect(fastenersOf(typed, [])).toEqual(fasteners)
    if (typed.match(/^\d/)) expect(fastenersText(fasteners)).toBe(typed)
  })

  it('keeps what the table does not show of a fastener', () => {
    const before = DOCUMENT.operations[1]?.fasteners
    expect(fastenersOf('5 hex head 16 mm', before)).toEqual([
      { kind: 'hex head', count: 5, state: 'out', length: { value: 16, unit: 'mm' }, finish: 'zinc' },
    ])
  })

  it('reads wires by device, terminal and colour', () => {
    const wires = [
      { device: 'motor', terminal: 'plug', colour: 'white' },
      { device: 'motor', terminal: 'frame', colour: 'green', ground: true },
    ]
    expect(wiresOf(wiresText(wires))).toEqual(wires)
  })

  it('keeps two of a kind apart', () => {
    const before = [
      { kind: 'hex_head', count: 2, state: 'out', length: { value: 10, unit: 'mm' }, finish: 'zinc' },
      { kind: 'hex_head', count: 2, state: 'out', length: { value: 16, unit: 'mm' }, hidden: 'one below' },
    ]
    expect(fastenersOf(fastenersText(before), before)).toEqual(before)
    expect(fastenersOf('2 hex_head 16 mm, 3 hex_head 10 mm', before)).toEqual([
      before[1],
      { ...before[0], count: 3 },
    ])
  })

  it('begins a new operation empty, and the server says what is missing', () => {
    const rows = [...rowsOf(DOCUMENT), newRow(3)]
    const { operations } = documentOf(DOCUMENT, 'A layout', rows) as { operations: { id: string }[] }
    expect(operations.map((row) => row.id)).toEqual(['top', 'wheel', 'step_3'])
  })
})
