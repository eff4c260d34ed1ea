/** A ZIP archive whose files are read one at a time, while they are inflated: never more of one at once than a piece. */
import { PassThrough, type Readable } from 'node:stream'
import { type Entry, fromRandomAccessReader, RandomAccessReader, type ZipFile } from 'yauzl'
import type { ByteFile } from '../table/byte-file'
import { fileError } from '../table/problem'

export interface Archive {
  names: string[]
  has(name: string): boolean
  /** @param most bytes that are inflated. @throws FileError where there are more, or the archive is damaged */
  pieces(name: string, most: number): AsyncGenerator<Uint8Array>
}

const PIECE = 1 << 18
/** A workbook has some dozen files; one with very many is none. */
const MOST_FILES = 10_000

class Reader extends RandomAccessReader {
  constructor(private readonly file: ByteFile) {
    super()
  }

  override _readStreamForRange(start: number, end: number): Readable {
    const out = new PassThrough({ highWaterMark: PIECE })
    const read = async (): Promise<void> => {
      for (let at = start; at < end && !out.destroyed;) {
        const piece = await this.file.read(at, Math.min(PIECE, end - at))
        if (piece.length === 0) throw new Error('the file ends too early')
        at += piece.length
        if (!out.write(piece)) await new Promise((resolve) => out.once('drain', resolve).once('close', resolve))
      }
      out.end()
    }
    read().catch((error: Error) => out.destroy(error))
    return out
  }
}

/** @throws FileError where this is no ZIP archive, or a damaged one */
export async function openArchive(file: ByteFile): Promise<Archive> {
  const entries = new Map<string, Entry>()
  const zip = await new Promise<ZipFile>((resolve, reject) => {
    fromRandomAccessReader(new Reader(file), file.size, { lazyEntries: true, autoClose: false }, (error, opened) =>
      error ? reject(damaged(error)) : resolve(opened),
    )
  })
  await new Promise<void>((resolve, reject) => {
    zip.on('error', (error: Error) => reject(damaged(error))).on('end', () => resolve())
    zip.on('entry', (entry: Entry) => {
      if (entries.size >= MOST_FILES)
        return reject(fileError('damaged', `The archive holds more than ${MOST_FILES} files; it is no workbook.`))
      entries.set(entry.fileName, entry)
      zip.readEntry()
    })
    zip.readEntry()
  })
  return {
    names: [...entries.keys()],
    has: (name) => entries.has(name),
    async *pieces(name, most) {
      const entry = entries.get(name)
      if (!entry)
        throw fileError('damaged', `The workbook lacks ${name}. It may have been cut short, or belong to another kind of program.`)
      if (entry.isEncrypted())
        throw fileError('encrypted', 'The workbook is locked with a password. Open it where it was made, and save it without one.')
      const stream = await new Promise<Readable>((resolve, reject) => {
        zip.openReadStream(entry, (error, opened) => (error ? reject(damaged(error)) : resolve(opened)))
      })
      let size = 0
      try {
        for await (const piece of stream as AsyncIterable<Uint8Array>) {
          size += piece.length
          if (size > most)
            throw fileError(
              'too-large',
              `${name} in this workbook is larger than ${Math.round(most / 1_000_000)} MB once it is unpacked. Save the sheet as CSV and choose that file.`,
            )
          yield piece
        }
      } catch (error) {
        throw damaged(error as Error)
      } finally {
        stream.destroy()
      }
    },
  }
}

function damaged(error: Error): Error {
  if (error.name === 'Error' || !('problem' in error))
    return 'problem' in error
      ? error
      : fileError('damaged', `The workbook is damaged: ${error.message}. Open it where it was made, and save it again.`)
  return error
}
