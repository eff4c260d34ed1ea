import { copyFile, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gateDocumentSchema } from '@dime-gate/contract/gate-document'
import { type RunSummary, runSchema } from '@dime-gate/contract/run'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { BENCH_GATES, LATER_GATES } from '@dime-gate/demo/bench-gates'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { listBindings } from '../gate/bindings'
import { findGate } from '../gate/gates'
import { loadDemo } from '../load-demo'
import { MIGRATIONS, type TemporaryDatabase, temporaryDatabase } from '../testing/temporary-server'
import { Jobs } from '../jobs'
import { decisionBatches } from '../run/run-columns'
import { findRun } from '../run/runs'
import { changeTable } from '../change/change-table'
import { readRecords } from '../table/records'
import { findTable, listTables } from '../table/tables'
import { readDesk } from '../workspace'
import { type Database, openDatabase, whileReading } from './database'
import { migrate } from './migrate'

/** The demo's tables, the last one brought in first. */
const DEMO = ['Wards', 'Office indicators', 'Crews', 'Night course', 'Resident reports', 'Species', 'Climber course', 'Street trees']

// A thread that decides runs begins anew with each test, which takes seconds on a busy machine.
jest.setTimeout(30_000)

let temporary: TemporaryDatabase
let database: Database
let jobs: Jobs
beforeEach(async () => {
  temporary = await temporaryDatabase()
  database = openDatabase(temporary.url)
  jobs = new Jobs(database, temporary.url)
})
afterEach(async () => {
  await jobs.close()
  await database.end()
  await temporary.drop()
})

test('several copies that start at once migrate once', async () => {
  await Promise.all([migrate(database, MIGRATIONS), migrate(database, MIGRATIONS), migrate(database, MIGRATIONS)])
  const files = (await readdir(MIGRATIONS)).length
  expect((await database.query('select from migration')).rowCount).toBe(files)
})

test('a database of the first version opens with its gates, versions, bindings and runs as they were', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'dime-gate-'))
  await copyFile(join(MIGRATIONS, '001-first.sql'), join(folder, '001-first.sql'))
  await migrate(database, folder)
  await database.query("insert into data_table (name, file_name, file_format) values ('Trees', 't.csv', '{}')")
  await database.query("insert into data_column (table_id, place, header, name, unit, type) values (1, 0, 'Decay', 'Decay', '%', 'percent')")
  await database.query('create table records.t1 (record integer primary key, written jsonb, c1 numeric, c2 numeric)')
  await database.query("insert into records.t1 (record, c1, c2, written) values (1, 7, 3, null), (2, null, null, '{\"1\": \"n/a\"}')")
  const band = (label: string, colour: string) => ({ label, colour, mark: 'disc' })
  const old = {
    form: 'scale', name: 'Decay band', input: { name: 'Decay', type: 'percent', unit: '%' }, floor: { at: '0', included: true }, ceiling: null,
    cuts: [{ at: '12', owner: 'above' }, { at: '25', owner: 'below' }], bands: [band('Sound', '#112233'), band('Watch', '#445566'), band('Sound', '#112233')],
  }
  await database.query('insert into gate (draft, table_id, column_id) values ($1, 1, 1)', [old])
  await database.query('insert into gate_version (gate_id, number, document) values (1, 1, $1)', [old])
  // A run of a time at which the gate looked at another column.
  await database.query("insert into data_column (table_id, place, header, name, unit, type) values (1, 1, 'Rot', 'Rot', '%', 'percent')")
  const counts = { records: 2, bands: [1, 0, 0], held: 1, unplaced: 0, onCut: [0, 0], blank: 1, unreadable: 0 }
  await database.query("insert into run (gate_id, number, gate_version, table_id, table_version, column_id, as_of, counts) values (1, 1, 1, 1, 1, 2, '2026-01-05', $1)", [counts])
  await database.query("insert into run_record (run_id, record, status, band, value) values (1, 1, 0, 0, 3), (1, 2, 2, null, null)")
  await migrate(database, MIGRATIONS)
  const gate = await findGate(database, 1)
  expect(gateDocumentSchema.parse(gate.draft)).toEqual(gate.draft)
  const { columns } = await findTable(database, 1)
  expect(await readRecords(database, { id: 1, columns, figures: null }, columns, [1, 2])).toEqual([{ record: 1, cells: [['7', null], ['3', null]] }, { record: 2, cells: [[null, 'n/a'], [null, null]] }])
  expect((await changeTable(database, 1, { kind: 'remove records', records: [2] }, null)).table).toMatchObject({ version: 2, records: 1 })
  expect(gate.latest).toEqual(gate.draft)
  expect(bandsOf(gate.draft as ScaleGate)).toEqual(old.bands)
  expect(await listBindings(database, 1)).toMatchObject([{ tableId: 1, tableName: 'Trees', version: 1, inputs: { Decay: { column: 1 } } }])
  const run = await findRun(database, jobs.runs, 1)
  expect(run).toMatchObject({ gateName: 'Decay band', gateVersion: 1, tableId: 1, asOf: '2026-01-05', binding: { Decay: { column: 2 } } })
  expect(runSchema.parse(run).counts).toEqual({
    records: 2, caught: [1, 0, 0], otherwise: 0, unplaced: 0, held: 1, contested: 0, alone: [1, 0, 0], exceptions: 1, unreadable: 0, outside: 0, onEdge: 0, nearEdge: 0,
    inputs: [{ input: 'Decay', blank: 1, unreadable: 0, outside: 0 }], edges: [{ of: 'Decay', at: '12', on: 0, short: 0, past: 0 }, { of: 'Decay', at: '25', on: 0, short: 0, past: 0 }],
  })
  const batches: number[][] = []
  await whileReading(database, async (connection) => {
    for await (const batch of decisionBatches(connection, run.id)) batches.push([...batch.status], [...batch.rule])
  })
  expect(batches).toEqual([[0, 2], [0, -1]])
  expect((await database.query('select record, o1, i1::text from runs.r1 order by record')).rows).toEqual([{ record: 1, o1: 'Sound', i1: '3' }, { record: 2, o1: null, i1: null }])
  expect(gate.draft).toMatchObject({ on: 'Decay', cuts: old.cuts, floor: old.floor, inputs: [{ name: 'Decay', type: 'number', unit: '%', tolerance: null }] })
  await rm(folder, { recursive: true })
})

