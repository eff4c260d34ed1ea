/** What long answers are made of, and how: in a thread, into an open file. */
import { columnEncoder, columnSchemaOf, decisionSchema, decisionsToBatch } from '@dime-gate/contract/column-wire'
import type { Run } from '@dime-gate/contract/run'
import type { Column } from '@dime-gate/contract/table'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { type Connection, whileReading } from '../database/database'
import { pieceWriter } from '../file/write-pieces'
import { labelledCsv } from '../run/labelled-csv'
import { decisionBatches, seenBatches } from '../run/run-columns'
import { columnBatchesOf } from '../table/read-column'
import type { OnTask } from '../threads/serve-tasks'
import { arrowPieces } from './arrow-pieces'

export type Answer =
  | { kind: 'column'; tableId: number; column: Column }
  | { kind: 'decisions'; runId: number }
  /** A column as a run saw it: the place of what the run looked at. */
  | { kind: 'seen'; runId: number; at: number; type: Column['type'] }
  | { kind: 'labelled'; run: Run }

export interface AnswerTask {
  kind: 'answer'
  fd: number
  answer: Answer
}

/** Bytes after which the reader is told that there is more. */
const PIECE = 1 << 16

/** Tells how many bytes are written. */
export async function makeAnswer({ fd, answer }: AnswerTask, { database, say, signal }: OnTask<number>): Promise<void> {
  await whileReading(database, async (connection) => {
    const file = pieceWriter(fd)
    let told = 0
    for await (const piece of piecesOf(answer, connection)) {
      if (signal.aborted) throw new Error('the reader has gone')
      file.write(piece)
      if (file.size() - told < PIECE) continue
      say((told = file.size()))
    }
    say(file.size())
  })
}

function piecesOf(answer: Answer, connection: Connection): AsyncIterable<Uint8Array> {
  switch (answer.kind) {
    case 'column':
      return arrowPieces(columnSchemaOf(kindOfColumn(answer.column.type)), columnBatchesOf(connection, answer.tableId, answer.column), columnEncoder())
    case 'decisions':
      return arrowPieces(decisionSchema, decisionBatches(connection, answer.runId), decisionsToBatch)
    case 'seen':
      return arrowPieces(columnSchemaOf(kindOfColumn(answer.type)), seenBatches(connection, answer), columnEncoder())
    case 'labelled':
      return labelledCsv(connection, answer.run)
  }
}
