/** Every sentence that a figure can be said with, held to SQL that is written by hand, on the demo's tables and on random ones. */
import { join } from 'node:path'
import { readFile } from 'node:fs/promises'
import { BLANK_WAYS, type BlankWay, type Part, recipeFeel, type Recipe } from '@dime-gate/core/figure/recipe'
import { Decimal } from '@dime-gate/core/value/number'
import type { ChangeAnswer } from '@dime-gate/contract/change'
import type { Column, Table } from '@dime-gate/contract/table'
import fc from 'fast-check'
import { rowsOf } from '../database/database'
import { bringIn } from '../testing/bring-in'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'
import { recordsWithFigures } from '../table/relation'

const AS_OF = '2026-03-02'
let server: TemporaryServer
let number = 0
beforeAll(async () => {
  server = await temporaryServer()
  await server.ask('PUT', '/workspace', { asOf: AS_OF })
})
afterAll(() => server.close())

const plain = (text: string | null) => (text === null ? null : new Decimal(text).toSignificantDigits(34).toFixed())
/** More digits than FEEL has, to be rounded afterwards. */
const EXACT = `1.${'0'.repeat(70)}`

async function figure(table: Table, name: string, recipe: Recipe): Promise<Table> {
  const { status, body } = await server.ask('POST', `/tables/${table.id}/changes`, {
    kind: 'add figure',
    name,
    unit: '',
    feel: recipeFeel(recipe),
  })
  expect([status, body]).toEqual([200, body])
  return (body as ChangeAnswer).table
}

/** What each figure comes to, and what SQL makes of the same columns. */
async function bothOf(table: Table, parts: [Part, string][]): Promise<void> {
  let now = table
  for (const [at, [part]] of parts.entries()) now = await figure(now, `figure ${at}`, { part, rounding: null })
  // Asked for its records, they are computed.
  await server.fetch(`/api/v1/tables/${table.id}/listings`, { method: 'POST', body: JSON.stringify({ filters: [], sorts: [] }) })
  now = (await server.ask('GET', `/tables/${table.id}`)).body
  expect(now.figures).not.toBeNull()
  const own = now.columns.filter(({ feel }) => feel !== null)
  const given = Object.fromEntries(now.columns.map(({ name, id }) => [name, `c${id}`]))
  const asSql = (text: string) => text.replaceAll(/"([^"]+)"/g, (_, name: string) => given[name]!)
  const rows = await rowsOf<Record<string, string | null>>(
    server.database,
    `select ${parts.map(([, text], at) => `c${own[at]!.id}::text as f${at}, (${asSql(text)})::text as s${at}`).join(', ')} from ${recordsWithFigures(now)} order by record`,
  )
  for (const [at, [part]] of parts.entries()) {
    expect([part, rows.map((row) => plain(row[`f${at}`]!))]).toEqual([part, rows.map((row) => plain(row[`s${at}`]!))])
  }
}

function onSet(set: string, members: string[]): [Part, string][] {
  const values = `(values ${members.map((name) => `("${name}")`).join(', ')}) as m (v)`
  const of = (expression: string, way: BlankWay) => {
    const from = way === 'count as nothing' ? `(select coalesce(v, 0) as v from ${values}) as n` : values
    const hold = way === 'hold' ? `case when ${members.map((name) => `"${name}" is null`).join(' or ')} then null else` : ''
    return `(select ${hold} (select ${expression} from ${from}) ${hold === '' ? '' : 'end'})`
  }
  const middle = `((array_agg(v order by v) filter (where v is not null))[(count(v) + 1) / 2] + (array_agg(v order by v) filter (where v is not null))[count(v) / 2 + 1]) / 2`
  const SQL = { mean: `sum(v) * ${EXACT} / nullif(count(v), 0)`, sum: 'sum(v)', max: 'max(v)', min: 'min(v)', median: middle } as const
  return [
    ...BLANK_WAYS.flatMap((blanks) =>
      (['mean', 'sum', 'max', 'min', 'median'] as const).map((how): [Part, string] => [
        { kind: 'gather', how, set, blanks },
        of(SQL[how], blanks),
      ]),
    ),
    [{ kind: 'gather', how: 'count', set, blanks: 'leave out' }, `(select count(v) from ${values})`],
    [{ kind: 'full marks', set, marks: '5' }, `(select 100 * sum(v) * ${EXACT} / nullif(5 * count(v), 0) from ${values})`],
  ]
}

