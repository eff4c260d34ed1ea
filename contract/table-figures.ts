/** A table as its figures see it: columns by name, and the members of its sets as they are now. */
import { type ColumnSet, figuresOf, type Figures, type TableColumn, wholeSetName } from '@dime-gate/core/figure/figure'
import { isNumeric, kindOfColumn, type ColumnType } from '@dime-gate/core/value/read-cell'
import type { ValueKind } from '@dime-gate/core/value/value'
import { type Column, isComputed, type SetOfColumns, type Table } from './table'

type Seen = Pick<Column, 'id' | 'name' | 'type' | 'feel' | 'drawn'>

export function tableColumns(columns: readonly Seen[]): TableColumn[] {
  return columns.map(({ name, type, feel }) => ({ name, kind: kindOfColumn(type), feel }))
}

/** Columns of given numbers, in the table's order. A figure is in no set: it may be made of one. */
export function membersOfSet({ by }: Pick<SetOfColumns, 'by'>, columns: readonly Seen[]): Seen[] {
  const isMember = by.kind === 'columns' ? ({ id }: Seen) => by.columns.includes(id) : ({ name }: Seen) => isLike(name, by.like)
  return columns.filter((column) => !isComputed(column) && isNumeric(column.type) && isMember(column))
}

/** @param like with `*` for whatever may stand there; letters of either case are the same */
export function isLike(name: string, like: string): boolean {
  const [first = '', ...rest] = like.trim().toLowerCase().split('*')
  const text = name.toLowerCase()
  if (rest.length === 0) return text === first
  if (!text.startsWith(first)) return false
  const last = rest.pop()!
  let at = first.length
  for (const piece of rest) {
    const found = text.indexOf(piece, at)
    if (found < 0) return false
    at = found + piece.length
  }
  return text.length - last.length >= at && text.endsWith(last)
}

export function columnSets({ sets, columns }: Pick<Table, 'sets'> & { columns: readonly Seen[] }): ColumnSet[] {
  return sets.map((set) => ({ name: set.name, members: membersOfSet(set, columns).map(({ name }) => name) }))
}

export function tableFigures(table: Pick<Table, 'sets'> & { columns: readonly Seen[] }): Figures {
  return figuresOf(tableColumns(table.columns), columnSets(table))
}

/** All names that an expression of a table can use. */
export function tableNames({ columns, sets }: Pick<Table, 'columns' | 'sets'>): string[] {
  return [...columns.map(({ name }) => name), ...sets.flatMap(({ name }) => [name, wholeSetName(name)])]
}

/** The type of a column that holds what a figure comes to. */
export function typeOfKind(kind: ValueKind): ColumnType {
  return kind === 'number' || kind === 'date' || kind === 'boolean' ? kind : 'text'
}

/** What has to be computed anew where it becomes another. Names of columns belong to it: by them they are in sets. */
export function definitionsOf({ columns, sets }: Pick<Table, 'columns' | 'sets'>): object {
  return { columns: columns.map(({ id, name, type, feel, drawn }) => [id, name, type, feel, drawn]), sets }
}
