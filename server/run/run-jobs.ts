/** The runs that are under way: one after the other in a thread of their own, with their progress, and an end to each. */
import type { Database } from '../database/database'
import { Refusal } from '../http/refusal'
import { ThreadPool } from '../threads/thread-pool'
import type { RunJob } from './decide-run'

export const STOPPED = 'The server was stopped while this run was under way. Keep the run again.'
const AWAY = 'The database went away while this run was under way. Keep the run again.'

export interface RunTask {
  kind: 'run'
  job: RunJob
}

interface UnderWay {
  /** Decided so far. */
  records: number
  /** Whether it waits for others that came before. */
  isWaiting: boolean
  stop: AbortController
  ended: Promise<void>
}

export class RunJobs {
  /** Tells how many records are decided. */
  private readonly threads: ThreadPool<RunTask, number, void>
  /** All that were ever begun here, from the moment on at which others may see their rows. */
  private readonly begun = new Set<number>()
  /** Those that have ended here, while the database could not be told. */
  private readonly lost = new Set<number>()
  private readonly underWay = new Map<number, UnderWay>()
  private isClosed = false

  /** @param url of the database, for the thread's own connections */
  constructor(private readonly database: Database, url: string) {
    this.threads = new ThreadPool(url, 1)
  }

  start(job: RunJob): void {
    const one: UnderWay = { records: 0, isWaiting: false, stop: new AbortController(), ended: Promise.resolve() }
    this.underWay.set(job.runId, one)
    one.ended = this.threads.do({ kind: 'run', job }, {
      signal: one.stop.signal, heard: (records) => (one.records = records), delayed: () => (one.isWaiting = true), begun: () => (one.isWaiting = false),
    })
      .catch((error: Error) => (one.stop.signal.aborted ? undefined : this.failed(job.runId, error)))
      .finally(() => this.underWay.delete(job.runId))
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
    return this.underWay.get(runId)?.records ?? 0
  }

  isWaiting(runId: number): boolean {
    return this.underWay.get(runId)?.isWaiting ?? false
  }

  /** Ends a run that is under way; nothing of it stays. @returns whether there was one */
  async cancel(runId: number): Promise<boolean> {
    const one = this.underWay.get(runId)
    if (!one) return false
    one.stop.abort()
    await one.ended
    return true
  }

  async close(): Promise<void> {
    this.isClosed = true
    for (const runId of this.underWay.keys()) this.lost.add(runId)
    await this.threads.close()
  }

  private async failed(runId: number, error: Error): Promise<void> {
    // The next start tells those that ended with the program.
    if (this.isClosed) return
    const problem = error instanceof Refusal && error.problem.code === 'database-away' ? AWAY : error.message
    // Where the database is gone as well, the run is found under way with nobody at it, and told as stopped.
    await this.database.query("update run set state = 'failed', problem = $2 where id = $1 and state = 'under way'", [runId, problem]).catch(() => this.lost.add(runId))
  }
}
