import { type RecordBatch, RecordBatchStreamWriter, type Schema, type Table, tableFromIPC } from 'apache-arrow'
import fc from 'fast-check'
import type { Cell } from '@dime-gate/core/table/cells'
import { decimalAt, type NumberColumn } from '@dime-gate/core/table/number-column'
import { columnOf, valueAt } from '@dime-gate/core/table/table'
import { plain } from '@dime-gate/core/value/number'
import { textOfValue } from '@dime-gate/core/value/value-text'
import type { ValueKind } from '@dime-gate/core/value/value'
import { columnEncoder, columnFromTable, columnSchemaOf, decisionsFromTable, decisionSchema, decisionsToBatch } from './column-wire'

const number: fc.Arbitrary<Cell> = fc.oneof(
  { weight: 5, arbitrary: fc.integer({ min: -999, max: 999 }).map((units) => plain(String(units / 8))) },
  fc.constantFrom('0.30000000000000000001', '12345678901234567890'),
)
const cellsOf = (value: fc.Arbitrary<Cell>) => fc.array(fc.oneof({ weight: 5, arbitrary: value }, fc.constant(null), fc.constantFrom('n/a', '35 cm', 'caf\u00e9', '').map((unreadable) => ({ unreadable }))), { maxLength: 100 })

async function stream(schema: Schema, batches: RecordBatch[]): Promise<Table> {
  const writer = new RecordBatchStreamWriter()
  writer.reset(undefined, schema)
  for (const batch of batches) writer.write(batch)
  writer.close()
  return tableFromIPC(await writer.toUint8Array())
}

async function sent(kind: ValueKind, parts: Cell[][]) {
  const encode = columnEncoder()
  let first = 1
  const batches = parts.map((cells) => {
    const records = Int32Array.from(cells, (_, at) => first + at)
    first += cells.length
    return encode({ records, column: columnOf(kind, cells) })
  })
  return columnFromTable(await stream(columnSchemaOf(kind), batches), kind)
}

test('numbers arrive as they were sent: values to the last digit, blanks and unreadable texts', async () => {
  await fc.assert(fc.asyncProperty(cellsOf(number), async (cells) => {
    const column = columnOf('number', cells) as NumberColumn
    const arrived = await sent('number', [cells])
    expect([...arrived.records]).toEqual(cells.map((_, at) => at + 1))
    expect(cells.map((_, at) => decimalAt(arrived.column as NumberColumn, at))).toEqual(cells.map((_, at) => decimalAt(column, at)))
    expect([...arrived.column.unreadable]).toEqual([...column.unreadable])
  }), { numRuns: 60 })
})

test('batches join at whole words', async () => {
  const cells = Array.from({ length: 64 }, (_, at): Cell => (at % 5 === 0 ? null : String(at)))
  const { records, column } = await sent('number', [cells, cells.slice(0, 7)])
  expect(records.at(-1)).toBe(71)
  expect([0, 1, 63, 64, 65, 70].map((at) => decimalAt(column as NumberColumn, at))).toEqual([null, '1', '63', null, '1', '6'])
})

test('texts arrive as they were sent, each once, in whatever batch it stands', async () => {
  await fc.assert(fc.asyncProperty(cellsOf(fc.constantFrom('oak', 'ash', '', 'no\u00ebl')), cellsOf(fc.constantFrom('oak', 'elm', 'ash')), async (one, other) => {
    const cells = [...one, ...one.slice(0, 3), ...other]
    const { column } = await sent('text', [one, one.slice(0, 3), other])
    const expected = columnOf('text', cells)
    expect(cells.map((_, at) => valueAt(column, at))).toEqual(cells.map((_, at) => valueAt(expected, at)))
    expect([...column.unreadable]).toEqual([...expected.unreadable])
    expect('texts' in column && column.texts.length).toBe(new Set(cells.filter((cell) => typeof cell === 'string')).size)
  }), { numRuns: 60 })
})

test('days arrive as days', async () => {
  const { column } = await sent('date', [['2026-03-02', null], ['2026-03-02', '2025-12-31']])
  expect([0, 1, 2, 3].map((at) => textOfValue(valueAt(column, at)))).toEqual(['2026-03-02', '', '2026-03-02', '2025-12-31'])
})

test('decisions arrive as they were sent', async () => {
  const run = decisionsFromTable(await stream(decisionSchema, [decisionsToBatch({ records: Int32Array.of(4, 9), status: Uint8Array.of(0, 2), rule: Int32Array.of(3, -1) })]))
  expect([[...run.records], [...run.status], [...run.rule]]).toEqual([[4, 9], [0, 2], [3, -1]])
})
