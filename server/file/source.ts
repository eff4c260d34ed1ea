/** A file that was sent, as the records it holds: as it is where it is delimited text, or else made into that once. */
import type { PlainFile } from '@dime-gate/interchange/table/open-file'
import { piecesOf } from '@dime-gate/interchange/table/byte-file'
import { openFile } from '@dime-gate/interchange/table/open-file'
import { byteFile } from './read-file'
import { pieceWriter } from './write-pieces'

/** What a thread is told of a file. */
export interface FileSource {
  fd: number
  size: number
  /** An open file for its plain text, and what is in that already. */
  plainFd: number
  plain: PlainText | null
}

export interface PlainText {
  size: number
  file: PlainFile
}

/** A file as text, with what is known of it. */
export interface OpenedSource {
  sheets: string[]
  /** Null where the file is delimited text itself. */
  plain: PlainText | null
  size: number
  pieces(): AsyncIterable<Uint8Array>
}

/** @param told is told of records, now and then, and throws where nobody waits any more */
export async function openSource(source: FileSource, sheet: string | null, told: (records: number) => void): Promise<OpenedSource> {
  const { fd, size, plainFd } = source
  const original = byteFile(fd, size)
  const opened = await openFile(original)
  const wanted = sheet ?? opened.sheets[0] ?? null
  const plain = source.plain && source.plain.file.sheet === wanted ? source.plain : await made()
  return plain
    ? { sheets: opened.sheets, plain, size: plain.file.head.length + plain.size, pieces: () => withHead(plain, plainFd) }
    : { sheets: [], plain, size, pieces: () => piecesOf(original) }

  async function made(): Promise<PlainText | null> {
    const writer = pieceWriter(plainFd)
    const file = await opened.toPlain(sheet, (piece) => writer.write(piece), told)
    return file && { file, size: writer.size() }
  }
}

async function* withHead({ file: { head }, size }: PlainText, fd: number): AsyncGenerator<Uint8Array> {
  if (head.length > 0) yield head
  yield* piecesOf(byteFile(fd, size))
}
