/** So many threads: tasks that find none free wait for one, in the order in which they came. */
import type { Worker } from 'node:worker_threads'
import { errorOf } from './failure'
import type { AnyTask, FromThread, ToThread } from './serve-tasks'
import { startThread } from './start-thread'

export interface Waiting<Said> {
  /** Told how far the task is. */
  heard?: (message: Said) => void
  /** Told where the task has to wait for others first. */
  delayed?: () => void
  /** Told once it has its thread. */
  begun?: () => void
  /** Aborts where nobody waits any more: the task is broken off, or never begun. */
  signal?: AbortSignal
}

/** Milliseconds that a task is given to end once it is broken off. */
const END_WITHIN = 5000

export class ThreadPool<Task extends AnyTask, Said, Result> {
  private idle: Worker[] = []
  private readonly all = new Set<Worker>()
  private readonly queue: (() => void)[] = []
  private isClosed = false

  /** @param url of the database, for the threads' own connections */
  constructor(
    private readonly url: string,
    private readonly atOnce: number,
  ) {}

  /** @throws what the task throws; where it was broken off, some error or other */
  async do(task: Task, { heard = () => undefined, delayed = () => undefined, begun = () => undefined, signal }: Waiting<Said> = {}): Promise<Result> {
    const worker = await this.free(delayed, signal)
    begun()
    try {
      return await answerOf<Task, Said, Result>(worker, task, heard, signal)
    } finally {
      this.release(worker)
    }
  }

  /** Starts a thread before there is anything for it to do, so that the first task does not wait for that. */
  getReady(): void {
    if (this.all.size === 0 && !this.isClosed) this.idle.push(this.start())
  }

  /** Ends all threads, whatever they are at. */
  async close(): Promise<void> {
    this.isClosed = true
    const all = [...this.all]
    for (const go of this.queue.splice(0)) go()
    await Promise.all(all.map((worker) => worker.terminate()))
  }

  private async free(delayed: () => void, signal: AbortSignal | undefined): Promise<Worker> {
    for (let isFirst = true; ; isFirst = false) {
      if (this.isClosed) throw new Error('the program is ending')
      if (signal?.aborted) {
        // Called, and gone in the same moment: the turn is the next one's.
        this.queue.shift()?.()
        throw new Error('nobody waits for it any more')
      }
      const idle = this.idle.pop()
      if (idle && this.all.has(idle)) return idle
      if (this.all.size < this.atOnce) return this.start()
      if (isFirst) delayed()
      await this.turn(signal)
    }
  }

  /** Until a thread is released, or nobody waits for it any more. */
  private turn(signal: AbortSignal | undefined): Promise<void> {
    return new Promise((resolve) => {
      const leave = (): void => {
        this.queue.splice(this.queue.indexOf(go), 1)
        resolve()
      }
      const go = (): void => {
        signal?.removeEventListener('abort', leave)
        resolve()
      }
      this.queue.push(go)
      signal?.addEventListener('abort', leave, { once: true })
    })
  }

  private start(): Worker {
    const worker = startThread({ url: this.url })
    this.all.add(worker)
    worker.on('exit', () => this.all.delete(worker))
    // One that broke is on its way out: nobody is given it any more. Whoever waits for its answer is told elsewhere.
    worker.on('error', () => this.all.delete(worker))
    return worker
  }

  private release(worker: Worker): void {
    if (this.all.has(worker)) this.idle.push(worker)
    this.queue.shift()?.()
  }
}

function answerOf<Task extends AnyTask, Said, Result>(
  worker: Worker,
  task: Task,
  heard: (message: Said) => void,
  signal: AbortSignal | undefined,
): Promise<Result> {
  return new Promise((resolve, reject) => {
    const tell = (message: ToThread<Task>) => worker.postMessage(message)
    let late: ReturnType<typeof setTimeout> | undefined
    const message = (said: FromThread<Said, Result>): void => {
      if (said.kind === 'said') return heard(said.message)
      stop()
      if (said.kind === 'done') resolve(said.result)
      else reject(errorOf(said.failure))
    }
    const ended = (error?: unknown): void => {
      stop()
      reject(error instanceof Error ? error : new Error('the thread that was at it has ended'))
    }
    const broken = (): void => {
      tell({ kind: 'stop' })
      late = setTimeout(() => void worker.terminate(), END_WITHIN)
      late.unref()
    }
    const stop = (): void => {
      clearTimeout(late)
      signal?.removeEventListener('abort', broken)
      worker.off('message', message).off('error', ended).off('exit', ended)
    }
    worker.on('message', message).on('error', ended).on('exit', ended)
    signal?.addEventListener('abort', broken)
    tell({ kind: 'task', task })
    if (signal?.aborted) broken()
  })
}
