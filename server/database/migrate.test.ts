import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { loadDemo } from '../load-demo'
import { MIGRATIONS, type TemporaryDatabase, temporaryDatabase } from '../testing/temporary-server'
import { listTables } from '../table/tables'
import { readDesk } from '../workspace'
import { type Database, openDatabase } from './database'
import { migrate } from './migrate'

let temporary: TemporaryDatabase
let database: Database
beforeEach(async () => {
  temporary = await temporaryDatabase()
  database = openDatabase(temporary.url)
})
afterEach(async () => {
  await database.end()
  await temporary.drop()
})

test('several copies that start at once migrate once', async () => {
  await Promise.all([migrate(database, MIGRATIONS), migrate(database, MIGRATIONS), migrate(database, MIGRATIONS)])
  expect((await database.query('select from migration')).rowCount).toBe(1)
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
  await loadDemo(database, folder)
  const first = await readDesk(database)
  expect(first.tables.map(({ name, records }) => [name, records])).toEqual([['Climber course', 64], ['Street trees', 1240]])
  expect(first.asOf).toBe('2026-03-02')
  await loadDemo(database, folder)
  expect(await readDesk(database)).toEqual(first)
  await database.query('delete from gate')
  await database.query('delete from data_table where id = $1', [first.tables[0]!.id])
  await loadDemo(database, folder)
  expect((await listTables(database)).map(({ name }) => name)).toEqual(['Climber course', 'Street trees'])
})
