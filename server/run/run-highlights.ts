/** Which highlights records of a run meet: by record as SQL, and how many there are of each. */
import { columnsBound } from '@dime-gate/contract/binding'
import { gatesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import { type Highlight, type Highlighted, highlighted, type OtherColumn, otherColumns, othersAsked } from '@dime-gate/core/highlight/highlight'
import { countBits, placesOf } from '@dime-gate/core/table/bitmap'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { Connection } from '../database/database'
import { type KeptBatch, keptBatches } from './kept-batches'

/** What highlights look at on a run beside what its gate does. */
export function othersOfRun(run: Run, highlights: readonly Highlight[]): OtherColumn[] {
  const asked = gatesAsked(run)
  if ('problems' in asked) return []
  const [ready, today] = [asked.gates.at(-1)!, parseDate(run.asOf)!]
  return othersAsked(ready, today, highlights, otherColumns(ready, today, run.columns, Object.values(run.binding).flatMap(columnsBound)))
}

/** Batches of a run, with what highlights come to on each. */
export async function* highlightedBatches(connection: Connection, run: Run, highlights: readonly Highlight[]): AsyncGenerator<KeptBatch & { on: Highlighted }> {
  const columns = othersOfRun(run, highlights)
  for await (const batch of keptBatches(connection, run, { others: columns.map(({ id }) => id) })) {
    yield { ...batch, on: highlighted(batch.result, highlights, { columns, columnOf: (id) => batch.others.get(id) }) }
  }
}

/** By highlight, in their order, how many records meet it. @returns JSON text: whole numbers */
export async function* highlightCounts(connection: Connection, run: Run, highlights: readonly Highlight[]): AsyncGenerator<Uint8Array> {
  const counts = highlights.map(() => 0)
  for await (const { on } of highlightedBatches(connection, run, highlights)) on.places().forEach((places, of) => (counts[of]! += countBits(places)))
  yield Buffer.from(JSON.stringify(counts))
}

/**
 * The names of the highlights that a record meets, in their order, parted by `; `; null where it meets none. Core finds them, and the
 * database is told a bit a record.
 * @returns SQL over `record`
 */
export async function highlightNames(connection: Connection, run: Run, highlights: readonly Highlight[]): Promise<string> {
  const bits = highlights.map(() => Buffer.alloc(0))
  for await (const { records, on } of highlightedBatches(connection, run, highlights)) {
    const last = records.at(-1) ?? 0
    on.places().forEach((places, of) => {
      bits[of] = Buffer.concat([bits[of]!], (last >> 3) + 1)
      for (const at of placesOf(places)) bits[of]![records[at]! >> 3]! |= 1 << (records[at]! & 7)
    })
  }
  const met = highlights.map(({ name }, of) => `case when record < ${bits[of]!.length * 8} then case get_bit('\\x${bits[of]!.toString('hex')}'::bytea, record) when 1 then ${connection.escapeLiteral(name)} end end`)
  return `nullif(concat_ws('; ', ${met.join(', ')}), '')`
}
