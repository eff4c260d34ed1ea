/** Batches as an Arrow IPC stream, while they come. */
import { AsyncByteQueue, type RecordBatch, RecordBatchStreamWriter, type Schema } from 'apache-arrow'

export interface ArrowStream {
  /** The bytes that one more batch adds; before the first one, those of the schema. */
  bytesOf(batch: RecordBatch): Uint8Array[]
  /** The bytes at its end; of a stream without a batch, all of it. */
  end(): Uint8Array[]
}

/** What is written into it can be taken out at once, without waiting. */
class Pieces extends AsyncByteQueue {
  private written: Uint8Array[] = []

  override write(piece: Uint8Array): void {
    if (piece.byteLength > 0) this.written.push(piece)
  }

  take(): Uint8Array[] {
    const all = this.written
    this.written = []
    return all
  }
}

export function arrowStream(schema: Schema): ArrowStream {
  const pieces = new Pieces()
  const writer = new RecordBatchStreamWriter()
  writer.reset(pieces, schema)
  return {
    bytesOf(batch) {
      writer.write(batch)
      return pieces.take()
    },
    end() {
      writer.close()
      return pieces.take()
    },
  }
}

export async function* arrowPieces<Batch>(schema: Schema, batches: AsyncIterable<Batch>, encode: (batch: Batch) => RecordBatch): AsyncGenerator<Uint8Array> {
  const stream = arrowStream(schema)
  for await (const batch of batches) yield* stream.bytesOf(encode(batch))
  yield* stream.end()
}
