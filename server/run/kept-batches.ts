/** What a run kept, as core's own result, some records at a time: told as it was made, not decided again. */
import { gatesAsked, tablesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import { keptResult } from '@dime-gate/core/result/make-results'
import type { Result } from '@dime-gate/core/result/result'
import { NONE } from '@dime-gate/core/rule/rules'
import type { Column } from '@dime-gate/core/table/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { Connection } from '../database/database'
import { columnFrom, recordsBatches, recordsOf } from '../table/read-column'
import { columnOfRun, runRelation, runWithRecords, seenSource } from './run-relation'

/** Records that are held at a time, with all that is asked of them. */
const AT_ONCE = 65_536

/** @property records their numbers, by place in the result @property others the columns that were asked for beside, by id */
export interface KeptBatch {
  records: Int32Array
  result: Result
  others: ReadonlyMap<number, Column>
}

/** @property stretch the records behind one, by its number, in one batch; all where none is said @property others columns of the run beside those that stand for inputs, by id */
export interface KeptAsked {
  stretch?: { after: number; most: number }
  others?: readonly number[]
}

/** In the order of the records. @param run that is done */
export async function* keptBatches(connection: Connection, run: Run, { stretch, others = [] }: KeptAsked = {}): AsyncGenerator<KeptBatch> {
  const asked = gatesAsked(run)
  if ('problems' in asked) throw new Error(`the gate of a run cannot be read: ${JSON.stringify(asked.problems[0])}`)
  const today = parseDate(run.asOf)!
  const question = { gate: run.gate, inputs: run.binding, feeding: run.feeding }
  const sources = run.seen.map((id, at) => seenSource(at, run.columns.find((one) => one.id === id)!.type))
  const decided = [{ kind: 'number' as const, value: 'status', unreadable: null }, { kind: 'number' as const, value: `coalesce(rule, ${NONE})`, unreadable: null }]
  const beside = others.map((id) => columnOfRun(run, id)!)
  const from = beside.some(({ isSeen }) => !isSeen) ? runWithRecords(run) : runRelation(run.id)
  for await (const batch of recordsBatches(connection, `${from} ${stretch ? `where record > ${stretch.after} order by record limit ${stretch.most}` : 'order by record'}`, [...decided, ...sources, ...beside.map(({ source }) => source)], stretch?.most ?? AT_ONCE)) {
    const { length } = batch.rows
    const whole = (at: number) => (row: number) => batch.rows.whole(row, batch.fields[at]!.value)
    const kept = { status: Uint8Array.from({ length }, (_, row) => whole(0)(row)), rule: Int32Array.from({ length }, (_, row) => whole(1)(row)) }
    const columns = new Map(run.seen.map((id, at) => [id, columnFrom(batch, at + decided.length, sources[at]!.kind)]))
    const [records, behind] = [recordsOf(batch), decided.length + sources.length]
    yield {
      records, result: keptResult(asked.gates, tablesAsked(question, length, (id) => columns.get(id)!), today, kept),
      others: new Map(beside.map(({ source }, at) => [others[at]!, columnFrom(batch, behind + at, source.kind)])),
    }
  }
}
