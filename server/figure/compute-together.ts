/** Tables that are drawn from one another, computed together: step by step, whatever can be computed of any of them, until nothing is left. */
import type { Drawn } from '@dime-gate/contract/drawn'
import type { Question } from '@dime-gate/contract/question'
import { type Column as TableColumn, isComputed, type Table } from '@dime-gate/contract/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import { copyIn } from '../database/copy-in'
import { type Connection, isOfTheData } from '../database/database'
import { SQL_TYPES } from '../table/column-types'
import { recordsBatches } from '../table/read-column'
import { recordsWithFigures, relationOf, valueOf } from '../table/relation'
import { drawnSql, type Readable } from './drawn-sql'
import { figureReader } from './figure-batches'
import { fieldsOf, linesOf } from './figure-lines'
import { type Network, needsOf } from './network'
import { computable, figureColumns, figureRelation } from './stored-figures'
import { syncGroups } from './sync-groups'

/** Records that are held at once. */
export const AT_ONCE = 65_536

/** Columns of a table that were computed in one go, in a relation that goes with the transaction. */
interface Step {
  relation: string
  columns: number[]
}

/** Tables that are drawn from one another: step by step, whatever can be computed of any of them. */
export class Together {
  private readonly tables: Map<number, Table>
  private readonly steps = new Map<number, Step[]>()
  private readonly fresh = new Map<number, number>()

  constructor(
    private readonly connection: Connection,
    private readonly network: Network,
    private readonly stale: readonly number[],
  ) {
    this.tables = new Map(network.tables)
    for (const id of stale) this.steps.set(id, [])
  }

  /** @returns the network as it is then: tables of groups have others */
  async compute(): Promise<Network> {
    for (const id of this.tables.keys()) {
      const state = this.steps.has(id) ? undefined : this.network.states.get(id)
      if (state) this.fresh.set(id, state.generation)
    }
    const waiting = new Set(this.stale.filter((id) => this.tables.get(id)!.rollUp !== null))
    for (let did = true; did;) {
      did = false
      for (const id of this.stale) {
        if (waiting.has(id)) {
          if (!this.areGroupsKnown(id)) continue
          waiting.delete(id)
          this.tables.set(id, await syncGroups(this.connection, this.tables.get(id)!, this.readable(this.tables.get(id)!.rollUp!.table)))
          did = true
        }
        if (await this.draw(id)) did = true
        if (await this.reckon(id)) did = true
      }
    }
    return { ...this.network, tables: this.tables }
  }

  private areGroupsKnown(id: number): boolean {
    const { table, by } = this.tables.get(id)!.rollUp!
    return by.every(({ column }) => this.isReady(table, column))
  }

  /** One that is gone is as well known as it ever will be. */
  private isReady(table: number, column: number): boolean {
    const found = this.tables.get(table)?.columns.find(({ id }) => id === column)
    return !found || !isComputed(found) || !this.steps.has(table) || this.steps.get(table)!.some(({ columns }) => columns.includes(column))
  }

  private left(id: number): TableColumn[] {
    return this.tables.get(id)!.columns.filter((column) => isComputed(column) && !this.isReady(id, column.id))
  }

  /** What comes from other records, by the database. @returns whether there was any */
  private async draw(id: number): Promise<boolean> {
    const own = this.readable(id)
    const ready = this.left(id).filter(
      (column): column is TableColumn & { drawn: Exclude<Drawn, { kind: 'label' }> } =>
        column.drawn !== null &&
        column.drawn.kind !== 'label' &&
        needsOf(this.network, { table: id, column: column.id }).every((need) => this.isReady(need.table, need.column)),
    )
    if (ready.length === 0) return false
    const drawing = {
      own,
      other: (table: number) => (this.tables.has(table) ? this.readable(table) : null),
      today: parseDate(this.network.day)!,
      asked: null,
    }
    const { joins, values } = drawnSql(drawing, ready)
    const fields = ready.map((column) => `${values.get(column.id)!} as ${valueOf(column.id)}`)
    const step = this.step(id, ready)
    const make = (values: readonly string[], of: string) =>
      this.connection.query(
        `create temporary table ${step.relation} on commit drop as select ${['record', ...values].join(', ')} from ${of}`,
      )
    await this.connection.query('savepoint drawing')
    try {
      await make(fields, `${own.from} ${joins}`)
    } catch (error) {
      // A value that the database cannot make, or types that no longer meet: these columns are blank, and the others go on.
      if (!isOfTheData(error)) throw error
      await this.connection.query('rollback to savepoint drawing')
      await make(
        ready.map(({ id: column, type }) => `null::${SQL_TYPES[type]} as ${valueOf(column)}`),
        own.from,
      )
    }
    await this.took(id, step)
    return true
  }

