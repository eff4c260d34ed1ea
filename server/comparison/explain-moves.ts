/** Why each record that two runs let land elsewhere does: decided again with the later state of some causes, and the earlier one of all else. */
import { columnsAsked, gatesAsked, type Question, tablesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import type { Column as TableColumn, Table } from '@dime-gate/contract/table'
import { CAUSES, type Cause, causesIn, type CauseSet, explained, setOf } from '@dime-gate/core/compare/causes'
import { isFilled, isSameCell, mixedColumn } from '@dime-gate/core/compare/mixed-column'
import { isSame } from '@dime-gate/core/gate/is-same'
import { resultMaker } from '@dime-gate/core/result/make-results'
import type { Cell } from '@dime-gate/core/table/cells'
import { type Column, columnOf } from '@dime-gate/core/table/table'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { parseDate } from '@dime-gate/core/value/temporal'
import { type Connection, ROOM, rowsOf, whileReading } from '../database/database'
import { computedColumns } from '../figure/figure-batches'
import { landedElsewhere, landingsOfBoth } from '../run/run-landings'
import { runRelation, seenSource } from '../run/run-relation'
import { columnFrom, type ColumnSource, recordsBatches, sourceOf } from '../table/read-column'
import { recordsAt, recordsWithDrawn } from '../table/relation'
import type { OnTask } from '../threads/serve-tasks'
import { landedIn, landingsOf } from './landed'

/** One of the two runs, and the table that it was made of as it stood. */
export interface Side {
  run: Run
  table: Pick<Table, 'id' | 'columns' | 'sets' | 'figures'>
}

export interface ExplainTask {
  kind: 'explain'
  before: Side
  after: Side
}

/** A record that lands elsewhere, or is there in one run alone. */
export interface MovedOne {
  record: number
  /** As `landedIn` tells it; null where there is none. */
  from: string | null
  to: string | null
  /** The place of its reason; null where it is new or gone. */
  reason: number | null
}

export interface Explained {
  moved: MovedOne[]
  /** By reason its sets of causes, the most records first. */
  reasons: Cause[][][]
}

/** Records that are explained at a time. */
const AT_ONCE = 65_536

export async function explainMoves({ before, after }: ExplainTask, { database, signal }: OnTask<never>): Promise<Explained> {
  const moved: MovedOne[] = []
  const sets: CauseSet[][] = []
  await whileReading(database, async (connection) => {
    await connection.query(`set local work_mem = '${ROOM}'`)
    moved.push(...(await movedRecords(connection, before.run, after.run)))
    const both = moved.filter(({ from, to }) => from !== null && to !== null)
    for (let start = 0; start < both.length; start += AT_ONCE) {
      if (signal.aborted) throw new Error('nobody waits for it any more')
      sets.push(...(await explainedSome(connection, before, after, both.slice(start, start + AT_ONCE))))
    }
  })
  return gathered(moved, sets)
}

async function movedRecords(connection: Connection, before: Run, after: Run): Promise<MovedOne[]> {
  const kept = await landingsOfBoth(connection, before.id, after.id)
  if (kept) return Array.from(landedElsewhere(...kept), (one) => ({ ...one, reason: null }))
  const [from, to] = [landedIn('was'), landedIn('now')]
  const rows = await rowsOf<Omit<MovedOne, 'reason'>>(connection, `
    select record, ${from} as "from", ${to} as "to" from ${runRelation(before.id)} as was full join ${runRelation(after.id)} as now using (record)
    where ${from} is distinct from ${to} order by record`)
  return rows.map((row) => ({ ...row, reason: null }))
}

/** @param sets by record that is in both, in order */
function gathered(moved: MovedOne[], sets: readonly CauseSet[][]): Explained {
  const counts = new Map<string, number>()
  const keys = sets.map((one) => JSON.stringify(one))
  for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1)
  const ordered = [...counts].toSorted((one, other) => other[1] - one[1]).map(([key]) => key)
  let place = 0
  for (const one of moved) if (one.from !== null && one.to !== null) one.reason = ordered.indexOf(keys[place++]!)
  return { moved, reasons: ordered.map((key) => (JSON.parse(key) as CauseSet[]).map(causesIn)) }
}

/** A side's columns for some records, in the order of their numbers. */
type Values = ReadonlyMap<number, Column>

async function explainedSome(connection: Connection, before: Side, after: Side, some: readonly MovedOne[]): Promise<CauseSet[][]> {
  const wanted = [...new Set([before, after].flatMap(({ run }) => columnsAsked(questionOf(run))))]
  const needed = [...new Set([before, after].flatMap((side) => neededOf(side, wanted)))]
  const records = some.map(({ record }) => record)
  const [was, now] = [await valuesOf(connection, before, needed, records), await valuesOf(connection, after, needed, records)]
  const scene = new Scene({ side: before, values: was }, { side: after, values: now }, wanted, some.length)
  return explained(scene.active(), some.map(({ from }) => from!), some.map(({ to }) => to!), (set) => scene.landsAt(set))
}

/** What has to be read for these columns: themselves, and for figures what these are made of. */
function neededOf({ run, table }: Side, wanted: readonly number[]): number[] {
  const columns = table.columns.filter(({ id }) => wanted.includes(id))
  return [...columns.filter(({ feel }) => feel === null), ...computedColumns(table, columns.filter(({ feel }) => feel !== null), parseDate(run.asOf)!).needed].map(({ id }) => id)
}

