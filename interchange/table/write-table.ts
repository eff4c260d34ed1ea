/** The formats in which a table goes out. */
import { writeArrow } from '../keyed/write-arrow'
import { writeJson } from '../keyed/write-json'
import { writeOds } from '../sheet/write-ods'
import { MOST_SHEET_RECORDS, writeXlsx } from '../sheet/write-xlsx'
import type { OutRow, OutTable } from './out'

export const OUT_FORMATS = ['csv', 'xlsx', 'ods', 'json', 'jsonl', 'arrow'] as const
export type OutFormat = (typeof OUT_FORMATS)[number]
/** CSV is written by whoever has the texts as they were written. */
export type TypedFormat = Exclude<OutFormat, 'csv'>

export const MEDIA_TYPES: Record<OutFormat, string> = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  json: 'application/json; charset=utf-8',
  jsonl: 'application/jsonl; charset=utf-8',
  arrow: 'application/vnd.apache.arrow.stream',
}

/** Records that a file of the format can hold. */
export function mostRecords(format: OutFormat): number {
  return format === 'xlsx' || format === 'ods' ? MOST_SHEET_RECORDS : Infinity
}

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
