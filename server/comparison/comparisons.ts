/** Comparisons of runs. Runs stay as they are, so what was found out of two is kept. */
import type { Comparison, Moved, MovedRequest, MoveReason } from '@dime-gate/contract/comparison'
import type { Run } from '@dime-gate/contract/run'
import { isComputed } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { type Database, type Queryable, rowsOf } from '../database/database'
import { runRelation, seenSource } from '../run/run-relation'
import { columnsAt } from '../table/table-itself'
import { findTable } from '../table/tables'
import { ThreadPool } from '../threads/thread-pool'
import { compareRuns } from './compare-runs'
import type { Explained, ExplainTask, Side } from './explain-moves'
import { byWords, type MovedLine } from './moved-table'
import { landedText, landingOf } from './landed'

/** Pairs of runs of which everything is kept. */
const MOST_KEPT = 8
const MOST_EXAMPLES = 3

export class Comparisons {
  private readonly pool: ThreadPool<ExplainTask, never, Explained>
  private readonly kept = new Map<string, Promise<Explained>>()

  /** @param database where long questions are in nobody's way @param url for the thread's own connections */
  constructor(private readonly database: Database, url: string) {
    this.pool = new ThreadPool(url, 1)
  }

  /** @param before of the same table as `after`, both done */
  compare(before: Run, after: Run): Promise<Comparison> {
    return compareRuns(this.database, before, after)
  }

  /** Why records moved. */
  async reasons(before: Run, after: Run): Promise<MoveReason[]> {
    const { moved, reasons } = await this.explained(before, after)
    return reasons.map((sets, at) => {
      const own = moved.filter(({ reason }) => reason === at)
      return { sets, records: own.length, examples: own.slice(0, MOST_EXAMPLES).map(({ record }) => record) }
    })
  }

  /** Records that moved, as far as they are asked for. */
  async moved(before: Run, after: Run, { move, reason, from, count }: MovedRequest): Promise<Moved> {
    const { moved } = await this.explained(before, after)
    const text = (landing: Parameters<typeof landedText>[0] | null) => landing && landedText(landing)
    const own = moved.filter((one) => (move === null || (one.from === text(move.from) && one.to === text(move.to))) && (reason === null || one.reason === reason))
    const some = own.slice(from, from + count)
    const changes = await changesOf(this.database, before, after, some.map(({ record }) => record))
    return {
      total: own.length,
      rows: some.map((one) => ({ ...one, from: one.from === null ? null : landingOf(one.from), to: one.to === null ? null : landingOf(one.to), changes: changes.get(one.record) ?? [] })),
    }
  }

  /** All that moved, as it is taken out. */
  async lines(before: Run, after: Run): Promise<MovedLine[]> {
    const { moved, reasons } = await this.explained(before, after)
    return moved.map(({ record, from, to, reason }) => ({ record, from, to, by: reason !== null ? byWords(reasons[reason]!) : from === null ? 'new' : 'gone' }))
  }

  private explained(before: Run, after: Run): Promise<Explained> {
    const key = `${before.id} ${after.id}`
    const known = this.kept.get(key)
    if (known) return known
    const found = Promise.all([this.side(before), this.side(after)]).then(([was, now]) => this.pool.do({ kind: 'explain', before: was, after: now }))
    this.kept.set(key, found)
    // What could not be found out is asked again.
    found.catch(() => this.kept.delete(key))
    if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!)
    return found
  }

  /** Figures are defined as the run saw them; those beneath them, and what comes from other tables and was not looked at, as they are now. */
  private async side(run: Run): Promise<Side> {
    const [table, columns] = await Promise.all([findTable(this.database, run.tableId).catch(() => null), columnsAt(this.database, run.tableId, run.tableVersion)])
    const asSeen = columns.map((column) => (isComputed(column) ? (run.columns.find(({ id }) => id === column.id) ?? column) : column))
    return { run, table: { id: run.tableId, columns: asSeen, sets: table?.sets ?? [], figures: table?.figures ?? null } }
  }

  close(): Promise<unknown> {
    return this.pool.close()
  }
}

/** By record what both runs looked at and saw otherwise. */
async function changesOf(on: Queryable, before: Run, after: Run, records: readonly number[]): Promise<Map<number, Moved['rows'][number]['changes']>> {
  const both = after.columns.filter(({ id }) => before.seen.includes(id) && after.seen.includes(id))
  if (both.length === 0 || records.length === 0) return new Map()
  const text = (run: Run, as: string, id: number) => {
    const { type } = run.columns.find((column) => column.id === id)!
    const { value, unreadable } = seenSource(run.seen.indexOf(id), type)
    return `coalesce(${isNumeric(type) ? `trim_scale(${as}.${value})` : `${as}.${value}`}::text, ${as}.${unreadable})`
  }
  const pairs = both.flatMap(({ id }) => [text(before, 'was', id), text(after, 'now', id)])
  const rows = await rowsOf<{ record: number; texts: (string | null)[] }>(on, `
    select record, array[${pairs.join(', ')}]::text[] as texts from ${runRelation(before.id)} as was join ${runRelation(after.id)} as now using (record) where record = any($1::integer[])`, [records])
  return new Map(rows.map(({ record, texts }) => [record, both.flatMap(({ id, name }, at) => (texts[2 * at] === texts[2 * at + 1] ? [] : [{ column: id, name, from: texts[2 * at]!, to: texts[2 * at + 1]! }]))]))
}
