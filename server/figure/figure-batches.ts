/** Figures and labels of records as they are read, batch by batch: none of them looks at another record. */
import { columnsAsked, gatesAsked, type Question, tablesAsked } from '@dime-gate/contract/question'
import type { Column as TableColumn, Table } from '@dime-gate/contract/table'
import { columnSets } from '@dime-gate/contract/table-figures'
import { FigureValues } from '@dime-gate/core/figure/compute'
import type { Figure } from '@dime-gate/core/figure/figure'
import { resultMaker } from '@dime-gate/core/result/make-results'
import type { Cell } from '@dime-gate/core/table/cells'
import { type Column, columnOf, valueTextAt } from '@dime-gate/core/table/table'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import type { DateValue } from '@dime-gate/core/value/value'
import { columnFrom, type ColumnSource, type RecordsBatch, sourceOf } from '../table/read-column'
import { computable } from './stored-figures'

export interface FigureReader {
  /** What has to be read of a record. */
  sources: ColumnSource[]
  /** @param batch of `sources`, beginning at the field `first` of its fields */
  read(batch: RecordsBatch, first: number): (columnId: number) => Column
}

/** As `computedColumns`, of records as they are read. */
export function figureReader(table: Pick<Table, 'columns' | 'sets'>, wanted: readonly TableColumn[], today: DateValue, labels: Labels = new Map()): FigureReader {
  const computed = computedColumns(table, wanted, today, labels)
  const sources = computed.needed.map(sourceOf)
  const place = new Map(computed.needed.map(({ id }, at) => [id, at]))
  return {
    sources,
    read(batch, first) {
      const givenAt = (id: number) => columnFrom(batch, first + place.get(id)!, sources[place.get(id)!]!.kind)
      return computed.columns(batch.rows.length, givenAt)
    },
  }
}

export type Labels = ReadonlyMap<number, Question>

export interface ComputedColumns {
  /** Columns that have to be given. */
  needed: TableColumn[]
  /** @param given each of those that are needed */
  columns(length: number, given: (id: number) => Column): (id: number) => Column
}

/**
 * @param wanted columns of the table; what they need is needed too, and what is drawn from elsewhere with it
 * @param labels what is asked of a gate for columns that hold its outcomes; one of which nothing is said here is given as it is kept
 */
export function computedColumns(
  table: Pick<Table, 'columns' | 'sets'>,
  wanted: readonly TableColumn[],
  today: DateValue,
  labels: Labels = new Map(),
): ComputedColumns {
  const figures = computable(table).map(({ figure }) => figure)
  const byName = new Map(table.columns.map((column) => [column.name, column]))
  const byId = new Map(table.columns.map((column) => [column.id, column]))
  const figureOf = new Map(figures.map((figure) => [byName.get(figure.name)!.id, figure]))
  const needed = sourcesFor(wanted, { figureOf, byName, labels })
  const isGiven = new Set(needed)
  // Figures that nobody wants may need columns that are not read.
  const plain = figures.filter(({ needs }) => needs.every((name) => isGiven.has(byName.get(name)!.id)))
  const sets = columnSets(table)
  return {
    needed: needed.map((id) => byId.get(id)!),
    columns(length, given) {
      const known = new Map<number, Column>()
      const nameOf = (name: string) => column(byName.get(name)!.id)
      let values: FigureValues | null = null
      function column(id: number): Column {
        const before = known.get(id)
        if (before) return before
        const found = make(id)
        known.set(id, found)
        return found
      }
      function make(id: number): Column {
        if (isGiven.has(id)) return given(id)
        const question = labels.get(id)
        if (question) return labelColumn(question, byId.get(id)!, length, column, today)
        const figure = figureOf.get(id)!
        if (plain.includes(figure)) return (values ??= new FigureValues(plain, sets, length, nameOf, today)).column(figure.name)
        const all = [...plain, ...below(figure, figures)]
        return new FigureValues(
          figures.filter((one) => all.includes(one)),
          sets,
          length,
          nameOf,
          today,
        ).column(figure.name)
      }
      return column
    },
  }
}

/** A figure, and those that stand before it: it may need any of them. */
function below(figure: Figure, figures: readonly Figure[]): Figure[] {
  const needs = new Set(figure.needs)
  return figures.slice(0, figures.indexOf(figure) + 1).filter((one) => one === figure || one.needs.every((need) => needs.has(need)))
}

function sourcesFor(
  wanted: readonly TableColumn[],
  { figureOf, byName, labels }: { figureOf: ReadonlyMap<number, Figure>; byName: ReadonlyMap<string, TableColumn>; labels: Labels },
): number[] {
  const sources = new Set<number>()
  const seen = new Set<number>()
  const visit = (id: number): void => {
    if (seen.has(id)) return
    seen.add(id)
    const [figure, question] = [figureOf.get(id), labels.get(id)]
    if (figure) for (const name of figure.needs) visit(byName.get(name)!.id)
    else if (question) columnsAsked(question).forEach(visit)
    else sources.add(id)
  }
  // A figure that cannot be computed has nothing that could be read.
  for (const { id, feel } of wanted) if (feel === null || figureOf.has(id)) visit(id)
  return [...sources]
}

/** What a gate gives each record. */
function labelColumn(
  question: Question,
  { type, drawn }: TableColumn,
  length: number,
  column: (id: number) => Column,
  today: DateValue,
): Column {
  const asked = gatesAsked(question)
  if ('problems' in asked || drawn?.kind !== 'label') throw new TypeError('a gate that cannot decide')
  const result = resultMaker(tablesAsked(question, length, column), today)(asked.gates)
  const outcome = [...result.outcomes().values()][drawn.outcome]
  const kind = kindOfColumn(type)
  if (!outcome) return columnOf(kind, new Array<Cell>(length).fill(null))
  return columnOf(
    kind,
    Array.from({ length }, (_, at): Cell => valueTextAt(outcome, at)),
  )
}
