/** A file goes into a table that exists: columns by their names, records by what tells who they are. One change, which can be taken back. */
import type { MergeAnswer, MergePlan } from '@dime-gate/contract/change'
import { type Column, isComputed, type Table } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { headOf } from '@dime-gate/interchange/table/out'
import { checkColumns, type ColumnPlan, type TableSettings } from '@dime-gate/interchange/table/settings'
import { type Connection, type Database, inTransaction, rowOf, rowsOf } from '../database/database'
import { refusals } from '../http/refusal'
import { SQL_TYPES } from '../table/column-types'
import { copyRecords } from '../table/copy-records'
import { recordsNow, relationOf, valueOf } from '../table/relation'
import { addStored, createStored, dropStored } from '../table/stored'
import { findTable } from '../table/tables'
import type { ColumnsMoved } from './change-values'
import { recount } from './recount'
import { beginChange, type Changing, endChange } from './versions'

export interface Merge {
  tableId: number
  settings: TableSettings
  isReplacing: boolean
  isTrial: boolean
}

const MOST_EXAMPLES = 5

/** A column of the file, and the one of the table that it is; null for one that the table does not have yet. */
interface Meeting {
  at: number
  plan: ColumnPlan
  column: Column | null
}

/** @throws FileError, Refusal `not-found`, `ambiguous`; then nothing is done */
export async function mergeFile(
  database: Database,
  source: AsyncIterable<Uint8Array>,
  { tableId, settings, isReplacing, isTrial }: Merge,
  told: (records: number) => void,
): Promise<MergeAnswer> {
  checkColumns(settings.columns)
  return inTransaction(database, async (connection) => {
    const changing = await beginChange(connection, tableId)
    if (changing.table.rollUp) throw refusals.groupsFollow(changing.table.name)
    // What is computed says nothing that a file could change, and a file that once was this table has it too.
    const table = { ...changing.table, columns: changing.given }
    const figures = changing.table.columns.filter(isComputed).map(({ name }) => folded(name))
    const meetings = meetingsOf(table, settings).filter(({ plan }) => !figures.includes(folded(plan.name)))
    // What the table says of a column goes before what the file looks like.
    const columns = settings.columns.map((plan, at) => ({
      ...plan,
      type: meetings.find((one) => one.at === at)?.column?.type ?? plan.type,
    }))
    await bringIn(connection, source, tableId, { ...settings, columns }, meetings, told)
    const identity = identityOf(table, meetings)
    await match(connection, table, identity)
    const plan = await planOf(connection, table, meetings, identity, isReplacing)
    if (isTrial) {
      await letGo(connection, tableId)
      return { plan, change: null, table }
    }
    if (plan.ambiguous > 0) throw refusals.ambiguous(plan.ambiguous, plan.examples.ambiguous)
    const came = await addColumns(connection, { ...changing, table }, meetings)
    await writeRows(connection, { ...changing, table }, meetings, isReplacing)
    await letGo(connection, tableId)
    await recount(connection, tableId, [...table.columns, ...came.map((id) => ({ id }))])
    const change = await endChange(connection, changing, isReplacing ? 'replace' : 'append', {
      records: plan.added + plan.changed + plan.removed,
      columns: meetings.map(({ plan: { name } }) => name),
      detail: { came } satisfies ColumnsMoved,
    })
    return { plan, change, table: await findTable(connection, tableId) }
  })
}

/** Names are the same whatever their case and white space. */
function folded(name: string): string {
  return name.trim().replace(/\s+/g, ' ').toLowerCase()
}

function meetingsOf(table: Table, { columns }: TableSettings): Meeting[] {
  return columns.flatMap((plan, at) =>
    plan.isLeftOut ? [] : [{ at, plan, column: table.columns.find(({ name }) => folded(name) === folded(plan.name)) ?? null }],
  )
}

/** Those of the table, where the file has all of them. */
function identityOf(table: Table, meetings: readonly Meeting[]): Meeting[] {
  const wanted = table.columns.filter(({ isIdentity }) => isIdentity)
  const found = wanted.flatMap((column) => meetings.find((one) => one.column?.id === column.id) ?? [])
  return found.length === wanted.length ? found : []
}

const incoming = (at: number) => `v${at}`

/** Where the file's records lie meanwhile: as those of a table would, which nobody else ever sees. Ids of tables end before these begin. */
const stageOf = (tableId: number) => 2 ** 31 + tableId

async function bringIn(
  connection: Connection,
  source: AsyncIterable<Uint8Array>,
  tableId: number,
  settings: TableSettings,
  meetings: readonly Meeting[],
  told: (records: number) => void,
): Promise<void> {
  const stage = stageOf(tableId)
  const target = await createStored(
    connection,
    stage,
    meetings.map(({ at }) => ({ id: at, type: settings.columns[at]!.type })),
  )
  const ids = settings.columns.map((_, at) => (meetings.some((one) => one.at === at) ? at : null))
  await copyRecords(connection, target, null, source, settings, ids, told)
  const values = meetings.map(({ at }) => `${valueOf(at)} as ${incoming(at)}`)
  await connection.query(
    `create temporary view incoming as select ${['record as place', 'written', ...values].join(', ')} from ${relationOf(stage)}`,
  )
}

