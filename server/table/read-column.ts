/** A number column of a table, read out of its relation in batches and joined as core works on it. */
import { to as copyTo } from 'pg-copy-streams'
import { BATCH_RECORDS, type ColumnBatch } from '@dime-gate/contract/column-wire'
import type { NumberCell } from '@dime-gate/core/table/number-column'
import { numberColumn } from '@dime-gate/core/table/number-column'
import type { Connection } from '../database/database'
import { copyLines, fromCopyText } from './copy-text'
import { isUnreadable, relationOf, valueOf, writtenOf } from './relation'

/** Batches of BATCH_RECORDS records, the last one shorter, in record order. */
export async function* columnBatches(connection: Connection, tableId: number, columnId: number): AsyncGenerator<ColumnBatch> {
  const sql = `
    copy (select record, ${valueOf(columnId)}, case when ${isUnreadable(columnId)} then ${writtenOf(columnId)} end
          from ${relationOf(tableId)} order by record) to stdout`
  for await (const lines of batched(copyLines(connection.query(copyTo(sql))))) {
    yield {
      records: Int32Array.from(lines, (fields) => Number(fields[0])),
      column: numberColumn(lines.map((fields) => numberCell(fields[1]!, fields[2]!))),
    }
  }
}

export function numberCell(value: string, unreadable: string): NumberCell {
  const text = fromCopyText(unreadable)
  return text === null ? fromCopyText(value) : { unreadable: text }
}

/** Regroups lines into batches; a table without records gives one empty batch. */
export async function* batched(pieces: AsyncIterable<string[][]>): AsyncGenerator<string[][]> {
  let waiting: string[][] = []
  let any = false
  for await (const piece of pieces) {
    waiting = waiting.concat(piece)
    while (waiting.length >= BATCH_RECORDS) {
      any = true
      yield waiting.splice(0, BATCH_RECORDS)
    }
  }
  if (waiting.length > 0 || !any) yield waiting
}
