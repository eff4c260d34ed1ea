/** After something happened: what was acknowledged is there, what was not is absent or whole, and nothing lies about without an owner. */
import type { Desk } from '@dime-gate/contract/desk'
import type { TableRecord } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/contract/gate'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { below, type KnownTable, type Ledger } from './ledger'
import { pause, type World } from './world'

/** Milliseconds that runs which are under way are given. */
const RUNS_END_WITHIN = 90_000

export async function verify(world: World, ledger: Ledger): Promise<void> {
  const desk = await settledDesk(world, ledger)
  if (!desk) return
  await tables(world, ledger, desk)
  for (const [id, known] of ledger.gates) {
    const { status, body } = await world.ask<Gate>('GET', `/gates/${id}`)
    const cut = status === 200 ? Number((body.draft as ScaleGate).cuts[0]!.at) : NaN
    ledger.check(cut === known.cut || cut === known.maybe, () => `gate ${id} has its cut at ${cut}; acknowledged was ${known.cut}, sent was ${known.maybe}`)
    if (status === 200) Object.assign(known, { cut, draftVersion: body.draftVersion, maybe: null })
  }
  for (const [id, { gateId }] of ledger.runs) {
    const run = desk.runs.find((one) => one.id === id)
    const { tableId, first } = ledger.gates.get(gateId)!
    const { records } = ledger.tables.get(tableId)!
    ledger.check(run !== undefined, () => `run ${id} was acknowledged and is not there`)
    if (!run) continue
    ledger.check(run.state === 'done' || (run.state === 'failed' && Boolean(run.problem)), () => `run ${id} is ${run.state} without an end`)
    if (run.state !== 'done') continue
    const [{ kept }] = (await world.sql<{ kept: number }>(`select count(*)::int as kept from runs.r${id}`)) as [{ kept: number }]
    const expected = [below(records, first), records - below(records, first)]
    ledger.check(kept === records && JSON.stringify(run.counts!.caught) === JSON.stringify(expected), () => `run ${id} keeps ${kept} records with ${JSON.stringify(run.counts!.caught)}; ${records} with ${JSON.stringify(expected)} were expected`)
  }
  await orphans(world, ledger)
}

async function settledDesk(world: World, ledger: Ledger): Promise<Desk | null> {
  const until = Date.now() + RUNS_END_WITHIN
  for (;;) {
    const { status, body } = await world.ask<Desk>('GET', '/desk')
    if (status === 200 && !body.runs.some(({ state }) => state === 'under way')) return body
    if (Date.now() > until) {
      ledger.problems.push(status === 200 ? 'runs are under way without an end' : `the desk answers ${status}`)
      return null
    }
    await pause(100)
  }
}

async function tables(world: World, ledger: Ledger, desk: Desk): Promise<void> {
  const count = async (id: number) => (await world.sql<{ records: number }>(`select count(*)::int as records from records.t${id} where until is null`))[0]!.records
  for (const [id, { name, records, corrected }] of ledger.tables) {
    const told = desk.tables.find((one) => one.id === id)
    const found = told ? await count(id) : 0
    ledger.check(told?.records === records && found === records, () => `table “${name}” was acknowledged with ${records} records and has ${found}`)
    if (told) await corrections(world, ledger, id, corrected)
  }
  for (const { id, name } of desk.tables) {
    const expected = ledger.maybeTables.get(name)
    if (expected === undefined) continue
    const found = await count(id)
    ledger.check(found === expected, () => `table “${name}” is there with ${found} of ${expected} records`)
  }
}

/** What was acknowledged stands there, or what was sent after it without an answer. */
async function corrections(world: World, ledger: Ledger, id: number, corrected: KnownTable['corrected']): Promise<void> {
  const { status, body } = await world.ask<TableRecord[]>('POST', `/tables/${id}/records`, { records: [...corrected.keys()] })
  ledger.check(status === 200, () => `the records of table ${id} cannot be read: ${status}`)
  if (status !== 200) return
  for (const { record, cells } of body) {
    const known = corrected.get(record)!
    const found = cells[0]![0] ?? ''
    ledger.check(found === known.text || found === known.maybe, () => `record ${record} of table ${id} says ${found}; acknowledged was ${known.text}, sent was ${known.maybe}`)
    Object.assign(known, { text: found, maybe: null })
  }
}

async function orphans(world: World, ledger: Ledger): Promise<void> {
  const left = await world.sql<{ name: string }>(`
    select n.nspname || '.' || c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
    where c.relkind = 'r' and (
      (n.nspname = 'records' and not exists (select from data_table t where c.relname in ('t' || t.id, 'w' || t.id) or c.relname ~ ('^g' || t.id || '_')))
      or (n.nspname = 'runs' and not exists (select from run r where 'r' || r.id = c.relname and r.state = 'done')))`)
  ledger.check(left.length === 0, () => `relations without an owner: ${left.map(({ name }) => name).join(', ')}`)
  const open = await world.sql<{ query: string }>("select query from pg_stat_activity where datname = current_database() and state like 'idle in transaction%' and now() - state_change > interval '5 seconds'")
  ledger.check(open.length === 0, () => `transactions left open after: ${open.map(({ query }) => query).join('; ')}`)
}
