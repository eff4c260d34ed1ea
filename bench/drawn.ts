/** What is drawn from other records costs, against SQL that is written by hand; and how soon all of it follows a correction. */
import pg from 'pg'
import type { ChangeAnswer } from '@dime-gate/contract/change'
import type { Cell, Table, TableRecord } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import { askAt, importBy, settingsOf } from '../server/testing/bring-in'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { freePort } from '../tools/free-port'
import { startServer, stopServer } from '../tools/server-process'
import { treesFor } from './bring-in-trees'
import { type Figure, median, quantile, timed } from './figure'

const ROUNDS = 3
const MOST_RATIO = 1.5
const MOST_WAIT = 150
const EDITS = 30
const reading = { decimalMark: 'point', dateOrder: 'day' } as const

interface Bench {
  ask: ReturnType<typeof askAt>
  client: pg.Client
  trees: Table
}

async function withTrees<Result>(records: number, work: (bench: Bench) => Promise<Result>): Promise<Result> {
  const database = await temporaryDatabase()
  const port = await freePort()
  const address = `http://127.0.0.1:${port}`
  const server = await startServer(database.url, port, { DEMO: 'off' })
  const client = new pg.Client(database.url)
  await client.connect()
  try {
    const ask = askAt(address)
    const { id } = await (await treesFor(address, records))('Trees')
    return await work({ ask, client, trees: (await ask('GET', `/tables/${id}`)).body as Table })
  } finally {
    await client.end()
    await stopServer(server)
    await database.drop()
  }
}

const idOf = ({ columns }: Table, name: string) => columns.find((one) => one.name === name)!.id
const fieldOf = (table: Table, name: string) => `c${idOf(table, name)}`

async function made<Body>(answer: Promise<{ status: number; body: unknown }>): Promise<Body> {
  const { status, body } = await answer
  if (status >= 300) throw new Error(JSON.stringify(body))
  return body as Body
}

/** Computed anew each time, as after a change beneath. */
async function againstSql({ ask, client }: Bench, tableId: number, sql: string): Promise<number> {
  const ratios: number[] = []
  for (let round = 0; round <= ROUNDS; round++) {
    await client.query('delete from figure_state where table_id = $1', [tableId])
    const our = await timed(() => made(ask('POST', `/tables/${tableId}/records`, { records: [1] })))
    await client.query('drop table if exists by_hand')
    const their = await timed(() => client.query(`create table by_hand as ${sql}`))
    if (round > 0) ratios.push(our / their)
  }
  return median(ratios)
}

export const drawnAgainstSql: Figure = {
  name: 'a related count and a roll-up into a thousand groups with five columns, over 1,000,000 records of another table, against the plain SQL',
  reach: `each at most ${MOST_RATIO} ×`,
  measure: () =>
    withTrees(1_000_000, async (bench) => {
      const { ask, client, trees } = bench
      const f = (name: string) => fieldOf(trees, name)
      const some = await client.query<{ no: string }>(`select ${f('Tree no')} as no from records.t${trees.id} where record % 10 = 0`)
      const text = `Tree\n${some.rows.map(({ no }) => no).join('\n')}\n`
      const own = await made<Table>(
        importBy(
          ask,
          'Own',
          text,
          settingsOf(text, ({ columns }) => (columns[0]!.type = 'text')),
        ),
      )
      const key = { own: idOf(own, 'Tree'), theirs: idOf(trees, 'Tree no'), part: 'whole' }
      await made(
        ask('POST', `/tables/${own.id}/changes`, {
          kind: 'add drawn',
          name: 'Leaning',
          unit: '',
          drawn: { kind: 'related', table: trees.id, keys: [key], take: 'count', of: null, where: 'Lean > 5', none: 'nothing' },
        }),
      )
      const related = await againstSql(
        bench,
        own.id,
        `select o.record, count(t.record) as n from records.t${own.id} o left join records.t${trees.id} t on t.${f('Tree no')} = o.${fieldOf(own, 'Tree')} and t.${f('Lean')} > 5 and t.until is null group by o.record`,
      )
      const figures = [
        { name: 'Trees', unit: '', take: 'count', of: null, where: null },
        { name: 'Mean height', unit: '', take: 'mean', of: idOf(trees, 'Height'), where: null },
        { name: 'Total lean', unit: '', take: 'sum', of: idOf(trees, 'Lean'), where: null },
        { name: 'Tallest', unit: '', take: 'max', of: idOf(trees, 'Height'), where: null },
        { name: 'Past their date', unit: '%', take: 'share', of: null, where: 'Next due < today()' },
      ]
      const by = ['Species', 'Street'].map((name) => ({ column: idOf(trees, name), part: 'whole' }))
      const groups = await made<Table>(ask('POST', `/tables/${trees.id}/roll-ups`, { name: 'Groups', by, figures }))
      const rolled = await againstSql(
        bench,
        groups.id,
        `select ${f('Species')} as s, ${f('Street')} as t, count(*) as n, avg(${f('Height')}) as m, sum(${f('Lean')}) as l, max(${f('Height')}) as h,
          100.0 * count(*) filter (where ${f('Next due')} < current_date) / count(*) as p from records.t${trees.id} where until is null group by 1, 2`,
      )
      return {
        measured: `${related.toFixed(2)} × and ${rolled.toFixed(2)} × (${groups.records} groups)`,
        ok: Math.max(related, rolled) <= MOST_RATIO,
      }
    }),
}

