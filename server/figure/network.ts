/** Which tables and gates the computed columns of a table hang on, by way of others too. */
import { createHash } from 'node:crypto'
import { standingInputs, type BoundInputs } from '@dime-gate/contract/binding'
import { type Drawn, tablesOf } from '@dime-gate/contract/drawn'
import { columnsAsked, gatesAsked, type Question } from '@dime-gate/contract/question'
import type { Column, Table } from '@dime-gate/contract/table'
import { columnSets, tableFigures, tableNames } from '@dime-gate/contract/table-figures'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { freeNames } from '@dime-gate/core/expression/tree'
import { wholeSetName } from '@dime-gate/core/figure/figure'
import type { Gate } from '@dime-gate/core/gate/document'
import { type Prepared, type Queryable, rowOf } from '../database/database'
import { feedingGates } from '../gate/feeding'
import { Refusal, refusals } from '../http/refusal'
import { tablesThemselves } from '../table/table-itself'
import { type FigureStates, figureStates } from './stored-figures'

export interface Network extends FigureStates {
  tables: ReadonlyMap<number, Table>
  /** By column that holds a gate's outcome what is asked for it; null where that gate cannot decide its table. */
  labels: ReadonlyMap<number, Question | null>
}

/** A column by its table and its id. */
export interface Place {
  table: number
  column: number
}

export async function loadNetwork(on: Queryable, root: Table): Promise<Network> {
  const tables = new Map<number, Table>([[root.id, root]])
  const labels = new Map<number, Question | null>()
  for (let level = [root]; level.length > 0;) {
    for (const table of level)
      for (const { id, drawn } of table.columns) if (drawn?.kind === 'label') labels.set(id, await labelQuestion(on, drawn, table))
    const below = [...new Set(level.flatMap(directlyBelow))].filter((id) => !tables.has(id))
    level = below.length === 0 ? [] : await tablesThemselves(on, below)
    for (const table of level) tables.set(table.id, table)
  }
  return { tables, labels, ...(await figureStates(on, [...tables.keys()])) }
}

function directlyBelow({ columns, rollUp }: Table): number[] {
  return [...(rollUp ? [rollUp.table] : []), ...columns.flatMap(({ drawn }) => (drawn ? tablesOf(drawn) : []))]
}

/** Other tables that a table's values are drawn from. */
export function tablesBelow({ tables }: Network, id: number): number[] {
  const found = new Set<number>()
  const left = [id]
  for (let next = left.pop(); next !== undefined; next = left.pop()) {
    const table = tables.get(next)
    for (const below of table ? directlyBelow(table) : []) {
      if (!found.has(below)) left.push(below)
      found.add(below)
    }
  }
  found.delete(id)
  return [...found]
}

/** The state of all that a table's figures are made of, beyond its own records and columns. */
export function standsOf(network: Network, id: number): object {
  const below = tablesBelow(network, id).sort((a, b) => a - b)
  const columns = [id, ...below].flatMap((table) => network.tables.get(table)?.columns ?? [])
  const labels = columns.flatMap((column) => (column.drawn?.kind === 'label' ? [[column.id, digest(network.labels.get(column.id))]] : []))
  if (below.length + labels.length === 0) return {}
  return { tables: below.map((table) => [table, network.tables.get(table)?.version ?? null]), labels }
}

function digest(question: unknown): string {
  return createHash('sha256')
    .update(JSON.stringify(question ?? null))
    .digest('base64')
}

/** A gate as a label's column takes it, with what it is bound to on the column's table. */
const LABELLING: Prepared = {
  name: 'gate of a label',
  text: `
    select case when $3 = 'draft' then g.draft else v.document end as gate, g.draft ->> 'name' as name, coalesce(b.inputs, '{}') as inputs
    from gate g left join binding b on b.gate_id = g.id and b.table_id = $2
    left join lateral (select document from gate_version where gate_id = g.id order by number desc limit 1) v on true
    where g.id = $1 and g.removed_at is null`,
}

async function labelQuestion(on: Queryable, { gate: id, from }: Drawn & { kind: 'label' }, table: Table): Promise<Question | null> {
  const row = await rowOf<{ gate: Gate | null; name: string; inputs: BoundInputs }>(on, LABELLING, [id, table.id, from])
  if (!row?.gate) return null
  const gate = { ...row.gate, name: row.name }
  try {
    const question = { gate, inputs: standingInputs(row.inputs, table), feeding: await feedingGates(on, gate, table) }
    return 'gates' in gatesAsked(question) ? question : null
  } catch (error) {
    if (error instanceof Refusal) return null
    throw error
  }
}

