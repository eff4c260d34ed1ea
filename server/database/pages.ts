/** A long answer in pages, so that neither side ever holds more than one of them. */
import type { Queryable } from './database'

/** Fields as PostgreSQL writes them; null where there is no value. */
export type TextRow = (string | null)[]

const AS_TEXT = { getTypeParser: () => (text: string) => text }

/**
 * @param sql takes the key after which the page begins as $1, gives the key as its first field, and orders by it
 * @param size rows in a page; an answer without rows gives one empty page
 */
export async function* pages(on: Queryable, sql: string, size: number): AsyncGenerator<TextRow[]> {
  let after = '0'
  for (let first = true; ; first = false) {
    const { rows } = await on.query<TextRow>({ text: `${sql} limit ${size}`, values: [after], rowMode: 'array', types: AS_TEXT })
    if (rows.length > 0 || first) yield rows
    if (rows.length < size) return
    after = rows.at(-1)![0]!
  }
}
