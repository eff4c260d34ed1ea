/** What figures cost: computed for all records, previewed as somebody types, and followed after a correction. */
import pg from 'pg'
import type { ChangeAnswer } from '@dime-gate/contract/change'
import type { Cell, Table, TableRecord } from '@dime-gate/contract/table'
import { FigureValues } from '@dime-gate/core/figure/compute'
import { figuresOf } from '@dime-gate/core/figure/figure'
import { countBits } from '@dime-gate/core/table/bitmap'
import { askAt } from '../server/testing/bring-in'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { freePort } from '../tools/free-port'
import { startServer, stopServer } from '../tools/server-process'
import { treesFor } from './bring-in-trees'
import { type Figure, median, quantile, timed } from './figure'
import { loadMillion } from './load-million'
import { numbers, TODAY } from './million'

const ROUNDS = 5
const MOST_RATIO = 0.5
const MOST_WAIT = 150
const EDITS = 60
const MODULES = Array.from({ length: 6 }, (_, at) => `m${at + 1}`)

export const meanOfSix: Figure = {
  name: 'a figure: the mean of six columns over 1,000,000 records, a tenth of them blank, as the page computes it, against PostgreSQL',
  reach: `at most ${MOST_RATIO} ×`,
  async measure() {
    const columns = MODULES.map((_, at) => numbers(at + 11, 0.1))
    const set = { name: 'Modules', members: MODULES }
    const { figures } = figuresOf(
      [...MODULES.map((name) => ({ name, kind: 'number' as const, feel: null })), { name: 'Mean', kind: 'number', feel: 'mean(Modules)' }],
      [set],
    )
    const database = await temporaryDatabase()
    const client = new pg.Client(database.url)
    await client.connect()
    try {
      await loadMillion(client, MODULES, columns)
      // Two cores, and ours takes one: theirs may take both.
      const sum = MODULES.map((name) => `coalesce(${name}, 0)`).join(' + ')
      const there = MODULES.map((name) => `(${name} is not null)::int`).join(' + ')
      const sql = `select count((${sum}) / nullif(${there}, 0))::int as computed from million`
      const [ours, theirs]: [number[], number[]] = [[], []]
      for (let round = 0; round <= ROUNDS; round++) {
        let [here, found] = [0, 0]
        const our = await timed(async () => {
          const values = new FigureValues(figures, [set], columns[0]!.length, (name) => columns[MODULES.indexOf(name)]!, TODAY)
          here = countBits(values.quickly('Mean', () => true).doubles!.valid)
        })
        const their = await timed(async () => (found = (await client.query<{ computed: number }>(sql)).rows[0]!.computed))
        if (here !== found) throw new Error(`${here} computed here, ${found} there`)
        if (round === 0) continue
        ours.push(our)
        theirs.push(their)
      }
      const ratio = median(ours.map((time, round) => time / theirs[round]!))
      return {
        measured: `${ratio.toFixed(2)} × (${Math.round(median(ours))} ms, PostgreSQL ${Math.round(median(theirs))} ms)`,
        ok: ratio <= MOST_RATIO,
      }
    } finally {
      await client.end()
      await database.drop()
    }
  },
}

export const figuresFollow: Figure = {
  name: 'one value corrected in a table of 100,000 records with four figures: until the figures of its record are told, and how long a first look at new figures takes',
  reach: `p95 within ${MOST_WAIT} ms`,
  async measure() {
    const database = await temporaryDatabase()
    const port = await freePort()
    const address = `http://127.0.0.1:${port}`
    const server = await startServer(database.url, port, { DEMO: 'off' })
    const ask = askAt(address)
    try {
      const { id } = await (await treesFor(address, 100_000))('Trees')
      const change = async (body: object) => (await ask('POST', `/tables/${id}/changes`, body)).body as ChangeAnswer
      for (const [name, feel] of [
        ['Slenderness', '100 * Height / Trunk'],
        ['Days left', '(Next due - today()).days'],
        ['Twice', '2 * Slenderness'],
        ['Word', 'if Decay > 25 then "weak" else "sound"'],
      ] as const)
        await change({ kind: 'add figure', name, unit: '', feel })
      const records = async () =>
        (await ask('POST', `/tables/${id}/records`, { records: Array.from({ length: EDITS }, (_, at) => 1 + at * 1500) }))
          .body as TableRecord[]
      const look = await timed(records)
      const { columns } = (await ask('GET', `/tables/${id}`)).body as Table
      const place = columns.findIndex(({ name }) => name === 'Height')
      const waits: number[] = []
      for (const { record, cells } of await records()) {
        const cell = { record, column: columns[place]!.id, text: '12.5', seen: cells[place] as Cell }
        let answer: ChangeAnswer | null = null
        waits.push(
          await timed(
            async () => (answer = await change({ kind: 'values', reading: { decimalMark: 'point', dateOrder: 'day' }, cells: [cell] })),
          ),
        )
        if (answer!.records.length !== 1) throw new Error('the figures were not told with the answer')
      }
      const p95 = quantile(waits, 0.95)
      return {
        measured: `p95 ${Math.round(p95)} ms (median ${Math.round(median(waits))} ms); first look ${Math.round(look)} ms`,
        ok: p95 <= MOST_WAIT,
      }
    } finally {
      await stopServer(server)
      await database.drop()
    }
  },
}
