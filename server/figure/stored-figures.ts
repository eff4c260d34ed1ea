/** Where the values of a table's figures lie, and whether they still are what they would come to. */
import { isDeepStrictEqual } from 'node:util'
import { type Column, isComputed, type Table } from '@dime-gate/contract/table'
import { definitionsOf, tableFigures } from '@dime-gate/contract/table-figures'
import type { Figure } from '@dime-gate/core/figure/figure'
import { type Prepared, type Queryable, rowsOf } from '../database/database'

/** All figures of a table, computed for one of its versions on one day. */
export function figureRelation(tableId: number, generation: number): string {
  if (!Number.isSafeInteger(tableId) || !Number.isSafeInteger(generation)) throw new TypeError(`not an id: ${tableId} ${generation}`)
  return `records.g${tableId}_${generation}`
}

export interface FigureState {
  generation: number
  tableVersion: number
  asOf: string | null
  definitions: unknown
  stands: unknown
  /** Of a table of groups, as `beneathOf`. */
  beneath: unknown
}

/** By table how its figures were computed last, and the day that counts as today, everywhere. */
export interface FigureStates {
  states: Map<number, FigureState>
  day: string
}

const STATES: Prepared = {
  name: 'states of figures',
  text: `
    select coalesce(w.as_of, current_date)::text as day, s.table_id as "tableId",
      s.generation, s.table_version as "tableVersion", s.as_of as "asOf", s.definitions, s.stands, s.beneath
    from workspace w left join figure_state s on s.table_id = any($1)`,
}

export async function figureStates(on: Queryable, tables: readonly number[]): Promise<FigureStates> {
  const rows = await rowsOf<FigureState & { day: string; tableId: number | null }>(on, STATES, [tables])
  return { day: rows[0]!.day, states: new Map(rows.flatMap(({ tableId, day: _, ...state }) => (tableId === null ? [] : [[tableId, state] as const]))) }
}

export async function currentDay(on: Queryable): Promise<string> {
  return (await figureStates(on, [])).day
}

export function figureColumns(table: Pick<Table, 'columns'>): Column[] {
  return table.columns.filter(isComputed)
}

/** Figures that can be computed, with their columns, in an order in which they can be. */
export function computable(table: Pick<Table, 'columns' | 'sets'>): { figure: Figure; column: Column }[] {
  const byName = new Map(table.columns.map((column) => [column.name, column]))
  return tableFigures(table).figures.map((figure) => ({ figure, column: byName.get(figure.name)! }))
}

/** What a table of groups is made of besides the records of the table beneath. */
export function beneathOf({ states }: FigureStates, beneath: Table): object {
  return { figures: states.get(beneath.id)?.generation ?? null, definitions: definitionsOf(beneath) }
}

/** @param stands what the table's figures are made of beyond itself, as it is now */
export function isFresh(state: FigureState | undefined, table: Table, stands: object, day: string): boolean {
  return state !== undefined && isFreshWithin(state, table, day) && isDeepStrictEqual(state.stands, stands)
}

/** Whether figures are what they would come to as far as their table itself goes. */
export function isFreshWithin(state: FigureState, table: Table, day: string): boolean {
  return state.tableVersion === table.version && (state.asOf === null || state.asOf === day) && isDeepStrictEqual(state.definitions, definitionsOf(table))
}
