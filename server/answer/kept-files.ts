/**
 * Answers that were made and may be asked for again: whoever opens a bench anew does not wait for its columns a second
 * time. What was read last stays longest; the files have no names, and go with the program.
 */
import type { FileHandle } from 'node:fs/promises'

interface Kept {
  readonly file: FileHandle
  readonly size: number
  /** Of those who read it now; closed only once there is none. */
  readers: number
  isOut: boolean
}

export class KeptFiles {
  private readonly files = new Map<string, Kept>()
  private held = 0

  /** @param most bytes that are kept */
  constructor(private readonly most: number) {}

  /** A file to read, until it is released; null where it is not here. */
  take(key: string): { file: FileHandle; size: number; release: () => void } | null {
    const kept = this.files.get(key)
    if (!kept) return null
    // Put last again: what nobody asked for lately goes first.
    this.files.delete(key)
    this.files.set(key, kept)
    kept.readers++
    let isReleased = false
    return {
      file: kept.file,
      size: kept.size,
      release: () => {
        if (isReleased) return
        isReleased = true
        kept.readers--
        this.closeWhereFree(kept)
      },
    }
  }

  /** The file is ours from here on. It may be too large to be kept, or another one of its key may be here. */
  keep(key: string, file: FileHandle, size: number): void {
    const kept: Kept = { file, size, readers: 0, isOut: false }
    if (size > this.most / 4 || this.files.has(key)) {
      kept.isOut = true
      this.closeWhereFree(kept)
      return
    }
    this.files.set(key, kept)
    this.held += size
    for (const [oldest] of this.files) {
      if (this.held <= this.most) break
      this.putOut(oldest)
    }
  }

  /** Makes room. */
  clear(): void {
    for (const key of [...this.files.keys()]) this.putOut(key)
  }

  private putOut(key: string): void {
    const kept = this.files.get(key)!
    this.files.delete(key)
    this.held -= kept.size
    kept.isOut = true
    this.closeWhereFree(kept)
  }

  private closeWhereFree(kept: Kept): void {
    if (kept.isOut && kept.readers === 0) void kept.file.close()
  }
}
