import pg from 'pg'
import type { NumberColumn } from '@dime-gate/core/table/number-column'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { type Figure, median, timed } from './figure'
import { loadMillion } from './load-million'
import { decided, FOUR, fourColumns, gateOf, twentyRules } from './million'

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
      await loadMillion(client, Object.keys(FOUR), Object.keys(FOUR).map((name) => table.columns.get(name) as NumberColumn))
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
