/** Rows into a relation by COPY, as fast as the database takes them. */
import { once } from 'node:events'
import { finished } from 'node:stream/promises'
import { from as copyFrom } from 'pg-copy-streams'
import type { Connection } from './database'

/**
 * @param rows hands over what is to be written, in pieces; the next may be made while one is on its way
 * @returns what `rows` returns, once all of it is in
 * @throws what `rows` throws, or why the database did not take it; the connection can then still be rolled back
 */
export async function copyIn<Result>(
  connection: Connection,
  sql: string,
  rows: (write: (piece: Uint8Array) => Promise<void>) => Promise<Result>,
): Promise<Result> {
  const copy = connection.query(copyFrom(sql))
  // Watched from the start, so that a failure between two writes is not an unhandled one.
  let broken: { reason: unknown } | null = null
  const copied = finished(copy)
  copied.catch((reason: unknown) => (broken = { reason }))
  let sent: Promise<unknown> = Promise.resolve()
  const write = async (piece: Uint8Array): Promise<void> => {
    await sent
    if (copy.write(piece)) return
    sent = Promise.race([once(copy, 'drain'), copied])
    sent.catch(() => undefined)
  }
  try {
    const result = await rows(write)
    copy.end()
    await copied
    return result
  } catch (error) {
    // What is written to a connection that broke fails too, and says less.
    const reason = (broken as { reason: unknown } | null)?.reason ?? error
    // A COPY that is left half-way would keep the connection from rolling back.
    copy.destroy(reason as Error)
    await copied.catch(() => undefined)
    throw reason
  }
}
