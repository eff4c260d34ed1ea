/** The runs that are under way: one after the other in a thread of their own, with their progress, and an end to each. */
import type { Worker } from 'node:worker_threads'
import type { Database } from '../database/database'
import { startThread } from '../threads/start-thread'
import type { RunJob } from './decide-run'
import type { RunMessage } from './run-worker'

export const STOPPED = 'The server was stopped while this run was under way. Keep the run again.'

export class RunJobs {
  private worker: Worker | null = null
  /** All that were ever begun here, from the moment on at which others may see their rows. */
  private readonly begun = new Set<number>()
  /** Those that have ended here, while the database could not be told. */
  private readonly lost = new Set<number>()
  private waiting: RunJob[] = []
  private current: { job: RunJob; records: number } | null = null
  private isClosed = false

  /** @param url of the database, for the thread's own connections */
  constructor(private readonly database: Database, private readonly url: string) {}

  start(job: RunJob): void {
    this.waiting.push(job)
    this.next()
  }

  /** A run is on its way here, although its job is not yet. */
  expect(runId: number): void {
    this.begun.add(runId)
  }

  /**
   * The records that are decided so far, of a run whose row says that it is under way. It may have ended since that was read.
   * @returns null where nobody is at it any more
   */
  progress(runId: number): number | null {
    if (!this.begun.has(runId) || this.lost.has(runId)) return null
    return this.current?.job.runId === runId ? this.current.records : 0
  }

  /** Ends a run that is under way; nothing of it stays. @returns whether there was one */
  async cancel(runId: number): Promise<boolean> {
    const before = this.waiting.length
    this.waiting = this.waiting.filter((job) => job.runId !== runId)
    if (this.waiting.length < before) return true
    if (this.current?.job.runId !== runId) return false
    this.current = null
    await this.endWorker()
    this.next()
    return true
  }

  async close(): Promise<void> {
    this.isClosed = true
    for (const { runId } of [...this.waiting, ...(this.current ? [this.current.job] : [])]) this.lost.add(runId)
    this.waiting = []
    this.current = null
    await this.endWorker()
  }

  private next(): void {
    if (this.current || this.isClosed) return
    const job = this.waiting.shift()
    if (!job) return
    this.current = { job, records: 0 }
    try {
      this.worker ??= this.newWorker()
      this.worker.postMessage(job)
    } catch (error) {
      void this.ended((error as Error).message)
    }
  }

  private newWorker(): Worker {
    const worker = startThread('server/run/run-worker.ts', { url: this.url })
    worker.on('message', (message: RunMessage) => {
      if (worker !== this.worker || !this.current) return
      if (message.kind === 'progress') this.current.records = message.records
      else void this.ended(message.kind === 'failed' ? message.message : null)
    })
    worker.on('error', (error) => {
      if (worker !== this.worker) return
      this.worker = null
      void this.ended(error.message)
    })
    return worker
  }

  private async ended(problem: string | null): Promise<void> {
    const { job } = this.current!
    if (problem !== null) {
      // Where the database is gone as well, the run is found under way with nobody at it, and told as stopped.
      await this.database.query("update run set state = 'failed', problem = $2 where id = $1 and state = 'under way'", [job.runId, problem]).catch(() => this.lost.add(job.runId))
    }
    if (this.current?.job !== job) return
    this.current = null
    this.next()
  }

  private async endWorker(): Promise<void> {
    const { worker } = this
    this.worker = null
    await worker?.terminate()
  }
}
