/** Sees to it that the exceptions of the last runs are found, by what holds now. */
import type { HighlightList } from '@dime-gate/contract/highlight'
import type { Review } from '@dime-gate/contract/review'
import { type Database, rowsOf } from '../database/database'
import { findHighlights } from '../gate/highlights'
import type { RunJobs } from '../run/run-jobs'
import { findRun } from '../run/runs'
import { ThreadPool } from '../threads/thread-pool'
import { countExceptions, lastRuns, listReviewers } from './exception-list'
import type { ExceptionsTask, FoundBy } from './find-exceptions'

/** Milliseconds that a page waits for exceptions that are being found; those of most runs are there by then. */
const PATIENCE = 400
/** Milliseconds until it is tried once more where it failed. */
const AGAIN_AFTER = 30_000

export class Reviews {
  private readonly pool: ThreadPool<ExceptionsTask, never, void>
  /** By run and by what they are found. */
  private readonly looking = new Map<string, { runId: number; done: Promise<void> }>()
  /** Those of which it failed, with when: they are not looked at again and again. */
  private readonly failed = new Map<string, { runId: number; at: number }>()

  /** @param database where long questions are in nobody's way @param url of the database, for the thread's own connections */
  constructor(private readonly database: Database, private readonly jobs: RunJobs, url: string) {
    this.pool = new ThreadPool(url, 1)
  }

  /** All there is to review, in numbers; what is being found is told, and found by the next time. */
  async read(): Promise<Review> {
    const runs = await lastRuns(this.database)
    await this.lookThrough(runs.map(({ id }) => id))
    // Told before it is counted: what is found in between would be neither counted nor looked for.
    const [still, failed] = [[...this.looking.values()], [...this.failed.values()]].map((all) => all.map(({ runId }) => runId))
    const counts = await countExceptions(this.database, runs.map(({ id }) => id))
    return { runs, counts, looking: still!, failed: failed!, people: await listReviewers(this.database) }
  }

  /** Looks for those that have not been looked for, and waits a moment: most are there by then. */
  async lookThrough(runs: readonly number[]): Promise<void> {
    await this.see(runs)
    const looking = [...this.looking.values()]
    await Promise.race([Promise.allSettled(looking.map(({ done }) => done)), new Promise((resolve) => setTimeout(resolve, PATIENCE))])
  }

  /** Begins to look for the exceptions of those that have not been looked at, or by something else than holds now. */
  private async see(runs: readonly number[]): Promise<void> {
    const missing = await rowsOf<{ id: number; gateId: number } & FoundBy>(this.database, `
      select r.id, r.gate_id as "gateId", g.highlights_version as highlights, p.id as before from run r join gate g on g.id = r.gate_id
      left join lateral (select id from run p where p.gate_id = r.gate_id and p.table_id = r.table_id and p.id < r.id and p.state = 'done' and p.removed_at is null order by id desc limit 1) as p on true
      where r.id = any($1) and r.exceptions_by is distinct from jsonb_build_object('highlights', g.highlights_version, 'before', p.id)`, [runs])
    // What has been found since, or is looked for by something else now, has failed no more.
    const wanted = new Set(missing.map(({ id, highlights, before }) => JSON.stringify([id, highlights, before])))
    for (const key of this.failed.keys()) if (!wanted.has(key)) this.failed.delete(key)
    for (const { id, gateId, highlights, before } of missing) {
      const key = JSON.stringify([id, highlights, before])
      if (this.looking.has(key) || Date.now() - (this.failed.get(key)?.at ?? 0) < AGAIN_AFTER) continue
      this.failed.delete(key)
      const done = this.find(id, gateId, before).catch(() => void this.failed.set(key, { runId: id, at: Date.now() })).finally(() => this.looking.delete(key))
      this.looking.set(key, { runId: id, done })
    }
  }

  private async find(id: number, gateId: number, before: number | null): Promise<void> {
    const list: HighlightList = await findHighlights(this.database, gateId)
    const run = await findRun(this.database, this.jobs, id)
    await this.pool.do({ kind: 'exceptions', run, by: { highlights: list.version, before }, highlights: list.highlights })
  }

  close(): Promise<unknown> {
    return this.pool.close()
  }
}
