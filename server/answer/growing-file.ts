/** A file that somebody writes and somebody else reads, each as fast as they like. */
import type { FileHandle } from 'node:fs/promises'

const PIECE = 1 << 18

export class GrowingFile {
  /** Bytes that were read so far. */
  read = 0
  private size = 0
  private end: { error: Error | null } | null = null
  private wake: () => void = () => undefined

  constructor(private readonly file: FileHandle) {}

  /** So much is written by now. */
  grown(size: number): void {
    this.size = size
    this.wake()
  }

  /** Whether more is written than was read. */
  get isAhead(): boolean {
    return this.size > this.read
  }

  /** No more will come, or never all of it. */
  ended(error: Error | null): void {
    this.end = { error }
    this.wake()
  }

  /** Until there is something to read, or nothing more will come. @throws why nothing was written */
  async begun(): Promise<void> {
    while (this.size === 0 && !this.end) await this.more()
    if (this.size === 0 && this.end?.error) throw this.end.error
  }

  /** All that is written, and what is still to come. @throws why it was never written to its end */
  async *pieces(): AsyncGenerator<Uint8Array> {
    for (;;) {
      if (this.isAhead) {
        const piece = Buffer.allocUnsafe(Math.min(PIECE, this.size - this.read))
        const { bytesRead } = await this.file.read(piece, 0, piece.length, this.read)
        this.read += bytesRead
        yield piece.subarray(0, bytesRead)
      } else if (this.end?.error) throw this.end.error
      else if (this.end) return
      else await this.more()
    }
  }

  private more(): Promise<void> {
    return new Promise<void>((resolve) => (this.wake = resolve))
  }
}
