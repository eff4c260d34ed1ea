import fc from 'fast-check'
import type { Cell } from './cells'
import { replaceCells } from './replace-cells'
import { columnOf } from './table'

const blank = fc.constant(null)
const unreadable = fc.constantFrom('n/a', 'soon').map((text) => ({ unreadable: text }))
const KINDS = [
  ['number', fc.oneof(fc.constantFrom('0', '7', '-2.5', '0.30000000000000000001', '12345678901234567890.5'), blank, unreadable)],
  ['date', fc.oneof(fc.constantFrom('2026-03-02', '2025-01-01', '2024-02-29', '1999-12-31'), blank, unreadable)],
  ['text', fc.oneof(fc.constantFrom('oak', 'ash', 'lime', 'Lime'), blank)],
] as const

test.each(KINDS)('a column of kind %s in which cells are replaced is the one made of all of its cells', (kind, cell: fc.Arbitrary<Cell>) => {
  fc.assert(
    fc.property(fc.array(cell, { minLength: 1, maxLength: 70 }), fc.array(fc.tuple(fc.nat(), cell), { maxLength: 12 }), (cells, changes) => {
      const column = columnOf(kind, cells)
      const before = structuredClone({ unreadable: column.unreadable, ...(column.kind === 'number' ? { doubles: column.doubles, words: column.valid.words } : { codes: column.codes }) })
      const wanted = new Map(changes.map(([at, one]) => [at % cells.length, one]))
      expect(replaceCells(column, [...wanted.keys()], [...wanted.values()])).toEqual(columnOf(kind, cells.map((one, at) => (wanted.has(at) ? wanted.get(at)! : one))))
      expect(column).toMatchObject({ unreadable: before.unreadable, ...('codes' in before ? { codes: before.codes } : { doubles: before.doubles, valid: { words: before.words } }) })
    }),
  )
})
