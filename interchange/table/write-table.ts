/** A table in the format that is asked for. */
import { writeArrow } from '../keyed/write-arrow'
import { writeJson } from '../keyed/write-json'
import { writeOds } from '../sheet/write-ods'
import { writeXlsx } from '../sheet/write-xlsx'
import type { OutRow, OutTable } from './out'
import type { TypedFormat } from './out-formats'

export function writeTable(format: TypedFormat, table: OutTable, rows: AsyncIterable<readonly OutRow[]>): AsyncGenerator<Uint8Array> {
  switch (format) {
    case 'xlsx':
      return writeXlsx(table, rows)
    case 'ods':
      return writeOds(table, rows)
    case 'json':
    case 'jsonl':
      return writeJson(table, rows, format === 'jsonl')
    case 'arrow':
      return writeArrow(table, rows)
  }
}
