/** The records of a file into a relation, by COPY. */
import { utf8Decoding } from '@dime-gate/interchange/table/decode'
import type { TableSettings } from '@dime-gate/interchange/table/settings'
import { copyIn } from '../database/copy-in'
import type { Connection } from '../database/database'
import { recordEncoder, type Tally } from './record-encoder'
import { recordsOf } from './records-of-file'
import type { CopyTarget } from './stored'

/** Rows are handed to the database in pieces of about this many bytes. */
const PIECE = 1 << 18

/**
 * @param target has the record's number first, then all columns that are not left out, then what is kept as written
 * @param options of COPY beside its format
 * @param columnIds by column of the file, under which its texts are kept; null for one that is left out
 * @param told is told how many records have come in
 * @throws FileError where the file cannot be read as `settings` say
 */
export async function copyRecords(
  connection: Connection,
  { relation, fields, inPart }: CopyTarget,
  options: 'freeze' | null,
  source: AsyncIterable<Uint8Array>,
  settings: TableSettings,
  columnIds: (number | null)[],
  told: (records: number) => void,
): Promise<Tally> {
  const encoder = recordEncoder(settings, columnIds, inPart)
  const sql = `copy ${relation} (${fields.join(', ')}) from stdin with (${options === null ? '' : `${options}, `}format binary)`
  await copyIn(connection, sql, async (write) => {
    for await (const records of recordsOf(source, utf8Decoding(settings.encoding), settings)) {
      encoder.write(records)
      if (encoder.rows.size < PIECE) continue
      await write(encoder.rows.take())
      told(encoder.tally.records)
    }
    await write(encoder.rows.end())
  })
  return encoder.tally
}
