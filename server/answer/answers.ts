/** Long answers: made by threads into files of their own, and sent from there as fast as whoever asked takes them. */
import { Readable } from 'node:stream'
import type { Context } from 'koa'
import { unnamedFile } from '../file/unnamed-file'
import { ThreadPool } from '../threads/thread-pool'
import { GrowingFile } from './growing-file'
import type { Answer, AnswerTask } from './make-answer'

/** The media type of an Arrow IPC stream. */
export const ARROW = 'application/vnd.apache.arrow.stream'

/** Answers that are made at the same time, however many are being read. */
const AT_ONCE = 2
/** Milliseconds after which a reader that takes nothing at all is given up. */
const LONGEST_STILL = 60_000

export class Answers {
  /** What a page waits for does not stand behind what somebody takes away. */
  private readonly short: ThreadPool<AnswerTask, number, void>
  private readonly long: ThreadPool<AnswerTask, number, void>
  /** The tickets of those that wait for others first. */
  private readonly waiting = new Set<string>()

  /** @param url of the database, for the threads' own connections */
  constructor(url: string) {
    this.short = new ThreadPool(url, AT_ONCE)
    this.long = new ThreadPool(url, AT_ONCE)
  }

  /** @param ticket under which whoever asks can be told whether it waits. @throws what went wrong before anything was made. A failure on the way breaks the answer off, so that it is not taken for whole. */
  async send(context: Context, answer: Answer, { isLong = false, ticket = '' } = {}): Promise<void> {
    const file = await unnamedFile()
    const growing = new GrowingFile(file)
    const left = new AbortController()
    context.res.once('close', () => left.abort())
    const made = (isLong ? this.long : this.short)
      .do({ kind: 'answer', fd: file.fd, answer }, { heard: (size) => growing.grown(size), delayed: () => this.waiting.add(ticket), signal: left.signal, begun: () => this.waiting.delete(ticket) })
      .finally(() => this.waiting.delete(ticket))
      .then(
        () => growing.ended(null),
        (error: Error) => growing.ended(error),
      )
    try {
      await growing.begun()
    } catch (error) {
      await file.close()
      throw error
    }
    const body = Readable.from(growing.pieces(), { objectMode: false, highWaterMark: 1 << 18 })
    let before = -1
    const looks = setInterval(() => {
      if (growing.isAhead && growing.read === before) body.destroy(new Error('the reader stood still'))
      before = growing.read
    }, LONGEST_STILL)
    body.on('close', () => {
      clearInterval(looks)
      // The thread may still be writing.
      void made.then(() => file.close())
    })
    context.body = body
  }

  /** What somebody takes away, as a file. Its ticket is the request's parameter of that name. */
  sendFile(context: Context, answer: Answer): Promise<void> {
    return this.send(context, answer, { isLong: true, ticket: String(context.query.ticket ?? '') })
  }

  isWaiting(ticket: string): boolean {
    return this.waiting.has(ticket)
  }

  close(): Promise<unknown> {
    return Promise.all([this.short.close(), this.long.close()])
  }
}
