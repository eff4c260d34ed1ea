/** Columns that are drawn from other records, as the database works them out. */
import type { Calculation, Drawn, KeyPart, Related } from '@dime-gate/contract/drawn'
import type { Column, Table } from '@dime-gate/contract/table'
import { columnSets, tableNames } from '@dime-gate/contract/table-figures'
import { checkExpression } from '@dime-gate/core/expression/check'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { substitute } from '@dime-gate/core/expression/substitute'
import type { Node } from '@dime-gate/core/expression/tree'
import type { Type } from '@dime-gate/core/expression/type'
import { wholeSetName } from '@dime-gate/core/figure/figure'
import { type ColumnType, isNumeric, kindOfColumn } from '@dime-gate/core/value/read-cell'
import type { DateValue } from '@dime-gate/core/value/value'
import { expressionToSql, quotient } from '@dime-gate/interchange/sql/expression-to-sql'
import { type Sql, sql } from '@dime-gate/interchange/sql/sql-text'
import { SQL_TYPES } from '../table/column-types'
import { valueOf } from '../table/relation'

/** A table to be read from, with as many of its columns as are known. */
export interface Readable {
  table: Table
  /** As SQL: record, and a field for each column. */
  from: string
}

/** @property records those that are asked for, as SQL over `record`; null for all */
export interface Drawing {
  own: Readable
  other(table: number): Readable | null
  today: DateValue
  records: string | null
}

/** What is joined to a table's records to have a column's values, and the value itself. */
export interface Joined {
  join: string
  value: string
}

const NOTHING: Joined = { join: '', value: 'null' }

/** @returns nothing but nulls where what it is drawn from is gone */
export function drawnSql(drawing: Drawing, { id, type, drawn }: Pick<Column, 'id' | 'type'> & { drawn: Exclude<Drawn, { kind: 'label' }> }): Joined {
  const alias = `d${id}`
  const joined = joinedFor(drawing, alias, drawn)
  const value = `(${joined.value})::${SQL_TYPES[type]}`
  return { ...joined, value: isNumeric(type) ? `trim_scale(${value})` : value }
}

function joinedFor(drawing: Drawing, alias: string, drawn: Exclude<Drawn, { kind: 'label' }>): Joined {
  const { own } = drawing
  const columnOf = ({ table }: Readable, column: number) => table.columns.find((one) => one.id === column)
  switch (drawn.kind) {
    case 'related':
      return relatedSql(drawing, alias, drawn)
    case 'rank':
    case 'part': {
      const [of, within] = [columnOf(own, drawn.of), drawn.within === null ? null : columnOf(own, drawn.within)]
      if (!of || within === undefined) return NOTHING
      const group = within === null ? '' : `partition by ${valueOf(within.id)}`
      const v = valueOf(of.id)
      const value =
        drawn.kind === 'rank'
          ? `rank() over (${group} order by ${v} ${drawn.first === 'highest' ? 'desc' : 'asc'})`
          : percent(sql(v), sql(`sum(${v}) over (${group})`))
      return { join: `left join (select record, ${value} as v from ${own.from} where ${v} is not null) ${alias} using (record)`, value: `${alias}.v` }
    }
    case 'own': {
      const parts = drawn.calculations.flatMap((calculation) => {
        const there = drawing.other(calculation.table)
        return there && isThere(there, calculation) ? [`select ${calculation.record} as record, (${calculated(there, calculation, drawing.today)})::numeric as v`] : []
      })
      if (parts.length === 0) return NOTHING
      return { join: `left join (${parts.join(' union all ')}) ${alias} using (record)`, value: `${alias}.v` }
    }
  }
}

function relatedSql({ own, other, today, records }: Drawing, alias: string, drawn: Related): Joined {
  const there = other(drawn.table)
  const keys = drawn.keys.flatMap(({ own: mine, theirs, part }) => {
    const [here, far] = [own.table.columns.find(({ id }) => id === mine), there?.table.columns.find(({ id }) => id === theirs)]
    // A group's own column holds the year or the month already.
    return here && far ? [{ mine: keyText(valueOf(mine), here.type, own.table.rollUp ? 'whole' : part), theirs: { raw: keyPart(valueOf(theirs), part), type: part === 'whole' ? far.type : ('text' as const) } }] : []
  })
  if (!there || keys.length < drawn.keys.length || !isThere(there, drawn)) return NOTHING
  const raw = keys.map(({ theirs }, at) => `${theirs.raw} as r${at}`).join(', ')
  const condition = conditionSql(there, drawn.where, today)
  // Of a table of groups a blank is a group as well; otherwise a key that is not there is nobody's.
  const text = (of: string) => (own.table.rollUp ? `coalesce('=' || ${of}, '-')` : of)
  const wanted = keys.map(({ theirs }, at) => text(keyText(`r${at}`, theirs.type, 'whole')))
  const mine = keys.map((key) => text(key.mine))
  const few = records === null ? '' : `where (${wanted.join(', ')}) in (select ${mine.join(', ')} from ${own.from} where ${records})`
  const grouped = `select ${keys.map((_, at) => `r${at}`).join(', ')}, ${taken(there, drawn, condition)} as v from (select *, ${raw} from ${there.from}) as theirs ${filtered(drawn, condition)} group by ${keys.map((_, at) => `r${at}`).join(', ')}`
  const join = `left join (select ${wanted.map((one, at) => `${one} as k${at}`).join(', ')}, v, true as found from (${grouped}) as grouped ${few}) ${alias} on ${mine.map((one, at) => `${one} = ${alias}.k${at}`).join(' and ')}`
  const isNumber = drawn.none === 'nothing' && isNumeric(typeTaken(there.table, drawn))
  return { join, value: isNumber ? `case when ${alias}.found is null then 0 else ${alias}.v end` : `${alias}.v` }
}

