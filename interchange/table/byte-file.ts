/** A file as whoever reads it is given it: bytes, and where they are. */

/** Bytes to be read anywhere. */
export interface ByteFile {
  readonly size: number
  /** @returns fewer bytes than asked for at the end alone */
  read(from: number, length: number): Promise<Uint8Array>
}

const PIECE = 1 << 18

/** All of a file, piece by piece. */
export async function* piecesOf(file: ByteFile): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < file.size;) {
    const piece = await file.read(at, PIECE)
    if (piece.length === 0) return
    at += piece.length
    yield piece
  }
}
