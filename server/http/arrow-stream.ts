/** Batches read from the database, sent as an Arrow IPC stream while they come. */
import { PassThrough } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { type RecordBatch, RecordBatchStreamWriter, type Schema } from 'apache-arrow'
import type { Context } from 'koa'
import { type Connection, type Database, inTransaction } from '../database/database'

export function arrowStream<Batch>(
  context: Context,
  database: Database,
  schema: Schema,
  batches: (connection: Connection) => AsyncIterable<Batch>,
  encode: (batch: Batch) => RecordBatch,
): void {
  context.type = 'application/vnd.apache.arrow.stream'
  streamBody(context, database, async function* (connection) {
    const writer = new RecordBatchStreamWriter()
    writer.reset(undefined, schema)
    const written = (async () => {
      for await (const batch of batches(connection)) writer.write(encode(batch))
      writer.close()
    })().catch((error: Error) => {
      writer.abort(error)
      throw error
    })
    for await (const bytes of writer) yield bytes
    await written
  })
}

/** Sends pieces while they are made. A failure on the way breaks the answer off, so that it is not taken for whole. */
export function streamBody(context: Context, database: Database, pieces: (connection: Connection) => AsyncIterable<Uint8Array | string>): void {
  const body = new PassThrough()
  context.body = body
  inTransaction(database, async (connection) => {
    await connection.query('set transaction isolation level repeatable read, read only')
    await pipeline(pieces(connection), body)
  }).catch((error: Error) => {
    if (!body.destroyed) body.destroy(error)
    context.app.emit('error', error, context)
  })
}
