import type { Gate } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { bringIn } from '../server/testing/bring-in'
import { ended } from '../server/testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../server/testing/temporary-server'
import { type Figure, median, quantile, timed } from './figure'

const RECORDS = 1_000_000
const ROUNDS = 3
const MOST = 3
const MOST_WAIT = 50
const LOOK_EVERY = 20

const CUTS = Array.from({ length: 19 }, (_, at) => String(5 * (at + 1)))
const LABELS = Array.from({ length: 20 }, (_, at) => `band ${at + 1}`)

/** A table of a million numbers from 0 to 100 with one decimal, and a scale of twenty bands on it. */
async function bound(server: TemporaryServer): Promise<{ table: Table; gate: Gate }> {
  const table = await bringIn(server, 'Million', 'Decay\n1\n')
  const column = table.columns[0]!.id
  await server.database.query(`insert into records.t${table.id} (record, c${column}) select n, round(((n::bigint * 7919) % 1001) / 10.0, 1) from generate_series(2, ${RECORDS}) as n`)
  await server.database.query('update data_table set records = $2 where id = $1', [table.id, RECORDS])
  await server.database.query(`vacuum analyze records.t${table.id}`)
  const bands = LABELS.map((label) => ({ label, colour: '#7fa99a', mark: 'disc' as const }))
  const draft = plainScale('Twenty', givenNumber('Decay', ''), CUTS.map((at) => ({ at, owner: 'above' as const })), bands)
  const gate: Gate = (await server.ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs: { Decay: { column } } } })).body
  await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
  return { table, gate }
}

export const runAgainstCtas: Figure = {
  name: 'a run of a scale of twenty bands on 1,000,000 records, stored, against CREATE TABLE AS SELECT …, CASE; and the desk meanwhile',
  reach: `at most ${MOST} ×; the desk's p99 within ${MOST_WAIT} ms`,
  async measure() {
    const server = await temporaryServer()
    try {
      const { table, gate } = await bound(server)
      const value = `c${table.columns[0]!.id}`
      const label = `case ${CUTS.map((at, band) => `when ${value} < ${at} then '${LABELS[band]}'`).join(' ')} else '${LABELS.at(-1)}' end`
      const [ours, theirs, waits]: [number[], number[], number[]] = [[], [], []]
      for (let round = 0; round <= ROUNDS; round++) {
        let isUnderWay = true
        const here = timed(async () => {
          const run = (await server.ask('POST', '/runs', { gateId: gate.id, version: 1, tableId: table.id, binding: 1 })).body as { id: number }
          const { state, problem } = await ended(server, run.id)
          if (state !== 'done') throw new Error(problem ?? state)
        }).finally(() => (isUnderWay = false))
        const looks = (async () => {
          while (isUnderWay) {
            if (round > 0) waits.push(await timed(() => server.ask('GET', '/desk')))
            await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY))
          }
        })()
        const time = await here
        await looks
        const there = await timed(async () => {
          await server.database.query(`create table theirs as select record, 0::smallint as status, ${label} as label, ${value} as value from records.t${table.id}`)
          await server.database.query('alter table theirs add primary key (record)')
        })
        await server.database.query('drop table theirs')
        // The first run also starts its thread.
        if (round === 0) continue
        ours.push(time)
        theirs.push(there)
      }
      const ratio = median(ours.map((time, round) => time / theirs[round]!))
      const p99 = quantile(waits, 0.99)
      return { measured: `${ratio.toFixed(1)} × (${(median(ours) / 1000).toFixed(1)} s, CREATE TABLE ${(median(theirs) / 1000).toFixed(1)} s); desk p99 ${p99.toFixed(0)} ms of ${waits.length} looks`, ok: ratio <= MOST && p99 <= MOST_WAIT }
    } finally {
      await server.close()
    }
  },
}