/** What a column is directly made of; nothing for one whose values are given. */
export function needsOf(network: Network, { table: tableId, column: id }: Place): Place[] {
  const table = network.tables.get(tableId)
  const column = table?.columns.find((one) => one.id === id)
  if (!table || !column) return []
  const { rollUp } = table
  // Whatever is said of a group, its records have to be known first.
  const groups = rollUp ? rollUp.by.map((one): Place => ({ table: rollUp.table, column: one.column })) : []
  const own = (ids: readonly number[]): Place[] => ids.map((one) => ({ table: tableId, column: one }))
  if (column.feel !== null) return own(idsNamed(table, tableFigures(table).figures.find(({ name }) => name === column.name)?.needs ?? []))
  return column.drawn ? [...groups, ...needsOfDrawn(network, tableId, column as Column & { drawn: Drawn })] : groups
}

function needsOfDrawn(network: Network, tableId: number, { id, drawn }: Column & { drawn: Drawn }): Place[] {
  const at = (table: number, columns: readonly number[]): Place[] => columns.map((column) => ({ table, column }))
  const taken = (one: { table: number; of: number | null; where: string | null }): Place[] => {
    const there = network.tables.get(one.table)
    return at(one.table, [...(one.of === null ? [] : [one.of]), ...(there && one.where !== null ? idsIn(there, one.where) : [])])
  }
  switch (drawn.kind) {
    case 'related':
      return [...drawn.keys.flatMap(({ own, theirs }) => [...at(tableId, [own]), ...at(drawn.table, [theirs])]), ...taken(drawn)]
    case 'rank':
    case 'part':
      return at(tableId, drawn.within === null ? [drawn.of] : [drawn.of, drawn.within])
    case 'label': {
      const question = network.labels.get(id)
      return question ? at(tableId, columnsAsked(question)) : []
    }
    case 'own':
      return drawn.calculations.flatMap(taken)
  }
}

/** Columns that an expression over a table's names looks at. */
export function idsIn(table: Pick<Table, 'columns' | 'sets'>, feel: string): number[] {
  const parsed = parseExpression(feel, tableNames(table))
  return 'tree' in parsed ? idsNamed(table, freeNames(parsed.tree)) : []
}

function idsNamed(table: Pick<Table, 'columns' | 'sets'>, names: readonly string[]): number[] {
  const members = new Map(
    columnSets(table).flatMap((set) => [[set.name, set.members] as const, [wholeSetName(set.name), set.members] as const]),
  )
  const wanted = new Set(names.flatMap((name) => members.get(name) ?? [name]))
  return table.columns.flatMap(({ id, name }) => (wanted.has(name) ? [id] : []))
}

/** Whether records of a table can have other values because another record of it has, directly or by way of tables beneath. */
export function looksAtItself(network: Network, { id, columns }: Table): boolean {
  const isOfIt = (place: Place): boolean => {
    const table = network.tables.get(place.table)
    const drawn = table?.columns.find((one) => one.id === place.column)?.drawn
    return table?.rollUp?.table === id || (drawn ? tablesOf(drawn).includes(id) : false)
  }
  const seen = new Set<string>()
  const reaches = (place: Place): boolean => {
    const key = `${place.table} ${place.column}`
    if (place.table === id || seen.has(key)) return false
    seen.add(key)
    return isOfIt(place) || needsOf(network, place).some(reaches)
  }
  return columns.some(({ id: column, drawn }) => {
    if (drawn === null) return false
    return drawn.kind === 'rank' || drawn.kind === 'part' || isOfIt({ table: id, column }) || needsOf(network, { table: id, column }).some(reaches)
  })
}

/** A ring that a column is in, each needing the next; null where it is in none. */
function ringOf(network: Network, start: Place): Place[] | null {
  const isStart = ({ table, column }: Place) => table === start.table && column === start.column
  const seen = new Set<string>()
  const walk = (path: Place[]): Place[] | null => {
    for (const need of needsOf(network, path.at(-1)!)) {
      if (isStart(need)) return path
      const key = `${need.table} ${need.column}`
      if (seen.has(key)) continue
      seen.add(key)
      const found = walk([...path, need])
      if (found) return found
    }
    return null
  }
  return walk([start])
}

/** @throws Refusal `not-a-figure` naming the ring that a column is in */
export function checkNoRing(network: Network, place: Place): void {
  const ring = ringOf(network, place)
  if (!ring) return
  const nameOf = ({ table, column }: Place) => network.tables.get(table)?.columns.find(({ id }) => id === column)?.name ?? '?'
  const names = ring.map((one) => `“${nameOf(one)}” of ${network.tables.get(one.table)?.name ?? '?'}`)
  throw refusals.notAFigure(
    nameOf(place),
    names.length === 1 ? 'It needs itself.' : `This goes round in a ring: ${[...names, names[0]!].join(' needs ')}. Take one of them out.`,
  )
}
