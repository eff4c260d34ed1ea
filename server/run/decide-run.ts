/** Decides a table by a gate's version, batch by batch, and stores what came of it: all of it, or nothing. */
import { type Column as TableColumn, isComputed, type Table } from '@dime-gate/contract/table'
import { columnsAsked, gatesAsked, type Question, tablesAsked } from '@dime-gate/contract/question'
import type { ReadyGate } from '@dime-gate/core/bulk/decide-gates'
import { addCounts, type AllCounts } from '@dime-gate/core/result/counts'
import { resultMaker } from '@dime-gate/core/result/make-results'
import type { Result } from '@dime-gate/core/result/result'
import type { Column } from '@dime-gate/core/table/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import { copyIn } from '../database/copy-in'
import { inTransaction, whileReading } from '../database/database'
import { figureReader } from '../figure/figure-batches'
import { recordsAt, recordsWithDrawn } from '../table/relation'
import { columnFrom, type ColumnSource, type RecordsBatch, recordsBatches, recordsOf, sourceOf } from '../table/read-column'
import type { OnTask } from '../threads/serve-tasks'
import { createRunRelation, filledFields, keyRunRelation, runFields, runRelation } from './run-relation'
import { LandingWriter } from './run-landings'
import { givesTheSame, rowWriter } from './run-rows'

export interface RunJob {
  runId: number
  tableId: number
  tableVersion: number
  question: Question
  asOf: string
  /** Those that the question looks at, in its order. */
  columns: TableColumn[]
  /** All that figures can be made of, as it is when the run is begun. */
  table: Pick<Table, 'id' | 'columns' | 'sets' | 'figures'>
}

/** Records that are decided at a time: enough to share the work among them, and few enough to be held at once with all they say. */
const AT_ONCE = 65_536

/** One connection reads while another writes; only the last word of the writing one makes any of it count. Tells how many records are decided. */
export async function decideRun(job: RunJob, { database, say, signal }: OnTask<number>): Promise<void> {
  const { runId, tableId, tableVersion, question, columns } = job
  const fields = runFields(question.gate, columns)
  await inTransaction(database, async (writing) => {
    await writing.query(createRunRelation(runId, fields))
    // Rows of a relation that nobody else can see yet are settled at once.
    const decider = batchDecider(job)
    const rowsOf = rowWriter(decider.gate)
    const [landings, isFixed] = [new LandingWriter(), givesTheSame(decider.gate)]
    const total = await copyIn(writing, `copy ${runRelation(runId)} (${filledFields(fields).join(', ')}) from stdin with (freeze)`, async (write) => {
      let sum: AllCounts | null = null
      await whileReading(database, async (reading) => {
        for await (const batch of recordsBatches(reading, `${recordsWithDrawn(job.table, recordsAt(tableId, tableVersion))} order by record`, decider.sources, AT_ONCE)) {
          const { result, seen, computed } = decider.decide(batch)
          sum = addCounts(sum, { ...result.counts(), ...result.further() })
          landings.add(recordsOf(batch), result, isFixed)
          for (const some of rowsOf(seen, computed, result)) await write(some)
          say(sum.records)
          if (signal.aborted) throw new Error('the run was broken off')
        }
      })
      return sum
    })
    await writing.query(keyRunRelation(runId))
    await landings.write(writing, runId)
    await writing.query("update run set state = 'done', counts = $2 where id = $1", [runId, total])
  })
}

export interface BatchDecider {
  gate: ReadyGate
  /** What is read of a record. */
  sources: ColumnSource[]
  /** What becomes of the records of a batch; the fields that were given, and the columns that were computed, as they were seen. */
  decide(batch: RecordsBatch): { result: Result; seen: RecordsBatch; computed: Column[] }
}

export function batchDecider({ question, columns, table, asOf }: Pick<RunJob, 'question' | 'columns' | 'table' | 'asOf'>): BatchDecider {
  const asked = gatesAsked(question)
  if ('problems' in asked) throw new Error(`the gate cannot decide: ${JSON.stringify(asked.problems[0])}`)
  const today = parseDate(asOf)!
  const [given, figures] = [columns.filter((column) => !isComputed(column)), columns.filter(isComputed)]
  const givenSources = given.map(sourceOf)
  const reader = figureReader(table, figures, today)
  return {
    gate: asked.gates.at(-1)!,
    sources: [...givenSources, ...reader.sources],
    decide(batch) {
      const figureOf = reader.read(batch, given.length)
      const read = new Map([
        ...given.map(({ id }, at) => [id, columnFrom(batch, at, givenSources[at]!.kind)] as const),
        ...figures.map(({ id }) => [id, figureOf(id)] as const),
      ])
      const result = resultMaker(tablesAsked(question, batch.rows.length, (id) => read.get(id)!), today)(asked.gates)
      return { result, seen: { rows: batch.rows, fields: batch.fields.slice(0, given.length) }, computed: figures.map(({ id }) => read.get(id)!) }
    },
  }
}

/** The columns that a question looks at, of those that a table has. */
export function columnsToRead(question: Question, columns: readonly TableColumn[]): TableColumn[] {
  return columnsAsked(question).map((id) => columns.find((one) => one.id === id)!)
}
