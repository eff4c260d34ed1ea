/** A long answer by COPY, which streams: neither side ever holds more than some of its rows. */
import { StringDecoder } from 'node:string_decoder'
import { to as copyTo } from 'pg-copy-streams'
import { fromCopyText } from './copy-text'
import type { Connection } from './database'

/** By field the values of some rows, as PostgreSQL writes them; null where there is none. */
export type TextColumns = (string | null)[][]

/**
 * Rows as columns: a list a row would be most of the work.
 * @param sql without parameters: COPY takes none
 * @param fields how many the rows have
 * @param size rows in a batch; an answer without rows gives one empty batch
 */
export async function* copyRows(connection: Connection, sql: string, fields: number, size: number): AsyncGenerator<TextColumns> {
  const stream = connection.query(copyTo(`copy (${sql}) to stdout`))
  const decoder = new StringDecoder('utf8')
  const fresh = (): TextColumns => Array.from({ length: fields }, () => [])
  let rest = ''
  let batch = fresh()
  let isFirst = true
  for await (const chunk of stream) {
    const text = rest + decoder.write(chunk as Buffer)
    let from = 0
    for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n', from)) {
      for (let field = 0; field < fields; field++) {
        const to = field === fields - 1 ? end : text.indexOf('\t', from)
        batch[field]!.push(fromCopyText(text.slice(from, to)))
        from = to + 1
      }
      if (batch[0]!.length < size) continue
      yield batch
      batch = fresh()
      isFirst = false
    }
    rest = text.slice(from)
  }
  if (batch[0]!.length > 0 || isFirst) yield batch
}