function onNumbers(one: string, other: string): [Part, string][] {
  return [
    [
      {
        kind: 'weighted mean',
        of: [
          { name: one, weight: '2' },
          { name: other, weight: '1' },
        ],
      },
      `(2 * "${one}" + "${other}") * ${EXACT} / 3`,
    ],
    [{ kind: 'ratio', over: one, under: other, times: '100' }, `100 * "${one}" * ${EXACT} / nullif("${other}", 0)`],
    [{ kind: 'ratio', over: one, under: other, times: '1' }, `"${one}" * ${EXACT} / nullif("${other}", 0)`],
    [{ kind: 'product', one, other }, `"${one}" * "${other}"`],
    [{ kind: 'difference', of: one, less: other }, `"${one}" - "${other}"`],
    [{ kind: 'growth', now: one, before: other }, `100 * ("${one}" - "${other}") * ${EXACT} / nullif("${other}", 0)`],
  ]
}

function onDate(date: string): [Part, string][] {
  // Of a day that the month does not have the database takes the last; FEEL counts a month once its day has come.
  const months = `(extract(year from date '${AS_OF}') * 12 + extract(month from date '${AS_OF}') - extract(year from "${date}") * 12 - extract(month from "${date}"))`
  const past = `case when ${months} > 0 and extract(day from date '${AS_OF}') < extract(day from "${date}") then ${months} - 1 when ${months} < 0 and extract(day from date '${AS_OF}') > extract(day from "${date}") then ${months} + 1 else ${months} end`
  return [
    [{ kind: 'days until', date }, `"${date}" - date '${AS_OF}'`],
    [{ kind: 'length since', date, as: 'days' }, `date '${AS_OF}' - "${date}"`],
    [{ kind: 'length since', date, as: 'completed months' }, past],
    [{ kind: 'length since', date, as: 'completed years' }, `trunc((${past}) / 12)`],
  ]
}

const typed =
  (types: Record<string, Column['type']>) =>
  ({ columns }: { columns: { name: string; type: Column['type'] }[] }) => {
    for (const column of columns) column.type = types[column.name] ?? column.type
  }

test('on the demo’s tables', async () => {
  const demo = async (file: string) => bringIn(server, file, await readFile(join('demo', 'tables', `${file}.csv`), 'utf8'))
  const course = await demo('climber-course')
  const members = course.columns.filter(({ name }) => name.startsWith('Module')).map(({ name }) => name)
  await server.ask('POST', `/tables/${course.id}/changes`, {
    kind: 'column sets',
    sets: [{ name: 'Modules', by: { kind: 'names', like: 'Module *' } }],
  })
  await bothOf(course, onSet('Modules', members))
  await bothOf(await demo('street-trees'), [
    ...onNumbers('Height', 'Trunk'),
    ...onNumbers('Decay', 'Lean'),
    ...onDate('Next due'),
    ...onDate('Planted'),
  ])
  await bothOf(await demo('crews'), onDate('Started'))
}, 120_000)

test('on random tables with blanks, month ends, leap days and the as-of date itself', async () => {
  const value = fc.oneof(
    { weight: 4, arbitrary: fc.integer({ min: -500, max: 500 }).map((n) => String(n / 100)) },
    { weight: 1, arbitrary: fc.constantFrom('', '0', '0.1') },
  )
  const day = fc.oneof(
    fc.constantFrom(
      '',
      AS_OF,
      '2024-02-29',
      '2018-03-02',
      '2018-03-03',
      '2026-01-31',
      '2025-12-31',
      '2026-03-31',
      '2028-02-29',
      '2018-02-28',
    ),
    fc.date({ min: new Date('1990-01-01'), max: new Date('2040-01-01'), noInvalidDate: true }).map((one) => one.toISOString().slice(0, 10)),
  )
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(value, value, value, day), { minLength: 1, maxLength: 25 }), async (rows) => {
      const text = `Who,Mark 1,Mark 2,Mark 3,Day\n${rows.map((row, at) => [`w${at}`, ...row].join(',')).join('\n')}\n`
      const table = await bringIn(
        server,
        `Random ${++number}`,
        text,
        typed({ 'Mark 1': 'number', 'Mark 2': 'number', 'Mark 3': 'number', Day: 'date' }),
      )
      await server.ask('POST', `/tables/${table.id}/changes`, {
        kind: 'column sets',
        sets: [{ name: 'Marks', by: { kind: 'names', like: 'Mark *' } }],
      })
      await bothOf(table, [...onSet('Marks', ['Mark 1', 'Mark 2', 'Mark 3']), ...onNumbers('Mark 1', 'Mark 2'), ...onDate('Day')])
    }),
    { numRuns: 8 },
  )
}, 180_000)
