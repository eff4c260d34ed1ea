/** Bindings: which columns of a table stand for the inputs of a gate. */
import { type Binding, type BindingChange, type BoundInputs, columnsBound, type StandingInputs, standingInputs } from '@dime-gate/contract/binding'
import type { Table } from '@dime-gate/contract/table'
import type { Gate as GateDocument, Input } from '@dime-gate/core/gate/document'
import { type ColumnType, kindOfColumn } from '@dime-gate/core/value/read-cell'
import { type Connection, type Database, inTransaction, type Queryable, rowOf, rowsOf } from '../database/database'
import { checkNoRing, loadNetwork } from '../figure/network'
import { refusals } from '../http/refusal'
import { findTable } from '../table/tables'
import { findGate } from './gates'

const BINDING = `
  select b.gate_id as "gateId", b.table_id as "tableId", t.name as "tableName", b.version, b.inputs
  from binding b join data_table t on t.id = b.table_id where b.gate_id = $1 and t.removed_at is null`

/** The one that was changed last comes first. @throws Refusal `not-found` where there is no such gate */
export async function listBindings(on: Queryable, gateId: number): Promise<Binding[]> {
  await findGate(on, gateId)
  return rowsOf<Binding>(on, `${BINDING} order by b.changed_at desc, b.table_id desc`, [gateId])
}

/** @throws Refusal `not-found` */
export async function findBinding(on: Queryable, gateId: number, tableId: number): Promise<Binding> {
  const binding = await rowOf<Binding>(on, `${BINDING} and b.table_id = $2`, [gateId, tableId])
  if (!binding) throw refusals.notFound('binding of this gate to this table')
  return binding
}

/**
 * Binds a gate to a table, or binds it otherwise.
 * @throws Refusal `stale` where the binding has moved since it was seen, `no-such-column`, `wrong-type`
 */
export async function changeBinding(database: Database, gateId: number, tableId: number, { inputs, seen }: BindingChange): Promise<Binding> {
  return inTransaction(database, async (connection) => {
    await connection.query('select from gate where id = $1 for update', [gateId])
    const gate = await findGate(connection, gateId)
    await findTable(connection, tableId)
    const before = await rowOf<Binding>(connection, `${BINDING} and b.table_id = $2`, [gateId, tableId])
    if ((before?.version ?? 0) !== seen) throw refusals.staleBinding(gate.draft.name)
    await writeBinding(connection, gateId, gate.draft, tableId, inputs)
    return findBinding(connection, gateId, tableId)
  })
}

/** @throws Refusal `no-such-column`, `wrong-type`, `not-a-figure` where a column would need itself */
export async function writeBinding(connection: Connection, gateId: number, gate: GateDocument, tableId: number, inputs: BoundInputs): Promise<void> {
  checkBinding(gate, inputs, await findTable(connection, tableId))
  await connection.query(`
    insert into binding (gate_id, table_id, inputs) values ($1, $2, $3)
    on conflict (gate_id, table_id) do update set inputs = excluded.inputs, version = binding.version + 1, changed_at = now()`, [gateId, tableId, inputs])
  // What it gives may stand in the table as a column, and what it looks at may come from that.
  const table = await findTable(connection, tableId)
  const labels = table.columns.filter(({ drawn }) => drawn?.kind === 'label')
  if (labels.length === 0) return
  const network = await loadNetwork(connection, table)
  for (const { id } of labels) checkNoRing(network, { table: tableId, column: id })
}

/** Every column is there, and of the kind that its input asks for; an input that the gate does not have is left alone. */
function checkBinding({ inputs: asked }: GateDocument, inputs: BoundInputs, table: Table): void {
  const { columns, sets } = table
  for (const [name, bound] of Object.entries(inputs)) {
    const input = asked.find((one) => one.name === name)
    if (input && input.isSet === 'column' in bound) throw refusals.wrongCount(name, input.isSet)
    if ('set' in bound && !sets.some((set) => set.name === bound.set)) throw refusals.noSuchSet(bound.set)
    for (const id of columnsBound(standingInputs({ [name]: bound }, table)[name]!)) {
      const column = columns.find((one) => one.id === id)
      if (!column) throw refusals.noSuchColumn(name)
      if (input && !fits(input, column.type)) throw refusals.wrongType(column.name, column.type, name, input.type)
    }
  }
}

function fits({ type }: Input, column: ColumnType): boolean {
  return type === kindOfColumn(column)
}

/**
 * What stands for each input that a gate's version looks at.
 * @throws Refusal `not-bound` where nothing stands for one of them
 */
export function boundFor({ name, inputs }: GateDocument, bound: StandingInputs, tableName: string): StandingInputs {
  const given = inputs.filter(({ source }) => source.kind === 'given')
  const missing = given.find((input) => !(input.name in bound))
  if (missing) throw refusals.notBound(name, missing.name, tableName)
  return Object.fromEntries(given.map((input) => [input.name, bound[input.name]!]))
}
