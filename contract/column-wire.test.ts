import { RecordBatchStreamWriter, tableFromIPC } from 'apache-arrow'
import fc from 'fast-check'
import type { Cell } from '@dime-gate/core/table/cells'
import { decimalAt, numberColumn } from '@dime-gate/core/table/number-column'
import { plain } from '@dime-gate/core/value/number'
import { type ColumnBatch, columnFromTable, columnToBatch, columnWireSchema, runFromTable, runToBatch, runWireSchema } from './column-wire'

const cell: fc.Arbitrary<Cell> = fc.oneof(
  { weight: 5, arbitrary: fc.integer({ min: -999, max: 999 }).map((units) => plain(String(units / 8))) },
  fc.constantFrom('0.30000000000000000001', '12345678901234567890'),
  fc.constant(null),
  fc.constantFrom('n/a', '35 cm', 'caf\u00e9', '').map((unreadable) => ({ unreadable })),
)

async function sent(batches: ColumnBatch[]) {
  const writer = new RecordBatchStreamWriter()
  writer.reset(undefined, columnWireSchema)
  for (const batch of batches) writer.write(columnToBatch(batch))
  writer.close()
  return columnFromTable(tableFromIPC(await writer.toUint8Array()))
}

test('a column arrives as it was sent: values to the last digit, blanks and unreadable texts', async () => {
  await fc.assert(fc.asyncProperty(fc.array(cell, { maxLength: 100 }), async (cells) => {
    const column = numberColumn(cells)
    const arrived = await sent([{ records: Int32Array.from(cells, (_, at) => at + 1), column }])
    expect([...arrived.records]).toEqual(cells.map((_, at) => at + 1))
    expect(cells.map((_, at) => decimalAt(arrived.column, at))).toEqual(cells.map((_, at) => decimalAt(column, at)))
    expect([...arrived.column.unreadable]).toEqual([...column.unreadable])
  }), { numRuns: 60 })
})

test('batches join at whole words', async () => {
  const part = (cells: Cell[], first: number): ColumnBatch => ({ records: Int32Array.from(cells, (_, at) => first + at), column: numberColumn(cells) })
  const cells = Array.from({ length: 64 }, (_, at): Cell => (at % 5 === 0 ? null : String(at)))
  const { records, column } = await sent([part(cells, 1), part(cells.slice(0, 7), 65)])
  expect(records.at(-1)).toBe(71)
  expect([0, 1, 63, 64, 65, 70].map((at) => decimalAt(column, at))).toEqual([null, '1', '63', null, '1', '6'])
})

test('a run arrives with its decisions', async () => {
  const writer = new RecordBatchStreamWriter()
  writer.reset(undefined, runWireSchema)
  writer.write(runToBatch({ records: Int32Array.of(4, 9), column: numberColumn(['1', null]), status: Uint8Array.of(0, 2), band: Int16Array.of(3, -1), cut: Int16Array.of(-1, -1) }))
  writer.close()
  const run = runFromTable(tableFromIPC(await writer.toUint8Array()))
  expect([[...run.records], [...run.status], [...run.band], [...run.cut]]).toEqual([[4, 9], [0, 2], [3, -1], [-1, -1]])
})
