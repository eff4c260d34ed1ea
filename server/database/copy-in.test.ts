import { testDatabase } from '../testing/test-database'
import { copyIn } from './copy-in'
import { inTransaction, isAway, rowsOf } from './database'

const COPY = 'copy taken from stdin'
const ROW = Buffer.from('1\n')
const MUCH = Buffer.from('1\n'.repeat(100_000))

const database = testDatabase((database) => database.query('create table taken (number integer)'))
const taken = async () => (await rowsOf<{ rows: number }>(database(), 'select count(*)::int as rows from taken'))[0]!.rows

beforeEach(() => database().query('truncate taken'))

test('all that is handed over is in, and what the work says comes back', async () => {
  const said = await inTransaction(database(), (connection) =>
    copyIn(connection, COPY, async (write) => {
      for (let piece = 0; piece < 20; piece++) await write(MUCH)
      return 'all of it'
    }),
  )
  expect(said).toBe('all of it')
  expect(await taken()).toBe(2_000_000)
})

test('where the work fails, its reason is told, nothing is in, and the connection goes on', async () => {
  await inTransaction(database(), async (connection) => {
    await connection.query('savepoint before')
    await expect(
      copyIn(connection, COPY, async (write) => {
        await write(ROW)
        throw new Error('the file ended too early')
      }),
    ).rejects.toThrow('the file ended too early')
    await connection.query('rollback to before')
    expect((await connection.query('select 1 as one')).rows).toEqual([{ one: 1 }])
  })
  expect(await taken()).toBe(0)
})

test('what the database does not take is told in its words', async () => {
  await expect(inTransaction(database(), (connection) => copyIn(connection, COPY, (write) => write(Buffer.from('one\n'))))).rejects.toThrow(
    'invalid input syntax for type integer',
  )
  expect(await taken()).toBe(0)
})

test('where the database goes away in the middle, that is the reason, however often is written after it', async () => {
  const failure = await inTransaction(database(), (connection) =>
    copyIn(connection, COPY, async (write) => {
      await write(ROW)
      const [{ pid }] = (await rowsOf<{ pid: number }>(database(), 'select pid from pg_stat_activity where query = $1', [COPY])) as [
        { pid: number },
      ]
      await database().query('select pg_terminate_backend($1)', [pid])
      await new Promise((resolve) => setTimeout(resolve, 200))
      for (let piece = 0; piece < 5; piece++) await write(MUCH)
    }),
  ).catch((error: unknown) => error)
  expect(isAway(failure)).toBe(true)
  expect(await taken()).toBe(0)
})
