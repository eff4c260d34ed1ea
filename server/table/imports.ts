/** Files on their way into tables, each in a thread: whoever answers requests hands on bytes and does nothing else. */
import type { Worker } from 'node:worker_threads'
import type { ImportRequest } from '@dime-gate/contract/table'
import { FileError } from '@dime-gate/interchange/table/problem'
import { Refusal } from '../http/refusal'
import { startThread } from '../threads/start-thread'
import type { FromImporter, ToImporter } from './import-worker'

/** Files that are read at the same time; more wait, with their senders. */
const AT_ONCE = 2
const PIECE = 1 << 18
/** Pieces that a thread is given before it has taken the first of them. */
const AHEAD = 4

export class Imports {
  private idle: Worker[] = []
  private readonly all = new Set<Worker>()
  private readonly waiting: ((worker: Worker) => void)[] = []

  /** @param url of the database, for the threads' own connections */
  constructor(private readonly url: string) {}

  /**
   * @param source the file's bytes
   * @returns the id of the new table
   * @throws FileError, Refusal `name-taken`, or what `source` throws; then nothing stays behind
   */
  async bringIn(source: AsyncIterable<Uint8Array>, request: ImportRequest): Promise<number> {
    const worker = await this.free()
    const answer = new Answer(worker)
    try {
      const tell = (message: ToImporter, moved: ArrayBuffer[] = []) => worker.postMessage(message, moved)
      tell({ kind: 'begin', request })
      try {
        for await (const piece of inPieces(source)) {
          if (!(await answer.hasRoom())) break
          tell({ kind: 'bytes', bytes: piece }, [piece.buffer])
        }
      } catch (error) {
        tell({ kind: 'end', isWhole: false })
        await answer.last.catch(() => undefined)
        throw error
      }
      tell({ kind: 'end', isWhole: true })
      return await answer.last
    } finally {
      answer.close()
      this.release(worker)
    }
  }

  async close(): Promise<void> {
    // Whoever still waits for a thread waits for one of a program that ends.
    this.waiting.length = 0
    const all = [...this.all]
    this.all.clear()
    this.idle = []
    await Promise.all(all.map((worker) => worker.terminate()))
  }

  private async free(): Promise<Worker> {
    const idle = this.idle.pop()
    if (idle) return idle
    if (this.all.size >= AT_ONCE) return new Promise((resolve) => this.waiting.push(resolve))
    return this.start()
  }

  private start(): Worker {
    const worker = startThread('server/table/import-worker.ts', { url: this.url })
    this.all.add(worker)
    worker.on('exit', () => this.all.delete(worker))
    // Told to whoever waits for its answer; without a listener it would end the program.
    worker.on('error', () => undefined)
    return worker
  }

  private release(worker: Worker): void {
    const next = this.waiting.shift()
    const isAlive = this.all.has(worker)
    if (next) next(isAlive ? worker : this.start())
    else if (isAlive) this.idle.push(worker)
  }
}

/** What a thread says to one import. */
class Answer {
  readonly last: Promise<number>
  private ahead = 0
  private isOver = false
  private wake: () => void = () => undefined
  private readonly stopListening: () => void

  constructor(worker: Worker) {
    let stop = (): void => undefined
    this.last = new Promise<number>((resolve, reject) => {
      const heard = (message: FromImporter): void => {
        if (message.kind === 'taken') this.ahead--
        else if (message.kind === 'done') resolve(message.tableId)
        else reject(errorOf(message))
        if (message.kind !== 'taken') this.isOver = true
        this.wake()
      }
      const ended = (error?: unknown): void => {
        this.isOver = true
        reject(error instanceof Error ? error : new Error('the thread that read the file has ended'))
        this.wake()
      }
      worker.on('message', heard).on('error', ended).on('exit', ended)
      stop = () => worker.off('message', heard).off('error', ended).off('exit', ended)
    })
    this.last.catch(() => undefined)
    this.stopListening = stop
  }

  /** Waits until another piece may be given. @returns whether one is still wanted */
  async hasRoom(): Promise<boolean> {
    while (!this.isOver && this.ahead >= AHEAD) await new Promise<void>((resolve) => (this.wake = resolve))
    this.ahead++
    return !this.isOver
  }

  close(): void {
    this.stopListening()
  }
}

function errorOf(message: Exclude<FromImporter, { kind: 'taken' | 'done' }>): Error {
  if (message.kind === 'unreadable') return new FileError(message.problem)
  if (message.kind === 'refused') return new Refusal(message.refusal.status, message.refusal.problem.code as never, message.refusal.problem.message)
  return new Error(message.message)
}

/** The network's pieces are small, and belong to the network; these are larger and can be given away. */
async function* inPieces(source: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  let piece = new Uint8Array(PIECE)
  let used = 0
  for await (const bytes of source) {
    for (let from = 0; from < bytes.length;) {
      const taken = bytes.subarray(from, from + PIECE - used)
      piece.set(taken, used)
      used += taken.length
      from += taken.length
      if (used < PIECE) break
      yield piece
      piece = new Uint8Array(PIECE)
      used = 0
    }
  }
  if (used > 0) yield piece.slice(0, used)
}
