/** Long answers: made by threads into files of their own, and sent from there as fast as whoever asked takes them. */
import { Readable } from 'node:stream'
import type { Context } from 'koa'
import { unnamedFile } from '../file/unnamed-file'
import { ThreadPool } from '../threads/thread-pool'
import { GrowingFile } from './growing-file'
import { KeptFiles } from './kept-files'
import { type ColumnAsked, ColumnsTogether } from './columns-together'
import type { Answer, AnswerTask, Grown } from './make-answer'
import type { Place } from './place'

/** The media type of an Arrow IPC stream. */
export const ARROW = 'application/vnd.apache.arrow.stream'

/** Answers that are made at the same time, however many are being read. */
const AT_ONCE = 2
/** Bytes of answers that are kept, in the folder for temporary files, to be sent again. */
const MOST_KEPT = 400_000_000
/** Milliseconds after which a reader that takes nothing at all is given up. */
const LONGEST_STILL = 60_000

/** @property as what the column is kept by, to be sent again: it says all that its values hang on; null where it is not to be kept */
export interface ColumnFound extends ColumnAsked {
  as: string | null
}

export class Answers {
  /** What a page waits for does not stand behind what somebody takes away. */
  private readonly short: ThreadPool<AnswerTask, Grown, void>
  private readonly long: ThreadPool<AnswerTask, Grown, void>
  private readonly columns: ColumnsTogether
  private readonly kept = new KeptFiles(MOST_KEPT)
  private isClosed = false
  /** The tickets of those that wait for others first. */
  private readonly waiting = new Set<string>()

  /** @param url of the database, for the threads' own connections */
  constructor(url: string) {
    this.short = new ThreadPool(url, AT_ONCE)
    this.long = new ThreadPool(url, AT_ONCE)
    this.columns = new ColumnsTogether(this.short)
  }

  /**
   * @param ticket under which whoever asks can be told whether it waits
   * @throws what went wrong before anything was made. A failure on the way breaks the answer off, so that it is not taken for whole.
   */
  send(context: Context, answer: Answer, { isLong = false, ticket = '' } = {}): Promise<void> {
    return this.sendMade(context, null, ({ fd, grown, left }) =>
      (isLong ? this.long : this.short)
        .do({ kind: 'answer', fds: [fd], answer }, { heard: ([, size]) => grown(size), delayed: () => this.waiting.add(ticket), signal: left, begun: () => this.waiting.delete(ticket) })
        .finally(() => this.waiting.delete(ticket)),
    )
  }

  /** @param found what exactly is asked, of the table: others who ask for columns of it are waited for meanwhile. @throws as `send`, and what `found` does */
  async sendColumn(context: Context, tableId: number, found: Promise<ColumnFound>): Promise<void> {
    const isHere = this.columns.expect(tableId)
    try {
      const { as, ...asked } = await found
      context.type = ARROW
      await this.sendMade(context, as, (place) => {
        const made = this.columns.make(place, asked)
        isHere()
        return made
      })
    } finally {
      isHere()
    }
  }

  private async sendMade(context: Context, as: string | null, make: (place: Place) => Promise<void>): Promise<void> {
    const known = as === null ? null : this.kept.take(as)
    if (known) {
      const growing = new GrowingFile(known.file)
      growing.grown(known.size)
      growing.ended(null)
      context.body = this.body(growing, known.release)
      return
    }
    const file = await unnamedFile()
    const growing = new GrowingFile(file)
    const left = new AbortController()
    context.res.once('close', () => left.abort())
    let size = 0
    const made = make({ fd: file.fd, grown: (now) => growing.grown((size = now)), left: left.signal }).then(
      () => {
        growing.ended(null)
        return true
      },
      (error: Error) => {
        growing.ended(error)
        // There may be no room left: what is kept is the first thing that can be done without.
        if (!left.signal.aborted) this.kept.clear()
        return false
      },
    )
    try {
      await growing.begun()
    } catch (error) {
      await file.close()
      throw error
    }
    // The thread may still be writing when the reader is gone.
    context.body = this.body(growing, () => void made.then((isWhole) => (isWhole && as !== null && !this.isClosed ? this.kept.keep(as, file, size) : file.close())))
  }

  /** @param done is told once nobody reads any more */
  private body(growing: GrowingFile, done: () => void): Readable {
    const body = Readable.from(growing.pieces(), { objectMode: false, highWaterMark: 1 << 18 })
    let before = -1
    const looks = setInterval(() => {
      if (growing.isAhead && growing.read === before) body.destroy(new Error('the reader stood still'))
      before = growing.read
    }, LONGEST_STILL)
    body.on('close', () => {
      clearInterval(looks)
      done()
    })
    return body
  }

  /** What somebody takes away, as a file. Its ticket is the request's parameter of that name. */
  sendFile(context: Context, answer: Answer): Promise<void> {
    return this.send(context, answer, { isLong: true, ticket: String(context.query.ticket ?? '') })
  }

  isWaiting(ticket: string): boolean {
    return this.waiting.has(ticket)
  }

  /** Whoever opens the first bench should not wait for a thread to begin. */
  getReady(): void {
    this.short.getReady()
  }

  close(): Promise<unknown> {
    this.isClosed = true
    this.kept.clear()
    return Promise.all([this.short.close(), this.long.close()])
  }
}