test('a migration that fails changes nothing', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'dime-gate-'))
  await writeFile(join(folder, '001-good.sql'), 'create table good (a int)')
  await writeFile(join(folder, '002-bad.sql'), 'create table bad (a int); select nonsense')
  await expect(migrate(database, folder)).rejects.toThrow('nonsense')
  expect((await database.query("select from pg_tables where tablename in ('good', 'bad')")).rowCount).toBe(0)
  await rm(folder, { recursive: true })
})

test('a database newer than the program is refused by name', async () => {
  await migrate(database, MIGRATIONS)
  await database.query("insert into migration (file) values ('999-later.sql')")
  await expect(migrate(database, MIGRATIONS)).rejects.toThrow('999-later.sql')
})

test('the demo is loaded once, and a load that was cut short is finished', async () => {
  await migrate(database, MIGRATIONS)
  const folder = join('demo', 'tables')
  await loadDemo(database, jobs, folder)
  const first = await readDesk(database, jobs)
  expect(first.tables.map(({ name, records }) => [name, records])).toEqual([['Wards', 8], ['Office indicators', 6], ['Crews', 38], ['Night course', 41], ['Resident reports', 930], ['Species', 24], ['Climber course', 64], ['Street trees', 1240]])
  expect(first.asOf).toBe('2026-03-02')
  expect(first.gates).toHaveLength(BENCH_GATES.length + LATER_GATES.length)
  const ended = async (): Promise<RunSummary[]> => {
    const { runs } = await readDesk(database, jobs)
    return runs.every(({ state }) => state !== 'under way') ? runs : ended()
  }
  expect(await ended()).toMatchObject(['Course award', 'Felling decision', 'Decay band'].map((gateName) => ({ gateName, number: 1, asOf: '2026-03-02', state: 'done' })))
  await loadDemo(database, jobs, folder)
  expect(await readDesk(database, jobs)).toMatchObject({ tables: first.tables, gates: first.gates })
  // As a load that was cut short leaves it.
  await database.query('update workspace set is_demo_loaded = false')
  for (const relation of ['run', 'gate_version', 'gate']) await database.query(`delete from ${relation}`)
  await database.query('delete from data_column where drawn is not null')
  await database.query('delete from data_table where id = $1', [first.tables[0]!.id])
  await loadDemo(database, jobs, folder)
  expect((await listTables(database)).map(({ name }) => name)).toEqual(DEMO)
})

test('columns that records are found by are indexed, in tables of before as well', async () => {
  await migrate(database, MIGRATIONS)
  await loadDemo(database, jobs, join('demo', 'tables'))
  const indexed = async () =>
    (await database.query<{ index: string }>("select regexp_replace(indexdef, '^.* ON ', '') as index from pg_indexes where schemaname = 'records' and indexname ~ '^t[0-9]+_c[0-9]+$' order by 1")).rows.map(({ index }) => index)
  const now = await indexed()
  expect(now.length).toBeGreaterThan(2)
  expect(now).toEqual(expect.arrayContaining([expect.stringMatching(/"?left"?\(c\d+, 200\)/)]))
  await database.query("do $$ declare one text; begin for one in select indexname from pg_indexes where schemaname = 'records' and indexname ~ '^t[0-9]+_c[0-9]+$' loop execute 'drop index records.' || one; end loop; end $$")
  expect(await indexed()).toEqual([])
  await database.query(await readFile(join(MIGRATIONS, '027-keys.sql'), 'utf8'))
  expect(await indexed()).toEqual(now)
})
