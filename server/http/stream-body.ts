/** Long answers, sent while they are made. */
import { randomBytes } from 'node:crypto'
import { once } from 'node:events'
import { type FileHandle, open, unlink } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PassThrough } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Context } from 'koa'
import { type Connection, type Database, whileReading } from '../database/database'

/** Milliseconds that a reader may stand still before the rest is put aside for it. */
const PATIENCE = 1000
/** Milliseconds after which a reader that takes nothing at all is given up. */
const LONGEST_STILL = 60_000

/**
 * Sends pieces while they are made. Of a reader who is slow nobody else has to know: the rest goes to a file that the
 * operating system forgets with us, and the database's connection is free again. A failure on the way breaks the answer
 * off, so that it is not taken for whole.
 */
export function streamBody(context: Context, database: Database, pieces: (connection: Connection) => AsyncIterable<Uint8Array>): void {
  const body = new PassThrough()
  context.body = body
  const answer = new Answer(body)
  whileReading(database, (connection) => answer.take(pieces(connection))).then(() => answer.finish()).catch((error: Error) => {
    if (!body.destroyed) body.destroy(error)
    context.app.emit('error', error, context)
  })
}

class Answer {
  private aside: FileHandle | null = null

  constructor(private readonly body: PassThrough) {
    // Told by whoever writes; without a listener it would end the program.
    body.on('error', () => undefined)
  }

  /** All pieces, to the reader or aside. */
  async take(pieces: AsyncIterable<Uint8Array>): Promise<void> {
    try {
      for await (const piece of pieces) {
        if (this.body.destroyed) throw gone()
        if (this.aside) await this.aside.write(piece)
        else if (!this.body.write(piece) && !(await drained(this.body, PATIENCE))) this.aside = await unnamedFile()
      }
    } catch (error) {
      await this.aside?.close()
      throw error
    }
  }

  /** What was put aside, as slowly as the reader wants it. */
  async finish(): Promise<void> {
    if (!this.aside) return void this.body.end()
    const rest = this.aside.createReadStream({ start: 0 })
    let before = -1
    const looks = setInterval(() => {
      if (rest.bytesRead === before) this.body.destroy(gone())
      before = rest.bytesRead
    }, LONGEST_STILL)
    await pipeline(rest, this.body).finally(() => clearInterval(looks))
  }
}

async function drained(body: PassThrough, within: number): Promise<boolean> {
  const ended = new AbortController()
  const timer = setTimeout(() => ended.abort(), within)
  try {
    await Promise.race([once(body, 'drain', { signal: ended.signal }), once(body, 'close', { signal: ended.signal })])
    return true
  } catch {
    return false
  } finally {
    clearTimeout(timer)
    ended.abort()
  }
}

/** A file without a name: whatever becomes of us, nothing of it stays. */
async function unnamedFile(): Promise<FileHandle> {
  const path = join(tmpdir(), `dime-gate-${randomBytes(9).toString('hex')}`)
  const file = await open(path, 'wx+', 0o600)
  await unlink(path)
  return file
}

function gone(): NodeJS.ErrnoException {
  return Object.assign(new Error('the reader has gone'), { code: 'ERR_STREAM_PREMATURE_CLOSE' })
}