/** Nothing of it stays, whether it is a trial or not. */
async function letGo(connection: Connection, tableId: number): Promise<void> {
  await connection.query('drop view incoming')
  await dropStored(connection, stageOf(tableId))
}

/** By line of the file the record that it is; none for a new one. Those that cannot be told apart are noted, and match nothing. */
async function match(connection: Connection, table: Table, identity: readonly Meeting[]): Promise<void> {
  if (identity.length === 0) {
    await connection.query(
      'create temporary table matched on commit drop as select place, null::integer as record, false as is_ambiguous from incoming',
    )
    return
  }
  // 5 and 5.0 are one number.
  const text = (of: string, name: string, { type }: Column) => (isNumeric(type) ? `trim_scale(${of}.${name})::text` : `${of}.${name}::text`)
  const key = (of: string, nameOf: (one: Meeting) => string) =>
    `row(${identity.map((one) => text(of, nameOf(one), one.column!)).join(', ')})::text`
  const isWhole = identity.map(({ at }) => `i.${incoming(at)} is not null`).join(' and ')
  await connection.query(`
    create temporary table matched on commit drop as
    with here as (select ${key('t', ({ column }) => valueOf(column!.id))} as key, min(record) as record, count(*) as times from ${recordsNow(table.id).replace(/ as records$/, ' as t')} group by 1),
    there as (select place, ${key('i', ({ at }) => incoming(at))} as key, ${isWhole} as is_whole from incoming i),
    counted as (select *, count(*) over (partition by key) as times from there)
    select c.place, case when c.is_whole and c.times = 1 and here.times = 1 then here.record end as record,
      c.is_whole and (c.times > 1 or coalesce(here.times, 1) > 1) as is_ambiguous
    from counted c left join here on here.key = c.key and c.is_whole`)
}

/** Whether a line says of a column what the table does not say yet. */
function isOther({ at, column }: Meeting, isReplacing: boolean): string {
  const [now, next] = [textHere(column!), textOf(at)]
  return isReplacing ? `${now} is distinct from ${next}` : `(${next} is not null and ${now} is distinct from ${next})`
}

/** As written in the table, and in the file. */
function textHere({ id }: Column): string {
  return `coalesce(t.written ->> '${id}', t.${valueOf(id)}::text)`
}

function textOf(at: number): string {
  return `coalesce(i.written ->> '${at}', i.${incoming(at)}::text)`
}

async function planOf(
  connection: Connection,
  table: Table,
  meetings: readonly Meeting[],
  identity: readonly Meeting[],
  isReplacing: boolean,
): Promise<MergePlan> {
  const known = meetings.filter(({ column }) => column !== null)
  const fresh = meetings.filter(({ column }) => column === null)
  const changes =
    [...known.map((one) => isOther(one, isReplacing)), ...fresh.map(({ at }) => `${textOf(at)} is not null`)].join(' or ') || 'false'
  const from = `matched m join incoming i using (place) left join ${relationOf(table.id)} t on t.record = m.record and t.until is null`
  const counts = (await rowOf<{ added: number; changed: number; same: number; ambiguous: number }>(
    connection,
    `
    select count(*) filter (where m.record is null and not m.is_ambiguous)::int as added, count(*) filter (where m.is_ambiguous)::int as ambiguous,
      count(*) filter (where m.record is not null and (${changes}))::int as changed, count(*) filter (where m.record is not null and not coalesce((${changes}), false))::int as same
    from ${from}`,
  ))!
  const gone = `${relationOf(table.id)} t where t.until is null and not exists (select from matched m where m.record = t.record)`
  const removed = isReplacing ? (await rowOf<{ removed: number }>(connection, `select count(*)::int as removed from ${gone}`))!.removed : 0
  const shown = identity.length > 0 ? identity : meetings.slice(0, 1)
  const who = `concat_ws(', ', ${shown.map(({ at }) => textOf(at)).join(', ')})`
  const whoHere = `concat_ws(', ', ${(identity.length > 0 ? identity.map(({ column }) => column!) : table.columns.slice(0, 1)).map(textHere).join(', ')})`
  const names = async (sql: string) => (await rowsOf<{ who: string }>(connection, `${sql} limit ${MOST_EXAMPLES}`)).map((row) => row.who)
  const texts = (of: (one: Meeting) => string) => `to_json(array[${meetings.map(of).join(', ')}]::text[])`
  const met = await rowsOf<{ who: string; before: (string | null)[]; after: (string | null)[] }>(
    connection,
    `
    select ${who} as who, ${texts(({ column }) => (column ? textHere(column) : 'null'))} as before, ${texts(({ at }) => textOf(at))} as after
    from ${from} where m.record is not null and (${changes}) order by m.place limit ${MOST_EXAMPLES}`,
  )
  const changed = met.flatMap((one) =>
    meetings.flatMap(({ plan: { name }, column }, at) => {
      const [before, after] = [one.before[at]!, one.after[at]!]
      const isSaid = column !== null && isReplacing ? true : after !== null
      return isSaid && before !== after ? [{ who: one.who, column: name, before, after }] : []
    }),
  )
  return {
    identity: identity.map(({ column }) => column!.name),
    ...counts,
    removed,
    newColumns: fresh.map(({ plan }) => plan.name),
    untouched: table.columns.filter(({ id }) => !known.some(({ column }) => column!.id === id)).map(({ name }) => name),
    examples: {
      added: await names(`select ${who} as who from ${from} where m.record is null and not m.is_ambiguous order by m.place`),
      ambiguous: await names(`select distinct ${who} as who from ${from} where m.is_ambiguous`),
      removed: isReplacing ? await names(`select ${whoHere} as who from ${gone} order by t.record`) : [],
      changed: spread(changed).slice(0, MOST_EXAMPLES),
    },
  }
}

