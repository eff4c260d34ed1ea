/** What long answers are made of, and how: in a thread, into an open file. */
import { columnEncoder, columnSchemaOf, decisionSchema, decisionsToBatch } from '@dime-gate/contract/column-wire'
import type { Listing } from '@dime-gate/contract/change'
import type { ExceptionListing } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import type { FirstRecordsRequest } from '@dime-gate/contract/run-records'
import { type Column, isComputed, type Table } from '@dime-gate/contract/table'
import type { OutFormat } from '@dime-gate/interchange/table/out-formats'
import { writeTable } from '@dime-gate/interchange/table/write-table'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { type Connection, whileReading } from '../database/database'
import { type MovedTable, movedTable } from '../comparison/moved-table'
import { pieceWriter } from '../file/write-pieces'
import { exceptionOrder } from '../review/exception-order'
import { firstRecords } from '../run/first-records'
import { labelledCsv } from '../run/labelled-csv'
import { labelledTable } from '../run/labelled-table'
import { highlightCounts } from '../run/run-highlights'
import { decisionBatches, runColumnBatches } from '../run/run-columns'
import { tableCsv } from '../table/csv-pieces'
import { listedRecords } from '../table/listing'
import { outColumns, outField, outRows } from '../table/out-rows'
import { columnBatchesOf } from '../table/column-batches'
import { recordsWithFigures } from '../table/relation'
import type { OnTask } from '../threads/serve-tasks'
import { arrowPieces, arrowStream } from './arrow-pieces'

export type Answer =
  /** As many files as there are columns. @property asOf what counts as today, where one is a figure */
  | { kind: 'columns'; table: Table; columns: Column[]; asOf: string }
  | { kind: 'decisions'; runId: number }
  /** A column of the table that a run was made of, as it was then. */
  | { kind: 'column of a run'; run: Run; column: Column }
  | { kind: 'labelled'; run: Run; highlights: Highlight[]; format: OutFormat }
  /** How many records meet each highlight. */
  | { kind: 'highlighted'; run: Run; highlights: Highlight[] }
  /** @property runs those that are asked for, in their order */
  | { kind: 'exceptions'; runs: number[]; listing: ExceptionListing }
  | { kind: 'first records'; run: Run; request: FirstRecordsRequest }
  | { kind: 'moved'; moved: MovedTable; format: OutFormat }
  | { kind: 'table'; table: Table; format: OutFormat }
  /** @property from as SQL, with all these columns */
  | { kind: 'listing'; columns: Column[]; from: string; listing: Listing }

export interface AnswerTask {
  kind: 'answer'
  /** The numbers of the open files that it is written to. */
  fds: number[]
  answer: Answer
}

/** Which of the files, and how many bytes are in it by now. */
export type Grown = [file: number, size: number]

/** Bytes after which the reader is told that there is more. */
const PIECE = 1 << 16

/** Tells how many bytes are written. */
export async function makeAnswer({ fds, answer }: AnswerTask, { database, say, signal }: OnTask<Grown>): Promise<void> {
  await whileReading(database, async (connection) => {
    // The order in which the records lie, by one process, takes the least of the machine.
    if (answer.kind === 'columns' && !answer.columns.some(isComputed)) await connection.query('set local max_parallel_workers_per_gather = 0; set local enable_sort = off')
    const files = fds.map((fd) => ({ ...pieceWriter(fd), told: 0 }))
    for await (const [at, piece] of answer.kind === 'columns' ? columnPieces(connection, answer) : intoOne(piecesOf(answer, connection))) {
      if (signal.aborted) throw new Error('the reader has gone')
      const file = files[at]!
      file.write(piece)
      if (file.size() - file.told < PIECE) continue
      say([at, (file.told = file.size())])
    }
    files.forEach((file, at) => say([at, file.size()]))
  })
}

type PieceOfFile = [file: number, piece: Uint8Array]

async function* intoOne(pieces: AsyncIterable<Uint8Array>): AsyncGenerator<PieceOfFile> {
  for await (const piece of pieces) yield [0, piece]
}

async function* columnPieces(connection: Connection, { table, columns, asOf }: Answer & { kind: 'columns' }): AsyncGenerator<PieceOfFile> {
  const streams = columns.map(({ type }) => ({ ...arrowStream(columnSchemaOf(kindOfColumn(type))), encode: columnEncoder() }))
  for await (const batches of columnBatchesOf(connection, table, columns, asOf)) for (const [at, { bytesOf, encode }] of streams.entries()) for (const piece of bytesOf(encode(batches[at]!))) yield [at, piece]
  for (const [at, { end }] of streams.entries()) for (const piece of end()) yield [at, piece]
}

async function* tableFile(connection: Connection, table: Table, format: OutFormat): AsyncGenerator<Uint8Array> {
  if (format === 'csv') return yield* tableCsv(connection, table)
  const { name, columns } = table
  const relation = recordsWithFigures(table)
  yield* writeTable(
    format,
    { name, columns: await outColumns(connection, columns, relation) },
    outRows(connection, columns.map(outField), relation),
  )
}

function piecesOf(answer: Exclude<Answer, { kind: 'columns' }>, connection: Connection): AsyncIterable<Uint8Array> {
  switch (answer.kind) {
    case 'decisions':
      return arrowPieces(decisionSchema, decisionBatches(connection, answer.runId), decisionsToBatch)
    case 'column of a run':
      return arrowPieces(columnSchemaOf(kindOfColumn(answer.column.type)), runColumnBatches(connection, answer.run, answer.column.id), columnEncoder())
    case 'labelled':
      return answer.format === 'csv' ? labelledCsv(connection, answer.run, answer.highlights) : labelledTable(connection, answer.run, answer.highlights, answer.format)
    case 'highlighted':
      return highlightCounts(connection, answer.run, answer.highlights)
    case 'first records':
      return firstRecords(connection, answer.run, answer.request)
    case 'listing':
      return listedRecords(connection, answer, answer.listing)
    case 'exceptions':
      return exceptionOrder(connection, answer.runs, answer.listing)
    case 'moved':
      return movedTable(connection, answer.moved, answer.format)
    case 'table':
      return tableFile(connection, answer.table, answer.format)
  }
}
