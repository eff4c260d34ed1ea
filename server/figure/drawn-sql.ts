/** Columns that are drawn from other records, as the database works them out. */
import pg from 'pg'
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
import { keptInIndex } from '../table/stored'

/** A table to be read from, with as many of its columns as are known. */
export interface Readable {
  table: Table
  /** As SQL: record, and a field for each column. */
  from: string
}

/** @property asked the records that are asked for; null for all */
export interface Drawing {
  own: Readable
  other(table: number): Readable | null
  today: DateValue
  asked: Asked | null
}

/** Some records, as SQL over `record`, and what they have in the columns that others are found by, as the database writes it. */
export interface Asked {
  records: string
  keys: ReadonlyMap<number, readonly (string | null)[]>
}

/** What is joined to a table's records to have the values of columns, and these, by column. */
export interface Joined {
  joins: string
  values: ReadonlyMap<number, string>
}

type DrawnColumn = Pick<Column, 'id' | 'type'> & { drawn: Exclude<Drawn, { kind: 'label' }> }
type RelatedColumn = DrawnColumn & { drawn: Related }

/** Columns that take of the same records are worked out at once. @returns nothing but nulls where what they are drawn from is gone */
export function drawnSql(drawing: Drawing, columns: readonly DrawnColumn[]): Joined {
  const joins: string[] = []
  const values = new Map<number, string>()
  const add = (of: readonly DrawnColumn[], join: string, valueOfColumn: (column: DrawnColumn) => string): void => {
    joins.push(join)
    for (const column of of) {
      const value = `(${valueOfColumn(column)})::${SQL_TYPES[column.type]}`
      values.set(column.id, isNumeric(column.type) ? `trim_scale(${value})` : value)
    }
  }
  const together = new Map<string, RelatedColumn[]>()
  for (const column of columns) {
    const { drawn } = column
    if (drawn.kind === 'related') {
      const key = JSON.stringify([drawn.table, drawn.keys])
      together.set(key, [...(together.get(key) ?? []), { ...column, drawn }])
      continue
    }
    const found = drawn.kind === 'own' ? ownSql(drawing, drawn) : placeSql(drawing, drawn)
    if (found === null) add([column], '', () => 'null')
    else add([column], `left join (${found}) d${column.id} using (record)`, () => `d${column.id}.v`)
  }
  for (const some of together.values()) relatedSql(drawing, some, add)
  return { joins: joins.join(' '), values }
}

function placeSql({ own }: Drawing, drawn: Drawn & { kind: 'rank' | 'part' }): string | null {
  const columnOf = (id: number) => own.table.columns.find((one) => one.id === id)
  const [of, within] = [columnOf(drawn.of), drawn.within === null ? null : columnOf(drawn.within)]
  if (!of || within === undefined) return null
  const group = within === null ? '' : `partition by ${valueOf(within.id)}`
  const v = valueOf(of.id)
  const value =
    drawn.kind === 'rank'
      ? `rank() over (${group} order by ${v} ${drawn.first === 'highest' ? 'desc' : 'asc'})`
      : percent(sql(v), sql(`sum(${v}) over (${group})`))
  return `select record, ${value} as v from ${own.from} where ${v} is not null`
}

function ownSql({ other, today }: Drawing, { calculations }: Drawn & { kind: 'own' }): string | null {
  const parts = calculations.flatMap((calculation) => {
    const there = other(calculation.table)
    return there && isThere(there, calculation)
      ? [`select ${calculation.record} as record, (${calculated(there, calculation, today)})::numeric as v`]
      : []
  })
  return parts.length === 0 ? null : parts.join(' union all ')
}

