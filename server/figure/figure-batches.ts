/** Figures of records as they are read, batch by batch: none of them looks at another record. */
import type { Column as TableColumn, Table } from '@dime-gate/contract/table'
import { columnSets } from '@dime-gate/contract/table-figures'
import { FigureValues } from '@dime-gate/core/figure/compute'
import type { Column } from '@dime-gate/core/table/table'
import type { DateValue } from '@dime-gate/core/value/value'
import { columnFrom, type ColumnSource, type RecordsBatch, sourceOf } from '../table/read-column'
import { computable } from './stored-figures'

export interface FigureReader {
  /** What has to be read of a record. */
  sources: ColumnSource[]
  /** @param batch of `sources`, beginning at the field `first` of its fields */
  read(batch: RecordsBatch, first: number): (columnId: number) => Column
}

/** @param columns those of the table that are wanted; what they need is read too */
export function figureReader(table: Pick<Table, 'columns' | 'sets'>, wanted: readonly TableColumn[], today: DateValue): FigureReader {
  const all = computable(table)
  const byName = new Map(table.columns.map((column) => [column.name, column]))
  const figures = all.map(({ figure }) => figure)
  const names = new Set(wanted.map(({ name }) => name))
  const needed = [...new Set(figures.filter(({ name }) => names.has(name)).flatMap(({ needs }) => needs))].map((name) => byName.get(name)!)
  const sources = needed.map(sourceOf)
  const place = new Map(needed.map(({ name }, at) => [name, at]))
  // Figures that nobody wants may need columns that are not read.
  const reached = figures.filter(({ needs }) => needs.every((name) => place.has(name)))
  const sets = columnSets(table)
  return {
    sources,
    read(batch, first) {
      const column = (name: string) => columnFrom(batch, first + place.get(name)!, sources[place.get(name)!]!.kind)
      const values = new FigureValues(reached, sets, batch.rows.length, column, today)
      const nameOf = new Map(table.columns.map(({ id, name }) => [id, name]))
      return (id) => values.column(nameOf.get(id)!)
    },
  }
}