function typeTaken({ columns }: Table, { take, of }: Calculation): ColumnType {
  return of === null || take === 'count' || take === 'share' ? 'number' : columns.find(({ id }) => id === of)!.type
}

function isThere({ table }: Readable, { of }: Calculation): boolean {
  return of === null || table.columns.some(({ id }) => id === of)
}

/** A calculation over all records of a table. */
export function calculated(there: Readable, calculation: Calculation, today: DateValue): string {
  const condition = conditionSql(there, calculation.where, today)
  return `select ${taken(there, calculation, condition)} from ${there.from} ${filtered(calculation, condition)}`
}

/** A share is of all; of them those are counted that meet the condition. */
function filtered({ take }: Calculation, condition: string | null): string {
  return condition === null || take === 'share' ? '' : `where ${condition}`
}

function taken({ table }: Readable, { take, of }: Calculation, condition: string | null): string {
  const v = of === null ? '' : valueOf(of)
  const type = of === null ? null : table.columns.find(({ id }) => id === of)!.type
  switch (take) {
    case 'count':
      return 'count(*)'
    case 'share':
      return percent(sql(`(count(*) filter (where ${condition ?? 'true'}))::numeric`), sql('count(*)'))
    case 'sum':
      return `sum(${v})`
    case 'mean':
      return quotient(sql(`sum(${v})`), sql(`count(${v})`)).text
    case 'median':
      // With an even number of values there are two in the middle; the database's own median would be a double.
      return `(percentile_disc(0.5) within group (order by ${v}) + percentile_disc(0.5) within group (order by ${v} desc)) / 2`
    case 'min':
    case 'max':
      return type === 'boolean' ? `${take === 'min' ? 'bool_and' : 'bool_or'}(${v})` : `${take}(${v})`
    case 'value':
      return `case when count(*) = 1 then ${type === 'boolean' ? `bool_and(${v})` : `min(${v})`} end`
  }
}

function percent(of: Sql, all: Sql): string {
  return `100 * ${quotient(of, all).text}`
}

/** What of a value is compared, as SQL. */
export function keyPart(value: string, part: KeyPart): string {
  return part === 'whole' ? value : `to_char(${value}, '${part === 'year' ? 'YYYY' : 'YYYY-MM'}')`
}

/** Keys are compared as texts, so that a number meets the same number, whatever it was written in. */
export function keyText(value: string, type: ColumnType, part: KeyPart): string {
  const of = keyPart(value, part)
  if (part !== 'whole' || type === 'text') return of
  return isNumeric(type) ? `trim_scale(${of})::text` : `${of}::text`
}

/** @throws GateError naming what cannot be asked of the database */
export function conditionSql({ table }: Pick<Readable, 'table'>, feel: string | null, today: DateValue): string | null {
  if (feel === null) return null
  const parsed = parseExpression(feel, tableNames(table))
  // What was right once is wrong where a name is gone: nothing is so then.
  if ('problem' in parsed || checkExpression(parsed.tree, sqlNames(table).types).problems.length > 0) return 'false'
  return `(${expressionToSql(substitute(parsed.tree, wholeSets(table)), { ...sqlNames(table), today }, true).text}) is true`
}

function wholeSets(table: Table): Map<string, Node> {
  const span = { from: 0, to: 0 }
  return new Map(columnSets(table).map(({ name, members }): [string, Node] => [wholeSetName(name), { kind: 'list', span, items: members.map((member) => ({ kind: 'name', span, name: member })) }]))
}

function sqlNames(table: Table) {
  const columns = new Map(table.columns.map((column) => [column.name, column]))
  const sets = new Map(columnSets(table).map((set) => [set.name, set.members]))
  const field = (name: string): Sql => sql(valueOf(columns.get(name)!.id))
  return {
    types: new Map<string, Type>([...table.columns.map(({ name, type }): [string, Type] => [name, kindOfColumn(type)]), ...[...sets.keys()].map((name): [string, Type] => [name, { list: 'number' }])]),
    value: (name: string): Sql | Sql[] => sets.get(name)?.map(field) ?? field(name),
    extreme: () => null,
  }
}
