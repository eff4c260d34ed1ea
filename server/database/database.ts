/** The connection to PostgreSQL, and the few ways in which it is used. */
import pg from 'pg'

export type Database = pg.Pool
export type Connection = pg.PoolClient
/** Whatever can answer a query: a pool, or one connection in a transaction. */
export type Queryable = Pick<pg.Pool, 'query'>

// Counts and ids stay far below 2^53; dates stay the text they are, free of time zones.
pg.types.setTypeParser(pg.types.builtins.INT8, Number)
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text)

export function openDatabase(url: string): Database {
  const pool = new pg.Pool({ connectionString: url, max: 8 })
  // A connection that breaks while idle is replaced at the next query, which then tells of any trouble.
  pool.on('error', () => undefined)
  return pool
}

/** Runs `work` in one transaction: all of it is done, or none. */
export async function inTransaction<Result>(database: Database, work: (connection: Connection) => Promise<Result>): Promise<Result> {
  const connection = await database.connect()
  try {
    await connection.query('begin')
    const result = await work(connection)
    await connection.query('commit')
    connection.release()
    return result
  } catch (error) {
    // A connection that cannot even roll back is not used again.
    await connection.query('rollback').then(() => connection.release(), (broken: Error) => connection.release(broken))
    throw error
  }
}

/** Runs `work` on the database as it stands at one moment, however long it reads. */
export async function whileReading(database: Database, work: (connection: Connection) => Promise<void>): Promise<void> {
  const connection = await database.connect()
  try {
    await connection.query('begin isolation level repeatable read, read only')
    await work(connection)
    await connection.query('commit')
    connection.release()
  } catch (error) {
    // A COPY that was left half-way would keep the connection busy for good, so it is closed.
    connection.release(error as Error)
    throw error
  }
}

export async function rowsOf<Row extends object>(on: Queryable, sql: string, values: unknown[] = []): Promise<Row[]> {
  return (await on.query<Row>(sql, values)).rows
}

/** The first row, or null. */
export async function rowOf<Row extends object>(on: Queryable, sql: string, values: unknown[] = []): Promise<Row | null> {
  return (await rowsOf<Row>(on, sql, values))[0] ?? null
}

export function isUniqueViolation(error: unknown, index: string): boolean {
  return error instanceof pg.DatabaseError && error.code === '23505' && error.constraint === index
}
