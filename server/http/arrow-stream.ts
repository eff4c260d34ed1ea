/** Batches read from the database, sent as an Arrow IPC stream while they come. */
import { PassThrough } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { type RecordBatch, RecordBatchStreamWriter, type Schema } from 'apache-arrow'
import type { Context } from 'koa'
import { type Connection, type Database, whileReading } from '../database/database'

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
    let isRead = true
    const written = (async () => {
      try {
        for await (const batch of batches(connection)) {
          if (!isRead) return
          writer.write(encode(batch))
        }
        writer.close()
      } catch (error) {
        if (isRead) writer.abort(error as Error)
      }
    })()
    // Told to the reader by `abort`; here it must not count as a failure that nobody looks at.
    written.catch(() => undefined)
    try {
      for await (const bytes of writer) yield bytes
    } finally {
      isRead = false
      await written.catch(() => undefined)
    }
  })
}

/** Sends pieces while they are made. A failure on the way breaks the answer off, so that it is not taken for whole. */
export function streamBody(context: Context, database: Database, pieces: (connection: Connection) => AsyncIterable<Uint8Array | string>): void {
  const body = new PassThrough()
  context.body = body
  whileReading(database, (connection) => pipeline(pieces(connection), body)).catch((error: Error) => {
    if (!body.destroyed) body.destroy(error)
    context.app.emit('error', error, context)
  })
}
