/** Files that were sent and wait to become tables, each in an open file that nobody else can name. */
import { randomBytes } from 'node:crypto'
import type { FileHandle } from 'node:fs/promises'
import type { MergeAnswer } from '@dime-gate/contract/change'
import type { FileChoice, FileLook, Progress, StagedFile } from '@dime-gate/contract/table'
import type { Merge } from '../change/merge-file'
import { refusals } from '../http/refusal'
import type { NewTable } from '../table/import-table'
import { ThreadPool, type Waiting } from '../threads/thread-pool'
import type { ImportTask, MergeTask } from './import-file'
import type { LookResult, LookTask } from './look-at-file'
import type { PlainText } from './source'
import { unnamedFile } from './unnamed-file'

/** Files that are looked at or brought in at the same time; more wait. */
const AT_ONCE = 2
/** Milliseconds that a file is kept while nobody does anything with it. */
const KEPT_FOR = 60 * 60_000
const MOST_FILES = 64
/** Bytes of one file. */
const LARGEST = 4_000_000_000

interface Staged {
  file: FileHandle
  /** For its plain text, if it is none. */
  plainFile: FileHandle
  plain: PlainText | null
  name: string
  size: number
  usedAt: number
  /** Those that are at it. */
  uses: number
}

export class Files {
  private readonly staged = new Map<string, Staged>()
  private readonly looks: ThreadPool<LookTask, Progress, LookResult>
  private readonly imports: ThreadPool<ImportTask, Progress, number>
  private readonly merges: ThreadPool<MergeTask, Progress, MergeAnswer>
  private readonly sweeps = setInterval(() => void this.sweep(), KEPT_FOR / 10).unref()

  /** @param url of the database, for the threads' own connections */
  constructor(url: string) {
    this.looks = new ThreadPool(url, AT_ONCE)
    this.imports = new ThreadPool(url, AT_ONCE)
    this.merges = new ThreadPool(url, 1)
  }

  /** @throws Refusal `too-large`, or what `bytes` throws; nothing of it stays */
  async add(name: string, bytes: AsyncIterable<Uint8Array>): Promise<StagedFile> {
    await this.sweep()
    if (this.staged.size >= MOST_FILES) throw refusals.tooManyFiles(MOST_FILES)
    const file = await unnamedFile()
    let size = 0
    try {
      for await (const piece of bytes) {
        if (size + piece.length > LARGEST) throw refusals.tooLarge(LARGEST)
        for (let at = 0; at < piece.length;) at += (await file.write(piece, at, piece.length - at, size + at)).bytesWritten
        size += piece.length
      }
    } catch (error) {
      await file.close()
      throw error
    }
    const id = randomBytes(12).toString('base64url')
    this.staged.set(id, { file, plainFile: await unnamedFile(), plain: null, name, size, usedAt: Date.now(), uses: 0 })
    return { id, name, size }
  }

  /** @throws Refusal `file-gone`, FileError where nothing can be shown of it */
  look(id: string, choice: FileChoice, waiting: Waiting<Progress>): Promise<FileLook> {
    return this.use(id, async (one) => {
      const { look, plain } = await this.looks.do({ kind: 'look', source: this.sourceOf(one), choice }, waiting)
      one.plain = plain
      return look
    })
  }

  /** @returns the id of the new table. @throws Refusal `file-gone`, and as `importTable` does; nothing stays behind then, but the file */
  async bringIn(id: string, table: Omit<NewTable, 'fileName'>, waiting: Waiting<Progress>): Promise<number> {
    const tableId = await this.use(id, (one) =>
      this.imports.do({ kind: 'import', source: this.sourceOf(one), table: { ...table, fileName: one.name } }, waiting),
    )
    await this.remove(id)
    return tableId
  }

  /** What the file does to a table, or would do; tried, it stays. @throws Refusal `file-gone`, and as `mergeFile` does */
  async merge(id: string, merge: Merge, waiting: Waiting<Progress>): Promise<MergeAnswer> {
    const answer = await this.use(id, (one) => this.merges.do({ kind: 'merge', source: this.sourceOf(one), merge }, waiting))
    if (!merge.isTrial) await this.remove(id)
    return answer
  }

  async remove(id: string): Promise<void> {
    const one = this.staged.get(id)
    if (!one) return
    this.staged.delete(id)
    if (one.uses === 0) await closed(one)
  }

  async close(): Promise<void> {
    clearInterval(this.sweeps)
    await Promise.all([this.looks.close(), this.imports.close(), this.merges.close()])
    await Promise.all([...this.staged.keys()].map((id) => this.remove(id)))
  }

  private async use<Result>(id: string, work: (one: Staged) => Promise<Result>): Promise<Result> {
    const one = this.staged.get(id)
    if (!one) throw refusals.fileGone()
    one.uses++
    try {
      return await work(one)
    } finally {
      one.uses--
      one.usedAt = Date.now()
      if (one.uses === 0 && !this.staged.has(id)) await closed(one)
    }
  }

  private sourceOf({ file, size, plainFile, plain }: Staged) {
    return { fd: file.fd, size, plainFd: plainFile.fd, plain }
  }

  private async sweep(): Promise<void> {
    const oldest = Date.now() - KEPT_FOR
    for (const [id, { usedAt, uses }] of this.staged) if (uses === 0 && usedAt < oldest) await this.remove(id)
  }
}

async function closed({ file, plainFile }: Staged): Promise<void> {
  await file.close()
  await plainFile.close()
}