/** @param columns of the same table and keys */
function relatedSql(
  { own, other, today, asked }: Drawing,
  columns: readonly RelatedColumn[],
  add: (of: readonly DrawnColumn[], join: string, value: (column: DrawnColumn) => string) => void,
): void {
  const [first] = columns
  const there = other(first!.drawn.table)
  const keys = first!.drawn.keys.flatMap(({ own: mine, theirs, part }) => {
    const [here, far] = [own.table.columns.find(({ id }) => id === mine), there?.table.columns.find(({ id }) => id === theirs)]
    // A group's own column holds the year or the month already.
    return here && far
      ? [
          {
            column: mine,
            mine: keyText(valueOf(mine), here.type, own.table.rollUp ? 'whole' : part),
            isOfOneType: SQL_TYPES[here.type] === SQL_TYPES[part === 'whole' ? far.type : 'text'],
            theirs: { raw: keyPart(valueOf(theirs), part), type: part === 'whole' ? far.type : ('text' as const) },
          },
        ]
      : []
  })
  const able = columns.filter(({ drawn }) => there && isThere(there, drawn))
  const gone = columns.filter((column) => !able.includes(column))
  if (!there || keys.length < first!.drawn.keys.length || able.length === 0) return add(columns, '', () => 'null')
  if (gone.length > 0) add(gone, '', () => 'null')
  const alias = `d${first!.id}`
  // Of a table of groups a blank is a group as well; otherwise a key that is not there is nobody's.
  const text = (of: string) => (own.table.rollUp ? `coalesce('=' || ${of}, '-')` : of)
  const wanted = keys.map(({ theirs }, at) => text(keyText(`r${at}`, theirs.type, 'whole')))
  const mine = keys.map((key) => text(key.mine))
  // Groups that nobody asks for need not be made; of a table of groups all are asked for.
  const isAll = own.table.rollUp !== null && asked === null
  const far = keys.map(({ theirs }) => text(keyText(theirs.raw, theirs.type, 'whole')))
  // The keys of few records are known: then others are left out before anything is joined to them. With one key that says it all.
  const known = keys.map(({ column, isOfOneType, theirs }) => (asked && isOfOneType ? isAmong(theirs.raw, theirs.type, asked.keys.get(column)!) : null))
  const met = known.filter((one) => one !== null)
  if (!isAll && (keys.length > 1 || met.length === 0))
    met.push(`(${far.join(', ')}) in (select ${mine.join(', ')} from ${own.from}${asked === null ? '' : ` where ${asked.records}`})`)
  const conditions = able.map(({ drawn }) => (drawn.take === 'share' ? null : conditionSql(there, drawn.where, today)))
  // One condition for all leaves the others out before anything is counted.
  const [common] = new Set(conditions).size === 1 ? conditions : [null]
  const where = [...met, ...(common === null || common === undefined ? [] : [common])]
  const taken = able.map(({ id, drawn }, at) => {
    const isShare = drawn.take === 'share'
    const condition = isShare ? conditionSql(there, drawn.where, today) : conditions[at] === common ? null : conditions[at]!
    return `${take(there, drawn, condition)} as v${id}, ${counted(isShare ? null : condition)} as n${id}`
  })
  const raws = keys.map((_, at) => `r${at}`)
  const grouped = `select ${[...raws, ...taken].join(', ')} from (select *, ${keys.map(({ theirs }, at) => `${theirs.raw} as r${at}`).join(', ')} from ${there.from}) as theirs ${where.length === 0 ? '' : `where ${where.join(' and ')}`} group by ${raws.join(', ')}`
  const values = able.map(({ id }) => `v${id}, n${id}`)
  const join = `left join (select ${[...wanted.map((one, at) => `${one} as k${at}`), ...values].join(', ')} from (${grouped}) as grouped) ${alias} on ${mine.map((one, at) => `${one} = ${alias}.k${at}`).join(' and ')}`
  add(able, join, (column) => {
    const { id, drawn } = able.find((one) => one.id === column.id)!
    const isNumber = drawn.none === 'nothing' && isNumeric(typeTaken(there.table, drawn))
    return isNumber ? `case when coalesce(${alias}.n${id}, 0) = 0 then 0 else ${alias}.v${id} end` : `${alias}.v${id}`
  })
}