export const drawnFollows: Figure = {
  name: 'one value corrected in a table of 100,000 records with a figure, a label and a related count, and a roll-up of it: until its figures and the roll-up’s are told',
  reach: `p95 within ${MOST_WAIT} ms`,
  measure: () =>
    withTrees(100_000, async ({ ask, trees }) => {
      const text = `Tree\n${Array.from({ length: 1000 }, (_, at) => `T${at}`).join('\n')}\n`
      const reports = await made<Table>(importBy(ask, 'Reports', text, settingsOf(text)))
      const change = (body: object) => made<ChangeAnswer>(ask('POST', `/tables/${trees.id}/changes`, body))
      const gate = await made<{ id: number }>(
        ask('POST', '/gates', {
          draft: plainScale('Size', givenNumber('Height', 'm'), [{ at: '10', owner: 'above' }], ['low', 'tall'].map(band)),
          binding: { tableId: trees.id, inputs: { Height: { column: idOf(trees, 'Height') } } },
        }),
      )
      await made(ask('POST', `/gates/${gate.id}/versions`, { seen: 1 }))
      await change({ kind: 'add figure', name: 'Slenderness', unit: '', feel: '100 * Height / Trunk' })
      await change({ kind: 'add drawn', name: 'Size', unit: '', drawn: { kind: 'label', gate: gate.id, from: 'version', outcome: 0 } })
      const { table } = await change({
        kind: 'add drawn',
        name: 'Reports',
        unit: '',
        drawn: {
          kind: 'related',
          table: reports.id,
          keys: [{ own: idOf(trees, 'Tree no'), theirs: idOf(reports, 'Tree'), part: 'whole' }],
          take: 'count',
          of: null,
          where: null,
          none: 'nothing',
        },
      })
      const wards = await made<Table>(
        ask('POST', `/tables/${trees.id}/roll-ups`, {
          name: 'Wards',
          by: [{ column: idOf(trees, 'Ward'), part: 'whole' }],
          figures: [
            { name: 'Tall', unit: '', take: 'count', of: null, where: 'Size = "tall"' },
            { name: 'Slenderness', unit: '', take: 'mean', of: idOf(table, 'Slenderness'), where: null },
          ],
        }),
      )
      const records = Array.from({ length: EDITS }, (_, at) => 1 + at * 3000)
      const place = table.columns.findIndex(({ name }) => name === 'Height')
      const waits: number[] = []
      for (const { record, cells } of await made<TableRecord[]>(ask('POST', `/tables/${trees.id}/records`, { records }))) {
        const cell = { record, column: table.columns[place]!.id, text: '12.5', seen: cells[place] as Cell }
        waits.push(
          await timed(async () => {
            const answer = await change({ kind: 'values', reading, cells: [cell] })
            if (answer.records.length !== 1) throw new Error('the figures were not told with the answer')
            await made(ask('POST', `/tables/${wards.id}/records`, { records: [1, 2, 3] }))
          }),
        )
      }
      const p95 = quantile(waits, 0.95)
      return { measured: `p95 ${Math.round(p95)} ms (median ${Math.round(median(waits))} ms)`, ok: p95 <= MOST_WAIT }
    }),
}
