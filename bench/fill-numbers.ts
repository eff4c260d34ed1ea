import type { Table } from '@dime-gate/contract/table'
import type pg from 'pg'

/** Factors that share nothing with 1001, so that each column runs through all its values in an order of its own. */
const FACTORS = [7919, 6131, 4877, 3571]

/** Records behind the first one of a table, with numbers from 0 to 100 with one decimal in up to four of its columns, and nothing in the others. @param records how many there are then */
export async function fillNumbers(client: pg.Client, { id, columns }: Table, names: readonly string[], records: number): Promise<void> {
  const fields = names.map((name) => `c${columns.find((one) => one.name === name)!.id}`)
  const values = names.map((_, at) => `round(((n::bigint * ${FACTORS[at]}) % 1001) / 10.0, 1)`)
  await client.query(`insert into records.t${id} (record, ${fields.join(', ')}) select n, ${values.join(', ')} from generate_series(2, ${records}) as n`)
  await client.query('update data_table set records = $2 where id = $1', [id, records])
  await client.query(`vacuum analyze records.t${id}`)
}
