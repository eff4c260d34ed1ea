/** Whether runs would come out the same if they were made now, and where not, by how many records. */
import type { Fresh, Run } from '@dime-gate/contract/run'
import type { Database } from '../database/database'
import { currentDay } from '../figure/stored-figures'
import { findGate } from '../gate/gates'
import { Refusal } from '../http/refusal'
import { columnsToRead } from '../run/decide-run'
import { planFor, type RunPlan } from '../run/runs'
import { ThreadPool } from '../threads/thread-pool'
import { differencesBetween } from './compare-runs'
import type { FreshTask } from './count-otherwise'

/** Runs of which it is kept by how many records they would come out otherwise. */
const MOST_KEPT = 200

/** Milliseconds that a page which shows many runs waits for what one would come to. */
const PATIENCE = 150

/** How things stand for a run. */
interface Now {
  fresh: Fresh
  /** What a run would be made of now; null where none could be made. */
  job: FreshTask['job'] | null
  /** Tells this state from others: all that a run would be made of. */
  key: string
}

export class Freshness {
  private readonly pool: ThreadPool<FreshTask, never, number>
  private readonly counted = new Map<string, Promise<number>>()

  /** @param url of the database, for the thread's own connections */
  constructor(private readonly database: Database, url: string) {
    this.pool = new ThreadPool(url, 1)
  }

  /** With the number of records, however long that takes. */
  async of(run: Run): Promise<Fresh> {
    const { fresh, job, key } = await this.now(run)
    if (!job) return fresh
    return { ...fresh, otherwise: await this.count(key, { kind: 'fresh', runId: run.id, job }) }
  }

  /** What is known at once, or nearly: counting goes on, and is there when somebody asks again. */
  async known(run: Run): Promise<Fresh> {
    const { fresh, job, key } = await this.now(run)
    if (!job) return fresh
    // What comes from other tables may have changed without any version of this one.
    if (isAlike(fresh) && job.table.columns.every(({ drawn }) => drawn === null)) return { ...fresh, otherwise: 0 }
    const counted = this.count(key, { kind: 'fresh', runId: run.id, job }).catch(() => null)
    return { ...fresh, otherwise: await Promise.race([counted, new Promise<null>((resolve) => setTimeout(() => resolve(null), PATIENCE))]) }
  }

  private async now(run: Run): Promise<Now> {
    try {
      const { latestVersion } = await findGate(this.database, run.gateId)
      const { plan } = await planFor(this.database, run.gateId, latestVersion, run.tableId)
      // A date that was asked for is part of what was asked, and does not grow old.
      const asOf = run.isAsOfAsked ? run.asOf : await currentDay(this.database)
      const fresh: Fresh = { differences: differencesBetween(run, asRun(run, plan, latestVersion, asOf)), problem: null, otherwise: null }
      const { table, question } = plan
      const job: FreshTask['job'] = { question, asOf, columns: columnsToRead(question, table.columns), tableId: table.id, tableVersion: table.version, table: { id: table.id, columns: table.columns, sets: table.sets, figures: table.figures } }
      return { fresh, job, key: JSON.stringify([run.id, job.question, job.table, job.tableVersion, asOf]) }
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      return { fresh: { differences: null, problem: error.problem.message, otherwise: null }, job: null, key: '' }
    }
  }

  private count(key: string, task: FreshTask): Promise<number> {
    const known = this.counted.get(key)
    if (known) return known
    const counted = this.pool.do(task)
    this.counted.set(key, counted)
    counted.catch(() => this.counted.delete(key))
    if (this.counted.size > MOST_KEPT) this.counted.delete(this.counted.keys().next().value!)
    return counted
  }

  close(): Promise<unknown> {
    return this.pool.close()
  }
}

/** What a run would be, if it were made now. */
function asRun(run: Run, { question, feeding, table }: RunPlan, gateVersion: number, asOf: string): Run {
  return { ...run, isDraft: false, gate: question.gate, gateVersion, binding: question.inputs, feeding, tableVersion: table.version, asOf, columns: table.columns }
}

export function isAlike({ differences }: Pick<Fresh, 'differences'>): boolean {
  return differences !== null && Object.values(differences).every((one) => one === null || (Array.isArray(one) && one.length === 0))
}

