/** Columns that are drawn from elsewhere, and come or become others. */
import type { ChangeRequest } from '@dime-gate/contract/change'
import { type Calculation, type Drawn, isWhole, typeOfTake } from '@dime-gate/contract/drawn'
import { type Column, isComputed, plainColumn, type Table } from '@dime-gate/contract/table'
import { columnSets, tableColumns, tableNames } from '@dime-gate/contract/table-figures'
import { checkExpression } from '@dime-gate/core/expression/check'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { problemWords } from '@dime-gate/core/expression/problem-words'
import type { Type } from '@dime-gate/core/expression/type'
import { wholeSetName } from '@dime-gate/core/figure/figure'
import { type ColumnType, isNumeric, isOnLine, kindOfColumn } from '@dime-gate/core/value/read-cell'
import { parseDate } from '@dime-gate/core/value/temporal'
import { GateError } from '@dime-gate/interchange/gate-error'
import type { ColumnsMoved, Met } from '../change/change-values'
import { named } from '../change/named-column'
import type { Changing } from '../change/versions'
import { type Connection, rowOf } from '../database/database'
import { refusals } from '../http/refusal'
import { indexStored } from '../table/stored'
import { tableItself } from '../table/table-itself'
import { checkNameIsFree, checkOthers, renaming, writeFeels } from './change-figures'
import { conditionSql } from './drawn-sql'
import { checkNoRing, loadNetwork, type Network } from './network'
import { renameInConditions } from './users-of'

/** What is wrong with a column, in words that say what to do. */
class Wrong extends Error {}

/** @throws Refusal `not-a-figure` with what is wrong, `name-taken` */
export async function addDrawn(
  connection: Connection,
  { table, version }: Changing,
  { name, unit, drawn }: ChangeRequest & { kind: 'add drawn' },
): Promise<Met> {
  checkNameIsFree(table, name, null)
  const type = await typeOfDrawn(connection, table, { id: -1, name, drawn })
  await indexKeys(connection, drawn)
  const { id } = (await named(name, () =>
    rowOf<{ id: number }>(
      connection,
      `
    insert into data_column (table_id, place, header, name, unit, type, since, blank, drawn)
    values ($1, (select coalesce(max(place), -1) + 1 from data_column where table_id = $1), $2, $2, $3, $4, $5, 0, $6) returning id`,
      [table.id, name, unit, type, version, drawn],
    ),
  ))!
  return { records: [], columns: [plainColumn(id, name, { unit, type, drawn })], detail: { came: [id] } satisfies ColumnsMoved }
}

/** What it was before is noted, so that it can be taken back. @throws Refusal `not-found`, `not-a-figure`, `name-taken` */
export async function changeDrawn(
  connection: Connection,
  { table }: Changing,
  { column: id, name, unit, drawn }: { column: number; name: string; unit: string; drawn: Drawn },
): Promise<Met> {
  const column = table.columns.find((one) => one.id === id)
  if (!column || column.drawn === null) throw refusals.notFound('column of this table that is drawn from elsewhere')
  checkNameIsFree(table, name, id)
  const type = await typeOfDrawn(connection, table, { id, name, drawn })
  await indexKeys(connection, drawn)
  const columns = renaming(table, new Map([[column.name, name]])).map((one) => (one.id === id ? { ...one, name, unit, type, drawn } : one))
  checkOthers(table, { columns, sets: table.sets })
  await named(name, () =>
    connection.query('update data_column set name = $2, header = $2, unit = $3, drawn = $4, type = $5 where id = $1', [
      id,
      name,
      unit,
      drawn,
      type,
    ]),
  )
  await writeFeels(connection, table, columns)
  await renameInConditions(connection, table, column.name, name)
  return {
    records: [],
    columns: [{ ...column, name, unit, type, drawn }],
    detail: { drawn: id, before: { name: column.name, unit: column.unit, drawn: column.drawn } },
  }
}

/** What others are found by is kept in order, so that those of a few records are found without a look at all. */
async function indexKeys(connection: Connection, drawn: Drawn): Promise<void> {
  if (drawn.kind !== 'related') return
  const { columns } = (await tableItself(connection, drawn.table))!
  for (const { theirs, part } of drawn.keys) {
    const column = columns.find(({ id }) => id === theirs)!
    if (part === 'whole' && !isComputed(column)) await indexStored(connection, drawn.table, column)
  }
}

/** @throws Refusal `not-a-figure` */
export async function typeOfDrawn(
  connection: Connection,
  table: Table,
  { id, name, drawn }: Pick<Column, 'id' | 'name'> & { drawn: Drawn },
): Promise<ColumnType> {
  const now = { ...table, columns: [...table.columns.filter((one) => one.id !== id), plainColumn(id, name, { drawn })] }
  const network = await loadNetwork(connection, now)
  try {
    const type = await checked(connection, network, now, id, drawn)
    checkNoRing(network, { table: table.id, column: id })
    return type
  } catch (error) {
    if (error instanceof Wrong || error instanceof GateError) throw refusals.notAFigure(name, error.message)
    throw error
  }
}

