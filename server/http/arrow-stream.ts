/** Batches read from the database, sent as an Arrow IPC stream while they come. */
import { type RecordBatch, RecordBatchStreamWriter, type Schema } from 'apache-arrow'
import type { Context } from 'koa'
import type { Connection, Database } from '../database/database'
import { streamBody } from './stream-body'

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
