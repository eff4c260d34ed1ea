/** Ten gates that feed one another, run in their order as the page does it, against the same gates by themselves. */
import { gateSchema } from '@dime-gate/contract/gate'
import { runSchema } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import type { Input, RulesGate } from '@dime-gate/core/gate/document'
import pg from 'pg'
import { askAt, bringIn } from '../server/testing/bring-in'
import { temporaryDatabase } from '../server/testing/temporary-server'
import { freePort } from '../tools/free-port'
import { startServer, stopServer } from '../tools/server-process'
import { type Figure, median, timed } from './figure'
import { fillNumbers } from './fill-numbers'
import { FOUR, PAIRS, rulesOf } from './million'

const RECORDS = 100_000
const GATES = 10
const ROUNDS = 3
const MOST = 1.5
const LOOK_EVERY = 5
const NAMES = Object.keys(FOUR)
/** Of each gate but the first the text column that holds what the gate before gives. */
const FED = Array.from({ length: GATES - 1 }, (_, at) => `Given by ${at + 1}`)

type Ask = ReturnType<typeof askAt>

export const tenGates: Figure = {
  name: `ten gates that feed one another, each run and stored after those that feed it, over ${RECORDS.toLocaleString('en')} records, against the sum of each alone`,
  reach: `at most ${MOST} ×`,
  async measure() {
    const database = await temporaryDatabase()
    const port = await freePort()
    const server = await startServer(database.url, port, { DEMO: 'off' })
    const client = new pg.Client(database.url)
    await client.connect()
    try {
      const ask = askAt(`http://127.0.0.1:${port}`)
      const table = await fill(client, ask)
      const chain = await kept(ask, table, (at) => (at === 0 ? null : { kind: 'gate', gate: nameOf('Fed', at - 1), outcome: null }), 'Fed')
      const runs = await runEach(ask, table, chain)
      for (const [at, id] of runs.slice(0, -1).entries()) await client.query(`update records.t${table.id} t set c${idOf(table, FED[at]!)} = r.o1 from runs.r${id} r where r.record = t.record`)
      await client.query(`vacuum analyze records.t${table.id}`)
      const alone = await kept(ask, table, (at) => (at === 0 ? null : { kind: 'given' }), 'Alone')
      const [together, apart]: [number[], number[]] = [[], []]
      for (let round = 0; round <= ROUNDS; round++) {
        const [fed, own] = [await timed(() => runEach(ask, table, chain)), await timed(() => runEach(ask, table, alone))]
        // Whatever is read or compiled for the first time.
        if (round === 0) continue
        together.push(fed)
        apart.push(own)
      }
      const ratio = median(together.map((time, round) => time / apart[round]!))
      return { measured: `${ratio.toFixed(2)} × (${(median(together) / 1000).toFixed(1)} s, alone ${(median(apart) / 1000).toFixed(1)} s)`, ok: ratio <= MOST }
    } finally {
      await client.end()
      await stopServer(server)
      await database.drop()
    }
  },
}

const nameOf = (kind: string, at: number) => `${kind} ${at + 1}`
const idOf = ({ columns }: Table, name: string) => columns.find((one) => one.name === name)!.id

/** Four numbers from 0 to 100 with one decimal, and nothing yet in the columns that other gates would fill. */
async function fill(client: pg.Client, ask: Ask): Promise<Table> {
  const table = await bringIn({ ask }, 'Trees', `${[...NAMES, ...FED].join(',')}\n${[...NAMES.map(() => '1'), ...FED.map(() => 'label 1')].join(',')}\n`)
  await fillNumbers(client, table, NAMES, RECORDS)
  return table
}

/** Gates with a version each. @param source of what the gate before gives */
async function kept(ask: Ask, table: Table, source: (at: number) => Input['source'] | null, kind: string): Promise<{ id: number; name: string }[]> {
  const gates: { id: number; name: string }[] = []
  for (let at = 0; at < GATES; at++) {
    const from = source(at)
    const rules = Array.from({ length: 5 }, (_, rule) => {
      const [low, high] = PAIRS[(rule + at) % PAIRS.length]!
      return `${low} >= ${(80 - rule * 11 - at).toFixed(1)} and ${high} < ${(40 + rule * 9 + at).toFixed(1)}${from ? ` and not(Before = "label ${rule}")` : ''}`
    })
    const plain = rulesOf(FOUR, rules)
    const before: Input = { name: 'Before', type: 'text', isSet: false, unit: '', source: from ?? { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: null }
    const draft: RulesGate = { ...plain, name: nameOf(kind, at), inputs: from ? [...plain.inputs, before] : plain.inputs }
    const inputs = Object.fromEntries([...NAMES.map((name) => [name, { column: idOf(table, name) }]), ...(from?.kind === 'given' ? [['Before', { column: idOf(table, FED[at - 1]!) }]] : [])])
    const { id } = gateSchema.parse((await ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs } })).body)
    await ask('POST', `/gates/${id}/versions`, { seen: 1 })
    gates.push({ id, name: draft.name })
  }
  return gates
}

/** One after the other. @returns the runs' ids */
async function runEach(ask: Ask, table: Table, gates: readonly { id: number; name: string }[]): Promise<number[]> {
  const ids: number[] = []
  for (const [at, { id: gateId, name }] of gates.entries()) {
    const feeding = name.startsWith('Fed') ? gates.slice(0, at).map((one) => ({ gateId: one.id, version: 1, binding: 1 })) : []
    let run = runSchema.parse((await ask('POST', '/runs', { gateId, version: 1, tableId: table.id, binding: 1, feeding })).body)
    while (run.state === 'under way') {
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY))
      run = runSchema.parse((await ask('GET', `/runs/${run.id}`)).body)
    }
    if (run.state === 'failed') throw new Error(run.problem ?? '')
    ids.push(run.id)
  }
  return ids
}