async function checked(connection: Connection, network: Network, table: Table, id: number, drawn: Drawn): Promise<ColumnType> {
  const columnOf = (of: Table, column: number, what: string) => {
    const found = of.columns.find((one) => one.id === column)
    if (!found) throw new Wrong(`The table “${of.name}” has no such column for ${what}. Choose another.`)
    return found
  }
  switch (drawn.kind) {
    case 'related': {
      const type = checkedCalculation(network, drawn)
      const there = network.tables.get(drawn.table)!
      for (const { own, theirs, part } of drawn.keys) {
        const [mine, far] = [columnOf(table, own, 'the key'), columnOf(there, theirs, 'the key')]
        if (part !== 'whole' && far.type !== 'date')
          throw new Wrong(`“${far.name}” holds no dates, so it has no year or month. Compare its whole value.`)
        if (part === 'whole' && kindOfColumn(mine.type) !== kindOfColumn(far.type))
          throw new Wrong(
            `“${mine.name}” holds ${kindOfColumn(mine.type)} values and “${far.name}” of ${there.name} ${kindOfColumn(far.type)} values: they never meet. Choose another key, or change the type of one of them.`,
          )
      }
      return type
    }
    case 'rank':
    case 'part': {
      const of = columnOf(table, drawn.of, 'the values')
      if (drawn.within !== null) columnOf(table, drawn.within, 'the group')
      if (drawn.kind === 'rank' ? !isOnLine(of.type) : !isNumeric(of.type))
        throw new Wrong(
          `“${of.name}” holds ${kindOfColumn(of.type)} values; choose a column of numbers${drawn.kind === 'rank' ? ' or dates' : ''}.`,
        )
      return drawn.kind === 'part' ? 'percent' : 'number'
    }
    case 'label':
      return checkedLabel(connection, network, table, id, drawn)
    case 'own':
      for (const calculation of drawn.calculations) {
        const type = checkedCalculation(network, calculation)
        if (!isNumeric(type)) throw new Wrong('An indicator is a number. Take a count, a share or a figure of a column of numbers.')
      }
      return 'number'
  }
}

function checkedCalculation({ tables }: Network, calculation: Calculation): ColumnType {
  const there = tables.get(calculation.table)
  if (!there) throw new Wrong('The table whose records are to be taken is gone. Choose another.')
  if (!isWhole(calculation))
    throw new Wrong(
      calculation.of === null ? 'Say of which column it is to be taken.' : 'A count and a share are of records, not of a column.',
    )
  const { take, of } = calculation
  const column = of === null ? null : there.columns.find(({ id }) => id === of)
  if (column === undefined) throw new Wrong(`The table “${there.name}” no longer has the column that is taken. Choose another.`)
  if (column && ['sum', 'mean', 'median'].includes(take) && !isNumeric(column.type))
    throw new Wrong(`“${column.name}” holds ${kindOfColumn(column.type)} values; a ${take === 'sum' ? 'total' : take} is of numbers.`)
  if (take === 'share' && calculation.where === null) throw new Wrong('Say what a record has to be to be counted in the share.')
  if (calculation.where !== null) checkCondition(there, calculation.where)
  return typeOfTake(calculation, () => column!.type)
}

function checkCondition(table: Table, where: string): void {
  const parsed = parseExpression(where, tableNames(table))
  if ('problem' in parsed) throw new Wrong(`The condition: ${problemWords(parsed.problem)}`)
  const types = new Map<string, Type>([
    ...tableColumns(table.columns).map(({ name, kind }): [string, Type] => [name, kind]),
    ...columnSets(table).flatMap(({ name }): [string, Type][] => [
      [name, { list: 'number' }],
      [wholeSetName(name), { list: 'number' }],
    ]),
  ])
  const { type, problems } = checkExpression(parsed.tree, types)
  if (problems[0]) throw new Wrong(`The condition: ${problemWords(problems[0])}`)
  if (type !== 'boolean') throw new Wrong('The condition has to be true or false of a record, as in Severity >= 3.')
  conditionSql({ table }, where, parseDate('2000-01-01')!)
}

async function checkedLabel(
  connection: Connection,
  { labels }: Network,
  table: Table,
  id: number,
  { gate, from, outcome }: Drawn & { kind: 'label' },
): Promise<ColumnType> {
  const row = await rowOf<{ name: string; versions: number; isBound: boolean }>(
    connection,
    `
    select draft ->> 'name' as name, (select count(*)::int from gate_version where gate_id = g.id) as versions,
      exists (select from binding where gate_id = g.id and table_id = $2) as "isBound" from gate g where id = $1 and removed_at is null`,
    [gate, table.id],
  )
  if (!row) throw new Wrong('That gate is gone. Choose another.')
  if (!row.isBound)
    throw new Wrong(`“${row.name}” is not bound to this table yet. Open its bench on this table first, and say what it looks at.`)
  if (from === 'version' && row.versions === 0) throw new Wrong(`“${row.name}” has no version yet. Set one, or take its draft.`)
  const question = labels.get(id)
  if (!question) throw new Wrong(`“${row.name}” cannot decide this table as it stands. Open its bench on it, where it says why.`)
  const found = question.gate.outcomes[outcome]
  if (!found) throw new Wrong(`“${row.name}” has no such outcome. Choose another.`)
  return found.type === 'number' || found.type === 'boolean' ? found.type : 'text'
}
