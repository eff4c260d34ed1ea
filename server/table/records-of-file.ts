/** The records of a delimited file, some at a time; a piece's hold until the next. */
import { FileError, fileError } from '@dime-gate/interchange/table/problem'
import { recordReader } from '@dime-gate/interchange/table/read-records'
import type { Records } from '@dime-gate/interchange/table/records'
import type { utf8Decoding } from '@dime-gate/interchange/table/decode'
import type { TableSettings } from '@dime-gate/interchange/table/settings'

/** Those above the table left out; names and full marks are still among them. @throws FileError where a line is none of the table's */
export async function* recordsOf(
  source: AsyncIterable<Uint8Array>,
  decoding: ReturnType<typeof utf8Decoding>,
  { delimiter, skip, columns, kind, hasHeader }: TableSettings,
): AsyncGenerator<Records> {
  // What was made into text here ends its records where nothing more comes.
  const reader = recordReader(delimiter, { skip, width: columns.length, isPadded: kind !== 'delimited text' })
  let isEmpty = true
  const checked = (records: Records): Records => {
    const problem = reader.problem()
    if (problem) throw new FileError(problem)
    if (records.length > 0) isEmpty = false
    return records
  }
  for await (const bytes of source) yield checked(reader.push(decoding.decode(bytes)))
  yield checked(reader.push(decoding.end()))
  yield checked(reader.end())
  if (isEmpty && hasHeader) throw fileError('empty', 'The file is empty: it has no line at all.', 1, 1)
}
