import { once } from 'node:events'
import { finished } from 'node:stream/promises'
import pg from 'pg'
import { from as copyFrom } from 'pg-copy-streams'
import type { NumberColumn } from '@dime-gate/core/table/number-column'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { type Figure, median, timed } from './figure'
import { decided, FOUR, fourColumns, gateOf, MILLION, twentyRules } from './million'

const ROUNDS = 5
const LEAST = 10

export const decideAgainstCase: Figure = {
  name: "1,000,000 records by 20 rules of two tests over four number columns, against PostgreSQL's CASE",
  reach: `at least ${LEAST} × faster`,
  async measure() {
    const [table, gate] = [fourColumns(0), gateOf(FOUR, twentyRules())]
    const database = await temporaryDatabase()
    const client = new pg.Client(database.url)
    await client.connect()
    try {
      await load(client, Object.keys(FOUR).map((name) => table.columns.get(name) as NumberColumn))
      const sql = `select case ${twentyRules().map((condition, rule) => `when ${condition} then ${rule}`).join(' ')} else 20 end as label, count(*)::int as records from million group by 1 order by 1`
      const [ours, theirs]: [number[], number[]] = [[], []]
      for (let round = 0; round <= ROUNDS; round++) {
        let counts: number[] = []
        let rows: { label: number; records: number }[] = []
        const here = await timed(async () => { counts = decided(table, gate) })
        const there = await timed(async () => { rows = (await client.query(sql)).rows })
        for (const { label, records } of rows) if (counts[label] !== records) throw new Error(`rule ${label}: ${counts[label]} here, ${records} there`)
        if (round === 0) continue
        ours.push(here)
        theirs.push(there)
      }
      const ratio = median(theirs.map((time, round) => time / ours[round]!))
      return { measured: `${ratio.toFixed(1)} × (${Math.round(median(ours))} ms, CASE ${Math.round(median(theirs))} ms)`, ok: ratio >= LEAST }
    } finally {
      await client.end()
      await database.drop()
    }
  },
}

async function load(client: pg.Client, columns: readonly NumberColumn[]): Promise<void> {
  await client.query(`create table million (${Object.keys(FOUR).map((name) => `${name} numeric`).join(', ')})`)
  const copy = client.query(copyFrom('copy million from stdin'))
  for (let from = 0; from < MILLION; from += 10_000) {
    const lines = Array.from({ length: 10_000 }, (_, at) => columns.map(({ doubles }) => doubles[from + at]).join('\t'))
    if (!copy.write(`${lines.join('\n')}\n`)) await once(copy, 'drain')
  }
  copy.end()
  await finished(copy)
  // Twice over, so that the database has it in memory, marked as settled.
  await client.query('vacuum analyze million')
  await client.query('select count(*) from million')
}
