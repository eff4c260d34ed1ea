/** Writing to an open file by its number, as a thread does that has nothing else to do. */
import { writeSync } from 'node:fs'

export interface PieceWriter {
  /** @throws Error with the code `ENOSPC` where there is no room left */
  write(piece: Uint8Array): void
  /** Bytes written so far. */
  size(): number
}

export function pieceWriter(fd: number): PieceWriter {
  let size = 0
  return {
    write(piece) {
      for (let at = 0; at < piece.length;) at += writeSync(fd, piece, at, piece.length - at, size + at)
      size += piece.length
    },
    size: () => size,
  }
}
