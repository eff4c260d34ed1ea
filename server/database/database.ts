/** The connection to PostgreSQL, and the few ways in which it is used. */
import pg from 'pg'

export type Database = pg.Pool
export type Connection = pg.PoolClient
/** Whatever can answer a query: a pool, or one connection in a transaction. */
export type Queryable = Pick<pg.Pool, 'query'>

// Counts and ids stay far below 2^53; dates stay the text they are, free of time zones.
pg.types.setTypeParser(pg.types.builtins.INT8, Number)
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text)

const MOST_CONNECTIONS = 8
/** What takes long takes one processor, and leaves the others to whoever asks for little. */
const ALONE = '-c max_parallel_workers_per_gather=0'
/** Milliseconds that anybody waits for a connection. */
const PATIENCE = 10_000

/** @param waits whether one who waits for a connection does so however long it takes */
export function openDatabase(url: string, { waits = false } = {}): Database {
  const pool = new pg.Pool({ connectionString: url, max: MOST_CONNECTIONS, connectionTimeoutMillis: waits ? 0 : PATIENCE, ...(waits ? { options: ALONE } : {}) })
  // A connection that breaks is replaced, and whatever was asked on it tells of the trouble; a break between two
  // questions, idle or not, is nobody's, and would otherwise end the program.
  pool.on('error', () => undefined)
  pool.on('connect', (client) => client.on('error', () => undefined))
  return pool
}

/** Milliseconds that a database which is just being started, or recovers from a crash, is given. */
const START_WITHIN = 60_000
const LOOK_EVERY = 250

/** Waits until the database answers. @param waiting is called once where that is not at once. @throws Error where it does not, or not in time */
export async function whenThere(database: Database, waiting: () => void): Promise<void> {
  const until = Date.now() + START_WITHIN
  for (let tries = 1; ; tries++) {
    try {
      await database.query('select 1')
      return
    } catch (error) {
      if (!isAway(error) || Date.now() > until) throw error
      if (tries === 4) waiting()
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY))
    }
  }
}

/** Any number will do, as long as nobody else takes it for something of theirs. */
const GROUND = 4170

/** Runs `work` while no other server on this database does. */
export async function alone(database: Database, work: () => Promise<void>): Promise<void> {
  const connection = await database.connect()
  try {
    await connection.query('select pg_advisory_lock($1)', [GROUND])
    await work()
  } finally {
    // With the connection the lock goes, whatever became of it.
    connection.release(true)
  }
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

/** Two relations of a million rows are joined in memory, and not by way of files: that takes half as long. */
export const ROOM = '256MB'

/** Rows of a question that joins whole relations, and that a page waits for: it may take a second processor. */
export async function joinedRows<Row extends object>(database: Database, sql: string): Promise<Row[]> {
  let rows: Row[] = []
  await whileReading(database, async (connection) => {
    await connection.query(`set local work_mem = '${ROOM}'; set local max_parallel_workers_per_gather = 1`)
    rows = await rowsOf<Row>(connection, sql)
  })
  return rows
}

/** A question that is asked all the time: each connection reads it once, and plans it a few times. */
export interface Prepared {
  name: string
  text: string
}

export async function rowsOf<Row extends object>(on: Queryable, asked: string | Prepared, values: unknown[] = []): Promise<Row[]> {
  return (await on.query<Row>(typeof asked === 'string' ? { text: asked, values } : { ...asked, values })).rows
}

/** The first row, or null. */
export async function rowOf<Row extends object>(on: Queryable, asked: string | Prepared, values: unknown[] = []): Promise<Row | null> {
  return (await rowsOf<Row>(on, asked, values))[0] ?? null
}

/** PostgreSQL's documentation, appendix A: classes of error codes, and codes, that say that the database went away or is not there yet. */
const AWAY = /^(08|57P0[123]|53300)/
const AWAY_ON_THE_WAY = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT'])
/** What node-postgres says of a connection that is gone has no code; that a database lets nobody in shares its code with much else. */
const AWAY_WORDS = /Connection terminated|Client has encountered a connection error|client was closed|timeout exceeded when trying to connect|not currently accepting connections/i

/** Whether the database cannot be asked at present, whatever was asked. */
export function isAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false
  const { code } = error as NodeJS.ErrnoException
  return (code !== undefined && (AWAY.test(code) || AWAY_ON_THE_WAY.has(code))) || AWAY_WORDS.test(error.message)
}

/** On a full disk no connection can be begun either, and that has no code of its own. */
const FULL_WORDS = /No space left on device|could not write init file/

/** Why the database does not take what it was given: its disk is full, the row is wider than one can be, or a value is none that it knows. */
export function refusedBy(error: unknown): 'full' | 'wide' | 'value' | null {
  if (!(error instanceof pg.DatabaseError) || !error.code) return null
  if (error.code === '53100' || FULL_WORDS.test(error.message)) return 'full'
  if (error.code === '54000') return 'wide'
  return error.code.startsWith('22') ? 'value' : null
}

/** Whether the database could not make a value, or was asked for what such values do not have; all else about it is well. */
export function isOfTheData(error: unknown): boolean {
  return error instanceof pg.DatabaseError && /^(22|42)/.test(error.code ?? '')
}

export function isUniqueViolation(error: unknown, index: string): boolean {
  return error instanceof pg.DatabaseError && error.code === '23505' && error.constraint === index
}