  /** What each record has by itself: figures and labels. @returns whether there was any */
  private async reckon(id: number): Promise<boolean> {
    const left = this.left(id).filter(({ drawn }) => drawn === null || drawn.kind === 'label')
    const wanted = new Set<TableColumn>()
    for (let did = true; did;) {
      did = false
      for (const column of left) {
        if (
          wanted.has(column) ||
          !needsOf(this.network, { table: id, column: column.id }).every(
            (need) => this.isReady(need.table, need.column) || (need.table === id && [...wanted].some((one) => one.id === need.column)),
          )
        )
          continue
        wanted.add(column)
        did = true
      }
    }
    const columns = [...wanted]
    if (columns.length === 0) return false
    const table = this.tables.get(id)!
    const questions = new Map(
      columns.flatMap((column): [number, Question][] =>
        column.drawn && this.network.labels.get(column.id) ? [[column.id, this.network.labels.get(column.id)!]] : [],
      ),
    )
    const able = new Set(computable(table).map(({ column }) => column.id))
    const computed = columns.filter((column) => (column.drawn ? questions.has(column.id) : able.has(column.id)))
    const reader = figureReader(table, computed, parseDate(this.network.day)!, questions)
    // A connection does not write while it reads.
    const lines: Buffer[] = []
    for await (const batch of recordsBatches(this.connection, `${this.readable(id).from} order by record`, reader.sources, AT_ONCE)) {
      const valueAt = reader.read(batch, 0)
      const some = linesOf(
        batch.rows,
        computed.map((column) => valueAt(column.id)),
      )
      if (some) lines.push(some)
    }
    const step = this.step(id, columns)
    await this.connection.query(`create temporary table ${step.relation} (${fieldsOf(columns).join(', ')}) on commit drop`)
    await copyIn(
      this.connection,
      `copy ${step.relation} (${['record', ...computed.map((column) => valueOf(column.id))].join(', ')}) from stdin`,
      async (write) => {
        for (const some of lines) await write(some)
      },
    )
    await this.took(id, step)
    return true
  }

  private step(id: number, columns: readonly TableColumn[]): Step {
    return { relation: `pg_temp.step_${id}_${this.steps.get(id)!.length}`, columns: columns.map((column) => column.id) }
  }

  private async took(id: number, step: Step): Promise<void> {
    await this.connection.query(`analyze ${step.relation}`)
    this.steps.get(id)!.push(step)
  }

  private readable(id: number): Readable {
    const table = this.tables.get(id)!
    const steps = this.steps.get(id)
    if (!steps) return { table, from: recordsWithFigures({ ...table, figures: this.fresh.get(id) ?? null }) }
    const values = steps.flatMap(({ columns }, at) => columns.map((column) => `, step${at}.${valueOf(column)}`))
    const joins = steps.map(({ relation }, at) => `left join ${relation} step${at} using (record)`)
    return {
      table,
      from: `(select given.*${values.join('')} from ${relationOf(id)} given ${joins.join(' ')} where until is null) as records`,
    }
  }

  /** Writes what was computed of a table down. */
  async keep(id: number, generation: number): Promise<void> {
    const table = this.tables.get(id)!
    const left = new Set(this.left(id).map((column) => column.id))
    const values = figureColumns(table).map((column) =>
      left.has(column.id) ? `null::${SQL_TYPES[column.type]} as ${valueOf(column.id)}` : valueOf(column.id),
    )
    const relation = figureRelation(id, generation)
    await this.connection.query(`create table ${relation} as select ${['record', ...values].join(', ')} from ${this.readable(id).from}`)
    await this.connection.query(`alter table ${relation} add primary key (record)`)
  }
}