async function valuesOf(connection: Connection, { run, table }: Side, needed: readonly number[], records: readonly number[]): Promise<Values> {
  const columns = table.columns.filter(({ id }) => needed.includes(id))
  const sources = columns.map((column): ColumnSource => (column.drawn !== null && run.seen.includes(column.id) ? seenSource(run.seen.indexOf(column.id), column.type) : sourceOf(column)))
  const from = `${recordsWithDrawn(table, recordsAt(run.tableId, run.tableVersion))} join ${runRelation(run.id)} as kept using (record) where record = any('{${records.join(',')}}'::integer[]) order by record`
  for await (const batch of recordsBatches(connection, from, sources, records.length)) return new Map(columns.map(({ id }, at) => [id, columnFrom(batch, at, sources[at]!.kind)]))
  throw new Error('records of a run are not in its table')
}

function questionOf({ gate, binding, feeding }: Run): Question {
  return { gate, inputs: binding, feeding }
}

/** What the two runs were made of, taken apart into causes. */
class Scene {
  private readonly mixed = new Map<string, Column>()

  constructor(
    private readonly before: { side: Side; values: Values },
    private readonly after: { side: Side; values: Values },
    private readonly wanted: readonly number[],
    private readonly length: number,
  ) {}

  /** The causes that there are at all. */
  active(): CauseSet {
    const [was, now] = [this.before.side, this.after.side]
    const gates = ({ run }: Side) => [run.gate, ...run.feeding.map(({ gate }) => gate)]
    const bindings = ({ run }: Side) => [run.binding, ...run.feeding.map(({ inputs }) => inputs)]
    const definitions = ({ table }: Side) => table.columns.filter(({ feel }) => feel !== null).map(({ id, feel }) => [id, feel])
    const causes: Record<Cause, boolean> = {
      gate: !isSame(gates(was), gates(now)),
      binding: !isSame(bindings(was), bindings(now)),
      figure: !isSame(definitions(was), definitions(now)),
      date: was.run.asOf !== now.run.asOf,
      value: this.anyCell(({ drawn }) => drawn === null, (one, other, at) => !isSameCell(one, other, at) && !isFilled(one, other, at)),
      'blank filled': this.anyCell(({ drawn }) => drawn === null, isFilled),
      drawn: this.anyCell(({ drawn }) => drawn !== null, (one, other, at) => !isSameCell(one, other, at)),
    }
    return setOf(CAUSES.filter((cause) => causes[cause]))
  }

  landsAt(set: CauseSet): string[] {
    const later = new Set(causesIn(set))
    const run = (cause: Cause) => (later.has(cause) ? this.after : this.before).side.run
    const { gate, feeding } = run('gate')
    const bound = run('binding')
    const question: Question = { gate, inputs: bound.binding, feeding: feeding.map((one) => ({ gate: one.gate, inputs: bound.feeding.find((other) => other.gate.name === one.gate.name)?.inputs ?? one.inputs })) }
    const asked = gatesAsked(question)
    // What does not go together leads nowhere.
    if ('problems' in asked) return new Array<string>(this.length).fill('')
    const today = parseDate(run('date').asOf)!
    return landingsOf(resultMaker(tablesAsked(question, this.length, this.columns(later)), today)(asked.gates))
  }

  private columns(later: ReadonlySet<Cause>): (id: number) => Column {
    const { table } = (later.has('figure') ? this.after : this.before).side
    const run = (later.has('date') ? this.after : this.before).side.run
    const given = (id: number) => this.given(id, later)
    const figures = table.columns.filter(({ id, feel }) => feel !== null && this.wanted.includes(id))
    const computed = computedColumns(table, figures, parseDate(run.asOf)!).columns(this.length, given)
    return (id) => (figures.some((one) => one.id === id) ? computed(id) : given(id))
  }

  private given(id: number, later: ReadonlySet<Cause>): Column {
    const column = this.columnNamed(id)
    if (!column) return columnOf('text', new Array<Cell>(this.length).fill(null))
    const [was, now] = this.pair(column)
    if (column.drawn !== null) return later.has('drawn') ? now : was
    const taken = { value: later.has('value'), filled: later.has('blank filled') }
    const key = `${id} ${taken.value} ${taken.filled}`
    const known = this.mixed.get(key) ?? mixedColumn(kindOfColumn(column.type), was, now, taken)
    this.mixed.set(key, known)
    return known
  }

  /** A column that one side does not have is blank there. */
  private pair({ id, type }: TableColumn): [Column, Column] {
    const blank = () => columnOf(kindOfColumn(type), new Array<Cell>(this.length).fill(null))
    return [this.before.values.get(id) ?? blank(), this.after.values.get(id) ?? blank()]
  }

  private columnNamed(id: number): TableColumn | undefined {
    const isIt = (column: TableColumn) => column.id === id
    return this.before.side.table.columns.find(isIt) ?? this.after.side.table.columns.find(isIt)
  }

  private anyCell(isMeant: (column: TableColumn) => boolean, differs: (was: Column, now: Column, at: number) => boolean): boolean {
    const ids = [...new Set([...this.before.values.keys(), ...this.after.values.keys()])]
    return ids.some((id) => {
      const column = this.columnNamed(id)!
      if (!isMeant(column)) return false
      const [was, now] = this.pair(column)
      for (let at = 0; at < this.length; at++) if (differs(was, now, at)) return true
      return false
    })
  }
}
