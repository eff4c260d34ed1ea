/** Which highlights records of a run meet: by record as SQL, and how many there are of each. */
import type { Run } from '@dime-gate/contract/run'
import { type Highlight, highlighted } from '@dime-gate/core/highlight/highlight'
import { countBits, placesOf } from '@dime-gate/core/table/bitmap'
import type { Connection } from '../database/database'
import { keptBatches } from './kept-batches'

/** By highlight, in their order, how many records meet it. @returns JSON text: whole numbers */
export async function* highlightCounts(connection: Connection, run: Run, highlights: readonly Highlight[]): AsyncGenerator<Uint8Array> {
  const counts = highlights.map(() => 0)
  for await (const { result } of keptBatches(connection, run)) highlighted(result, highlights).places().forEach((places, of) => (counts[of]! += countBits(places)))
  yield Buffer.from(JSON.stringify(counts))
}

/**
 * The names of the highlights that a record meets, in their order, parted by `; `; null where it meets none. Core finds them, and the
 * database is told a bit a record.
 * @returns SQL over `record`
 */
export async function highlightNames(connection: Connection, run: Run, highlights: readonly Highlight[]): Promise<string> {
  const bits = highlights.map(() => Buffer.alloc(0))
  for await (const { records, result } of keptBatches(connection, run)) {
    const last = records.at(-1) ?? 0
    highlighted(result, highlights).places().forEach((places, of) => {
      bits[of] = Buffer.concat([bits[of]!], (last >> 3) + 1)
      for (const at of placesOf(places)) bits[of]![records[at]! >> 3]! |= 1 << (records[at]! & 7)
    })
  }
  const met = highlights.map(({ name }, of) => `case when record < ${bits[of]!.length * 8} then case get_bit('\\x${bits[of]!.toString('hex')}'::bytea, record) when 1 then ${connection.escapeLiteral(name)} end end`)
  return `nullif(concat_ws('; ', ${met.join(', ')}), '')`
}
