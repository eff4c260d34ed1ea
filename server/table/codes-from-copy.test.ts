import fc from 'fast-check'
import type { Cell } from '@dime-gate/core/table/cells'
import { dictionaryColumn } from '@dime-gate/core/table/dictionary-column'
import { CopiedRows } from '../database/copy-rows'
import { COPY_NULL, toCopyText } from '../database/copy-text'
import { codesFromCopy } from './codes-from-copy'

/** As COPY writes two fields a row. */
function rowsOf(fields: (string | null)[]): CopiedRows {
  const text = fields.map((field) => (field === null ? COPY_NULL : toCopyText(field)))
  const bytes = Buffer.from(text.map((field, at) => `${field}${at % 2 === 0 ? '\t' : '\n'}`).join(''))
  const ends: number[] = []
  bytes.forEach((byte, at) => (byte === 9 || byte === 10) && ends.push(at))
  return new CopiedRows(bytes, fields.length / 2, 2, Uint32Array.from(ends))
}

const cell = fc.oneof(
  { weight: 6, arbitrary: fc.constantFrom('school', 'verge', 'ä', 'äé', '', '\\', 'a\tb', 'a\nb', '\\N', 'x'.repeat(40)) },
  { weight: 2, arbitrary: fc.string() },
  { weight: 1, arbitrary: fc.constant(null) },
  { weight: 1, arbitrary: fc.constant({ unreadable: 'n/a' }) },
)

test('codes, texts and what was unreadable are those of the cells', () =>
  fc.assert(
    fc.property(fc.array(cell, { maxLength: 300 }), (cells: Cell[]) => {
      const fields = cells.flatMap((one) => (typeof one === 'string' ? [one, null] : one === null ? [null, null] : [null, one.unreadable]))
      expect(codesFromCopy('text', rowsOf(fields), 0, 1)).toEqual(dictionaryColumn('text', cells))
    }),
  ))

test('very many different values keep their numbers', () => {
  const cells = Array.from({ length: 20_000 }, (_, at) => `value ${at % 9000}`)
  const column = codesFromCopy('text', rowsOf(cells.flatMap((text) => [text, null])), 0, null)
  expect(column.texts).toHaveLength(9000)
  expect(Array.from(column.codes.subarray(17_990, 18_010))).toEqual(Array.from({ length: 20 }, (_, at) => (17_990 + at) % 9000))
})

test('truth is told in whole words', () => {
  expect(codesFromCopy('boolean', rowsOf(['t', null, 'f', null, null, null]), 0, 1)).toMatchObject({ texts: ['true', 'false'], values: [true, false], codes: Int32Array.of(0, 1, -1) })
})
