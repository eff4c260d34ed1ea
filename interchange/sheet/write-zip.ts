/** A ZIP archive that is written while its files are made. */
import { Readable } from 'node:stream'
import { ZipFile } from 'yazl'

export interface ZipPart {
  name: string
  content: string | AsyncIterable<Uint8Array>
  /** Some formats are told by a first file that is not compressed. */
  isStored?: boolean
}

/** The same content makes the same archive, whenever it is made. */
const MOMENT = new Date('2000-01-01T00:00:00Z')

export async function* writeZip(parts: readonly ZipPart[]): AsyncGenerator<Uint8Array> {
  const zip = new ZipFile()
  for (const { name, content, isStored } of parts) {
    if (typeof content === 'string') zip.addBuffer(Buffer.from(content), name, { compress: !isStored, mtime: MOMENT })
    else {
      const stream = Readable.from(content, { objectMode: false })
      // What goes wrong in the middle ends the whole archive.
      stream.on('error', (error) => (zip.outputStream as Readable).destroy(error))
      zip.addReadStream(stream, name, { mtime: MOMENT, compressionLevel: 4 })
    }
  }
  zip.end()
  yield* zip.outputStream as unknown as AsyncIterable<Uint8Array>
}
