/** How the values that a run saw are spread, counted where they lie. */
import type { Run } from '@dime-gate/contract/run'
import type { RunSpread, SpreadRequest } from '@dime-gate/contract/run-spread'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { type Database, joinedRows } from '../database/database'
import { refusals } from '../http/refusal'
import { runRelation, seenSource } from './run-relation'

/** @throws Refusal `not-found` where the run did not look at the column, `malformed` where it holds no numbers */
export async function spreadOfRun(database: Database, run: Run, columnId: number, { from, to, bins }: SpreadRequest): Promise<RunSpread> {
  const at = run.seen.indexOf(columnId)
  const column = run.columns.find(({ id }) => id === columnId)
  if (!column || at < 0) throw refusals.notFound('column of this run')
  if (!isNumeric(column.type)) throw refusals.malformed(`“${column.name}” holds no numbers.`)
  const { value } = seenSource(at, column.type)
  // Doubles do: a bin is as wide as a stroke on the screen.
  const rows = await joinedRows<{ bin: number; records: number }>(database, `
    select width_bucket(${value}::float8, ${from}::float8, ${to}::float8, ${bins}) as bin, count(*)::int as records from ${runRelation(run.id)} where ${value} between ${from} and ${to} group by 1`)
  const counts = Array<number>(bins).fill(0)
  // What lies exactly on the end belongs to the last bin.
  for (const { bin, records } of rows) counts[Math.min(bin, bins) - 1]! += records
  return counts
}
