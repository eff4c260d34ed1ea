/** Batches read from the database as an Arrow IPC stream, while they come. */
import { type RecordBatch, RecordBatchStreamWriter, type Schema } from 'apache-arrow'

export async function* arrowPieces<Batch>(
  schema: Schema,
  batches: AsyncIterable<Batch>,
  encode: (batch: Batch) => RecordBatch,
): AsyncGenerator<Uint8Array> {
  const writer = new RecordBatchStreamWriter()
  writer.reset(undefined, schema)
  let isRead = true
  const written = (async () => {
    try {
      for await (const batch of batches) {
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
}