/** No column fills all the examples, where others changed too. */
function spread<One extends { column: string }>(examples: readonly One[]): One[] {
  const seen = new Map<string, number>()
  const turn = examples.map(({ column }) => {
    const before = seen.get(column) ?? 0
    seen.set(column, before + 1)
    return before
  })
  return examples.map((one, at) => ({ one, at })).sort((a, b) => Math.floor(turn[a.at]! / 2) - Math.floor(turn[b.at]! / 2) || a.at - b.at).map(({ one }) => one)
}

/** @returns the ids of the columns that came, which their meetings have from then on */
async function addColumns(connection: Connection, { table, version }: Changing, meetings: readonly Meeting[]): Promise<number[]> {
  const came: number[] = []
  for (const one of meetings) {
    if (one.column) continue
    const { name, unit, type, fullMarks } = one.plan
    const { id } = (await rowOf<{ id: number }>(
      connection,
      `
      insert into data_column (table_id, place, header, name, unit, type, full_marks, since)
      values ($1, (select coalesce(max(place), -1) + 1 from data_column where table_id = $1), $2, $3, $4, $5, $6, $7) returning id`,
      [table.id, headOf({ name, unit, fullMarks }), name, unit, type, fullMarks, version],
    ))!
    await addStored(connection, table.id, { id, type })
    one.column = { ...table.columns[0]!, id, name, unit, type }
    came.push(id)
  }
  return came
}

async function writeRows(
  connection: Connection,
  { table, version }: Changing,
  meetings: readonly Meeting[],
  isReplacing: boolean,
): Promise<void> {
  const relation = relationOf(table.id)
  const met = new Map(meetings.map((one) => [one.column!.id, one]))
  const ids = [...new Set([...table.columns.map(({ id }) => id), ...met.keys()])]
  // A blank of the file says something only where the file says everything.
  const says = ({ at }: Meeting) => (isReplacing ? 'true' : `${textOf(at)} is not null`)
  const value = (id: number) => {
    const one = met.get(id)
    return one ? `case when ${says(one)} then i.${incoming(one.at)} else t.${valueOf(id)} end` : `t.${valueOf(id)}`
  }
  const said = meetings.map((one) => `case when ${says(one)} then '${one.column!.id}' end`).join(', ')
  const renamed = meetings.map(({ at, column }) => `('${at}', '${column!.id}')`).join(', ')
  const own = `coalesce((select jsonb_object_agg(own, text) from jsonb_each_text(coalesce(i.written, '{}')) as w (at, text) join (values ${renamed}) as c (at, own) using (at)), '{}')`
  const written = `nullif((coalesce(t.written, '{}') - array_remove(array[${said}]::text[], null)) || ${own}, '{}')`
  const changes = meetings.map((one) => isOther(one, isReplacing)).join(' or ')
  const { last } = (await rowOf<{ last: number }>(connection, `select coalesce(max(record), 0)::int as last from ${relation}`))!
  if (isReplacing)
    await connection.query(
      `update ${relation} t set until = $1 where t.until is null and not exists (select from matched m where m.record = t.record)`,
      [version],
    )
  const fields = `(record, since, written, ${ids.map(valueOf).join(', ')})`
  await connection.query(`
    with t as (update ${relation} t set until = ${version} from matched m join incoming i using (place) where t.record = m.record and t.until is null and (${changes}) returning t.*)
    insert into ${relation} ${fields} select t.record, ${version}, ${written}, ${ids.map(value).join(', ')} from t join matched m on m.record = t.record join incoming i using (place)`)
  const fresh = ids.map((id) =>
    met.has(id) ? `i.${incoming(met.get(id)!.at)}` : `null::${SQL_TYPES[table.columns.find((column) => column.id === id)!.type]}`,
  )
  await connection.query(`
    insert into ${relation} ${fields} select ${last} + row_number() over (order by place), ${version}, nullif(${own}, '{}'), ${fresh.join(', ')}
    from matched m join incoming i using (place) where m.record is null order by place`)
}
