/** What is told of the last run of each gate on each table: whether it comes to what is expected, and whether it is fresh. Kept as long as nothing has changed that it hangs on. */
import type { Desk } from '@dime-gate/contract/desk'
import type { RunSummary } from '@dime-gate/contract/run'
import type { Freshness } from './comparison/freshness'
import { type Database, rowOf } from './database/database'
import type { RunChecks } from './expectation/check-run'
import type { RunJobs } from './run/run-jobs'
import { findRun } from './run/runs'

type Told = Pick<Desk, 'expected' | 'fresh'>

/** All that can make it another: whatever is changed anywhere moves a version, comes, goes, or gets another name. */
const STAMP = `
  select concat_ws(' ', coalesce(as_of, current_date),
    (select md5(string_agg(concat_ws(' ', id, version, name, removed_at is null), ',' order by id)) from data_table),
    (select md5(string_agg(concat_ws(' ', id, draft_version, removed_at is null, former_names), ',' order by id)) from gate),
    (select count(*) from gate_version),
    (select md5(string_agg(concat_ws(' ', gate_id, table_id, version), ',' order by gate_id, table_id)) from binding),
    (select md5(string_agg(concat_ws(' ', id, state), ',' order by id)) from run where removed_at is null),
    (select md5(string_agg(id::text, ',' order by id)) from expectation),
    (select md5(string_agg(concat_ws(' ', table_id, generation, table_version, as_of), ',' order by table_id)) from figure_state)) as stamp
  from workspace`

export class LastRuns {
  private kept: { stamp: string; told: Promise<Told> } | null = null

  constructor(private readonly database: Database, private readonly jobs: { runs: RunJobs; checks: RunChecks; freshness: Freshness }) {}

  /** How things stand; read before, or while, the runs are that are asked about. */
  async stamp(): Promise<string> {
    return (await rowOf<{ stamp: string }>(this.database, STAMP))!.stamp
  }

  /** @param stamp is never newer than what is found here, so that nothing older is told under it @param runs all, the latest first */
  async told(stamp: string, runs: readonly RunSummary[]): Promise<Told> {
    const key = `${stamp} ${runs.map(({ id, state }) => `${id} ${state}`).join(',')}`
    if (this.kept?.stamp === key) return this.kept.told
    const told = this.lookedInto(runs)
    const mine = { stamp: key, told }
    this.kept = mine
    const forget = () => {
      if (this.kept === mine) this.kept = null
    }
    void told.then(async ({ fresh }) => {
      // Who is still being counted is asked again; and what was changed on the way may be changed back, which the stamp would not tell.
      const isCounting = Object.values(fresh).some(({ otherwise, problem }) => otherwise === null && problem === null)
      if (isCounting || (await this.stamp()) !== stamp) forget()
    }).catch(forget)
    return told
  }

  private async lookedInto(runs: readonly RunSummary[]): Promise<Told> {
    const done = runs.filter(({ state }) => state === 'done')
    const latest = done.filter(({ gateId, tableId }, at) => !done.slice(0, at).some((one) => one.gateId === gateId && one.tableId === tableId))
    const told = await Promise.all(latest.map(async ({ id }) => {
      const run = await findRun(this.database, this.jobs.runs, id)
      return { id, tally: await this.jobs.checks.tally(this.database, run), known: await this.jobs.freshness.known(run) }
    }))
    return { expected: Object.fromEntries(told.flatMap(({ id, tally }) => (tally ? [[id, tally]] : []))), fresh: Object.fromEntries(told.map(({ id, known }) => [id, known])) }
  }
}
