/** What a run kept, as core's own result, some records at a time: told as it was made, not decided again. */
import { gatesAsked, tablesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import { keptResult } from '@dime-gate/core/result/make-results'
import type { Result } from '@dime-gate/core/result/result'
import { NONE } from '@dime-gate/core/rule/rules'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { Connection } from '../database/database'
import { columnFrom, recordsBatches, recordsOf } from '../table/read-column'
import { runRelation, seenSource } from './run-relation'

/** Records that are held at a time, with all that is asked of them. */
const AT_ONCE = 65_536

/** @param records their numbers, by place in the result */
export interface KeptBatch {
  records: Int32Array
  result: Result
}

/** In the order of the records. @param run that is done @param stretch the records behind one, by its number, in one batch; all where none is said */
export async function* keptBatches(connection: Connection, run: Run, stretch?: { after: number; most: number }): AsyncGenerator<KeptBatch> {
  const asked = gatesAsked(run)
  if ('problems' in asked) throw new Error(`the gate of a run cannot be read: ${JSON.stringify(asked.problems[0])}`)
  const today = parseDate(run.asOf)!
  const question = { gate: run.gate, inputs: run.binding, feeding: run.feeding }
  const sources = run.seen.map((id, at) => seenSource(at, run.columns.find((one) => one.id === id)!.type))
  const decided = [{ kind: 'number' as const, value: 'status', unreadable: null }, { kind: 'number' as const, value: `coalesce(rule, ${NONE})`, unreadable: null }]
  for await (const batch of recordsBatches(connection, `${runRelation(run.id)} ${stretch ? `where record > ${stretch.after} order by record limit ${stretch.most}` : 'order by record'}`, [...decided, ...sources], stretch?.most ?? AT_ONCE)) {
    const { length } = batch.rows
    const whole = (at: number) => (row: number) => batch.rows.whole(row, batch.fields[at]!.value)
    const kept = { status: Uint8Array.from({ length }, (_, row) => whole(0)(row)), rule: Int32Array.from({ length }, (_, row) => whole(1)(row)) }
    const columns = new Map(run.seen.map((id, at) => [id, columnFrom(batch, at + decided.length, sources[at]!.kind)]))
    yield { records: recordsOf(batch), result: keptResult(asked.gates, tablesAsked(question, length, (id) => columns.get(id)!), today, kept) }
  }
}
