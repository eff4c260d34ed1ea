/** Links that people outside are given: made, listed, withdrawn, followed. Those that lead nowhere all say the same. */
import { randomBytes } from 'node:crypto'
import { type Link, type LinkedGate, type LinkedSlip, MOST_SLIPS, type SlipLinksRequest, type TryLinkRequest } from '@dime-gate/contract/slip'
import type { Run } from '@dime-gate/contract/run'
import { guardText } from '@dime-gate/core/value/guarded-text'
import { csvText, PLAIN_CSV } from '@dime-gate/interchange/table/write-csv'
import { type Database, type Queryable, rowOf, rowsOf } from '../database/database'
import { currentDay } from '../figure/stored-figures'
import { feedingVersions } from '../gate/feeding'
import { findGate, findVersion } from '../gate/gates'
import { refusals } from '../http/refusal'
import { shownGate, slipHead, slipRecords, someSlips } from './slips'

/** As many as nobody ever tries: 160 bits. */
const TOKEN_BYTES = 20
const LINK = `id::int, token, record, gate_version as "gateVersion", to_json(made_at) #>> '{}' as "madeAt", ends_on::text as "endsOn"`

const newToken = () => randomBytes(TOKEN_BYTES).toString('base64url')

/** Those that are not withdrawn; some may have ended. */
export async function slipLinks(on: Queryable, runId: number): Promise<Link[]> {
  return rowsOf<Link>(on, `select ${LINK} from link where run_id = $1 and withdrawn_at is null order by record`, [runId])
}

/** A record that has a link keeps it, with the new end. @throws Refusal `malformed` where the end is over already, `too-large` */
export async function makeSlipLinks(database: Database, run: Run, { of, endsOn }: SlipLinksRequest): Promise<Link[]> {
  await checkEnd(database, endsOn)
  const { total, records } = await slipRecords(database, run, of)
  if (total > MOST_SLIPS) throw refusals.tooManySlips(total, MOST_SLIPS)
  await database.query(`
    insert into link (token, gate_id, gate_version, run_id, record, ends_on) select token, $3, $4, $5, record, $6 from unnest($1::text[], $2::integer[]) as wanted (token, record)
    on conflict (run_id, record) where run_id is not null and withdrawn_at is null do update set ends_on = excluded.ends_on`,
  [records.map(newToken), records, run.gateId, run.gateVersion, run.id, endsOn])
  return slipLinks(database, run.id)
}

/** Who, what each got, and where it can be read, as CSV (RFC 4180). @param origin where this program is reached */
export async function slipLinksCsv(on: Queryable, run: Run, origin: string): Promise<string> {
  const links = await slipLinks(on, run.id)
  const linkOf = new Map(links.map((link) => [link.record!, link]))
  const { columns } = await slipHead(on, run)
  const slips = await someSlips(on, run, links.map(({ record }) => record!))
  const who = columns.flatMap(({ isIdentity, name }, at) => (isIdentity ? [{ at, name }] : []))
  const [label] = run.gate.outcomes
  return csvText([
    [...(who.length > 0 ? who.map(({ name }) => name) : ['record']), label!.name, 'link', 'until'],
    ...slips.map(({ record, cells, outcomes, byHand }) => {
      const said = who.length > 0 ? who.map(({ at }) => cells[at]![0] ?? cells[at]![1] ?? '') : [String(record)]
      const { token, endsOn } = linkOf.get(record)!
      return [...[...said, byHand?.[label!.name] ?? outcomes[0] ?? ''].map(guardText), `${origin}/slip/${token}`, endsOn]
    }),
  ], PLAIN_CSV)
}

/** @param records null for all of the run */
export async function withdrawSlipLinks(database: Database, runId: number, records: number[] | null): Promise<Link[]> {
  await database.query('update link set withdrawn_at = now() where run_id = $1 and withdrawn_at is null and ($2::integer[] is null or record = any($2))', [runId, records])
  return slipLinks(database, runId)
}

/** @throws Refusal `not-found` */
export async function tryLinks(on: Queryable, gateId: number): Promise<Link[]> {
  await findGate(on, gateId)
  return rowsOf<Link>(on, `select ${LINK} from link where gate_id = $1 and run_id is null and withdrawn_at is null order by id desc`, [gateId])
}

/** @throws Refusal `not-found` for a version that there is none of, `malformed` where the end is over already, `no-version` where a gate that feeds it has none */
export async function makeTryLink(database: Database, gateId: number, { version, endsOn }: TryLinkRequest): Promise<Link[]> {
  await checkEnd(database, endsOn)
  await findGate(database, gateId)
  await feedingVersions(database, await findVersion(database, gateId, version))
  await database.query('insert into link (token, gate_id, gate_version, ends_on) values ($1, $2, $3, $4)', [newToken(), gateId, version, endsOn])
  return tryLinks(database, gateId)
}

export async function withdrawTryLink(database: Database, gateId: number, linkId: number): Promise<Link[]> {
  await database.query('update link set withdrawn_at = now() where id = $1 and gate_id = $2 and run_id is null and withdrawn_at is null', [linkId, gateId])
  return tryLinks(database, gateId)
}

interface Followed {
  gateId: number
  gateVersion: number
  runId: number | null
  record: number | null
  endsOn: string
}

/** @throws Refusal `not-found`, whatever it is that keeps it from leading anywhere */
async function follow(on: Queryable, token: string, isOfRun: boolean): Promise<Followed> {
  const found = await rowOf<Followed>(on, `
    select l.gate_id::int as "gateId", l.gate_version as "gateVersion", l.run_id::int as "runId", l.record, l.ends_on::text as "endsOn"
    from link l join gate g on g.id = l.gate_id left join run r on r.id = l.run_id left join data_table t on t.id = r.table_id
    where l.token = $1 and (l.run_id is not null) = $2 and l.withdrawn_at is null and l.ends_on >= current_date and g.removed_at is null and r.removed_at is null and t.removed_at is null`, [token, isOfRun])
  if (!found) throw refusals.linkLeadsNowhere()
  return found
}

/** @param runOf a run that is done, by its id */
export async function linkedSlip(on: Queryable, token: string, runOf: (id: number) => Promise<Run>): Promise<LinkedSlip> {
  const { runId, record, endsOn } = await follow(on, token, true)
  const run = await runOf(runId!)
  const [slip] = await someSlips(on, run, [record!])
  if (!slip) throw refusals.linkLeadsNowhere()
  return { head: await slipHead(on, run), slip, endsOn }
}

export async function linkedGate(on: Queryable, token: string): Promise<LinkedGate> {
  const { gateId, gateVersion, endsOn } = await follow(on, token, false)
  const gate = await findVersion(on, gateId, gateVersion)
  const feeding = await feedingVersions(on, gate)
  return { gate: shownGate(gate), feeding: feeding.map((one) => ({ gate: shownGate(one.gate), inputs: {} })), asOf: await currentDay(on), endsOn }
}

/** By the clock: what counts as today elsewhere is for figures. */
async function checkEnd(on: Queryable, endsOn: string): Promise<void> {
  const { isOver } = (await rowOf<{ isOver: boolean }>(on, 'select $1::date < current_date as "isOver"', [endsOn]))!
  if (isOver) throw refusals.endsInThePast()
}
