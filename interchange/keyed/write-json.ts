/** JSON (RFC 8259) as an array of objects, or an object a line. Numbers are written as they are, however many digits they have. */
import { headsOf, type OutCell, type OutColumn, type OutRow, type OutTable } from '../table/out'

export async function* writeJson(table: OutTable, rows: AsyncIterable<readonly OutRow[]>, isInLines: boolean): AsyncGenerator<Uint8Array> {
  const keys = headsOf(table.columns).map((head) => `${JSON.stringify(head)}:`)
  let isFirst = true
  if (!isInLines) yield Buffer.from('[\n')
  for await (const some of rows) {
    let text = ''
    for (const row of some) {
      if (!isFirst && !isInLines) text += ',\n'
      isFirst = false
      text += `{${row.map((cell, at) => keys[at]! + valueText(cell, table.columns[at]!)).join(',')}}`
      if (isInLines) text += '\n'
    }
    yield Buffer.from(text)
  }
  if (!isInLines) yield Buffer.from(isFirst ? ']\n' : '\n]\n')
}

function valueText({ value, unreadable }: OutCell, { type }: OutColumn): string {
  if (value === null) return unreadable === null ? 'null' : JSON.stringify(unreadable)
  return type === 'text' || type === 'date' ? JSON.stringify(value) : value
}
