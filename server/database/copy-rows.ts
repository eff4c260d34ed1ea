/** A long answer by COPY, which streams: neither side ever holds more than some of its rows. */
import { StringDecoder } from 'node:string_decoder'
import { to as copyTo } from 'pg-copy-streams'
import { fromCopyText } from './copy-text'
import type { Connection } from './database'

/** Fields as PostgreSQL writes them; null where there is no value. */
export type TextRow = (string | null)[]

/**
 * @param sql without parameters: COPY takes none
 * @param size rows in a batch; an answer without rows gives one empty batch
 */
export async function* copyRows(connection: Connection, sql: string, size: number): AsyncGenerator<TextRow[]> {
  const stream = connection.query(copyTo(`copy (${sql}) to stdout`))
  const decoder = new StringDecoder('utf8')
  let rest = ''
  let rows: TextRow[] = []
  let isFirst = true
  for await (const chunk of stream) {
    const lines = (rest + decoder.write(chunk as Buffer)).split('\n')
    rest = lines.pop()!
    for (const line of lines) {
      rows.push(line.split('\t').map(fromCopyText))
      if (rows.length < size) continue
      yield rows
      rows = []
      isFirst = false
    }
  }
  if (rows.length > 0 || isFirst) yield rows
}
