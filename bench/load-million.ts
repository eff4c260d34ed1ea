/** A million records in memory, brought into a table of PostgreSQL. */
import { once } from 'node:events'
import { finished } from 'node:stream/promises'
import type pg from 'pg'
import { from as copyFrom } from 'pg-copy-streams'
import { hasBit } from '@dime-gate/core/table/bitmap'
import type { NumberColumn } from '@dime-gate/core/table/number-column'
import { MILLION } from './million'

const AT_ONCE = 10_000

/** @param names of the columns, as SQL */
export async function loadMillion(client: pg.Client, names: readonly string[], columns: readonly NumberColumn[]): Promise<void> {
  await client.query(`create table million (${names.map((name) => `${name} numeric`).join(', ')})`)
  const copy = client.query(copyFrom('copy million from stdin'))
  for (let from = 0; from < MILLION; from += AT_ONCE) {
    const lines = Array.from({ length: AT_ONCE }, (_, at) =>
      columns.map(({ doubles, valid }) => (hasBit(valid, from + at) ? doubles[from + at] : '\\N')).join('\t'),
    )
    if (!copy.write(`${lines.join('\n')}\n`)) await once(copy, 'drain')
  }
  copy.end()
  await finished(copy)
  // Twice over, so that the database has it in memory, marked as settled.
  await client.query('vacuum analyze million')
  await client.query('select count(*) from million')
}