/** Whether a value is one of some, as SQL, in a way that an index of `indexStored` is used for. */
function isAmong(value: string, type: ColumnType, some: readonly (string | null)[]): string {
  const texts = some.filter((one) => one !== null).map((one) => pg.escapeLiteral(one))
  const list = `array[${texts.join(', ')}]::${SQL_TYPES[type]}[]`
  const isOne = `${value} = any(${list})`
  const conditions = [
    ...(texts.length === 0 ? [] : [type === 'text' ? `${keptInIndex(value)} = any(array[${texts.map(keptInIndex).join(', ')}]) and ${isOne}` : isOne]),
    ...(some.includes(null) ? [`${value} is null`] : []),
  ]
  return conditions.length === 0 ? 'false' : `(${conditions.join(' or ')})`
}

function typeTaken({ columns }: Table, { take, of }: Calculation): ColumnType {
  return of === null || take === 'count' || take === 'share' ? 'number' : columns.find(({ id }) => id === of)!.type
}

function isThere({ table }: Readable, { of }: Calculation): boolean {
  return of === null || table.columns.some(({ id }) => id === of)
}

/** A calculation over all records of a table. */
export function calculated(there: Readable, calculation: Calculation, today: DateValue): string {
  return `select ${take(there, calculation, conditionSql(there, calculation.where, today))} from ${there.from}`
}

function counted(condition: string | null): string {
  return `count(*)${filter(condition)}`
}

function filter(condition: string | null): string {
  return condition === null ? '' : ` filter (where ${condition})`
}

/** @param condition of the records that are taken; a share is of all, and of them those are counted that meet it */
function take({ table }: Pick<Readable, 'table'>, { take: how, of }: Calculation, condition: string | null): string {
  const v = of === null ? '' : valueOf(of)
  const type = of === null ? null : table.columns.find(({ id }) => id === of)!.type
  const only = filter(condition)
  const middle = (order: string) => `percentile_disc(0.5) within group (order by ${v} ${order})${only}`
  switch (how) {
    case 'count':
      return counted(condition)
    case 'share':
      return percent(sql(`(${counted(condition)})::numeric`), sql('count(*)'))
    case 'sum':
      return `sum(${v})${only}`
    case 'mean':
      return quotient(sql(`sum(${v})${only}`), sql(`count(${v})${only}`)).text
    case 'median':
      // With an even number of values there are two in the middle; the database's own median would be a double.
      return `(${middle('asc')} + ${middle('desc')}) / 2`
    case 'min':
    case 'max':
      return `${type === 'boolean' ? (how === 'min' ? 'bool_and' : 'bool_or') : how}(${v})${only}`
    case 'value':
      return `case when ${counted(condition)} = 1 then ${type === 'boolean' ? 'bool_and' : 'min'}(${v})${only} end`
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

/** What tells a group from all others, as SQL: blanks make a group as well. */
export function groupKey(by: readonly { value: string; type: ColumnType; part: KeyPart }[]): string {
  return `jsonb_build_array(${by.map(({ value, type, part }) => keyText(value, type, part)).join(', ')})::text`
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
  return new Map(
    columnSets(table).map(({ name, members }): [string, Node] => [
      wholeSetName(name),
      { kind: 'list', span, items: members.map((member) => ({ kind: 'name', span, name: member })) },
    ]),
  )
}

function sqlNames(table: Table) {
  const columns = new Map(table.columns.map((column) => [column.name, column]))
  const sets = new Map(columnSets(table).map((set) => [set.name, set.members]))
  const field = (name: string): Sql => sql(valueOf(columns.get(name)!.id))
  return {
    types: new Map<string, Type>([
      ...table.columns.map(({ name, type }): [string, Type] => [name, kindOfColumn(type)]),
      ...[...sets.keys()].map((name): [string, Type] => [name, { list: 'number' }]),
    ]),
    value: (name: string): Sql | Sql[] => sets.get(name)?.map(field) ?? field(name),
    extreme: () => null,
  }
}
