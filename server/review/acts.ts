/** What is done to exceptions, and taken back. */
import type { Correction } from '@dime-gate/contract/change'
import type { ActAnswer, ActRequest } from '@dime-gate/contract/review'
import type { Gate } from '@dime-gate/core/gate/document'
import { outcomeKind } from '@dime-gate/core/gate/outcome-kind'
import { valueFromText } from '@dime-gate/core/value/value-text'
import { changeWithin, undoWithin } from '../change/change-table'
import { CHANNEL } from '../change/versions'
import { type Connection, type Database, inTransaction, rowOf } from '../database/database'
import { refusals } from '../http/refusal'
import { ALIKE, findException, MARKED } from './exception-list'

/** What a mark stands on: an override on all that the gate saw; anything else on the values that its reasons speak of. */
const STANDS_ON = `case when $3 = 'overridden' then x.basis - 'beside' else jsonb_set(x.basis, '{values}', coalesce((select jsonb_object_agg(key, value) from jsonb_each(x.basis -> 'values') where x.about ? key), '{}')) end`

/**
 * Settles an exception, overrides its label, or corrects its value in the table; or does so with all that are alike.
 * @throws Refusal `not-found`; `stale` where somebody else was first, the value is another by now, or a later run is there
 */
export async function act(database: Database, { kind, of: { runId, record, mark }, isAlike, note, by, outcomes, correction, to }: ActRequest): Promise<ActAnswer> {
  return inTransaction(database, async (connection) => {
    const { gateId, tableId } = await lockGate(connection, runId)
    const exception = await findException(connection, runId, record)
    if ((exception.mark?.id ?? null) !== mark) throw refusals.reviewedMeanwhile(exception.mark && `${exception.mark.kind}${exception.mark.by ? ` by ${exception.mark.by}` : ''}${exception.mark.note ? `: “${exception.mark.note}”` : ''}`)
    if (outcomes) await checkOutcomes(connection, runId, outcomes)
    const { id } = (await rowOf<{ id: number }>(connection, 'insert into review_act (kind, note, made_by, table_version) values ($1, $2, $3, $4) returning id', [kind, note.trim(), by.trim(), correction && (await correct(connection, tableId, record, correction))]))!
    const targets = `select x.record, x.who, x.keys, ${STANDS_ON} as basis, m.id as mark from ${MARKED} where ${isAlike ? `(${ALIKE} or (x.run_id = $1 and x.record = $2))` : 'x.run_id = $1 and x.record = $2'}`
    if (kind === 'handed') return { ...(await handOn(connection, id, { gateId, tableId, runId, record, isAlike }, to!.trim())), exception: await findException(connection, runId, record) }
    // In two steps, since no two marks of a record may live at once, not even for a moment.
    const { rows } = await connection.query<{ record: number; who: string; keys: string[]; basis: object; mark: number | null }>(targets, [runId, record, kind])
    await connection.query('update review_mark set ended_at = now(), ended_by = $2 where id = any($1)', [rows.flatMap((row) => row.mark ?? []), id])
    await connection.query(`
      insert into review_mark (act_id, gate_id, table_id, run_id, who, record, kind, outcomes, keys, basis)
      select $1, $2, $3, $4, t.who, t.record, $5, $6, t.keys, t.basis from jsonb_to_recordset($7) as t (who text, record integer, keys jsonb, basis jsonb)`,
    [id, gateId, tableId, runId, kind, outcomes, JSON.stringify(rows)])
    await tell(connection)
    return { act: id, records: rows.length, exception: await findException(connection, runId, record) }
  })
}

/** Those that wait for somebody else from now on, or for nobody in particular. They stay what they are, settled or not. */
async function handOn(connection: Connection, act: number, { gateId, tableId, runId, record, isAlike }: { gateId: number; tableId: number; runId: number; record: number; isAlike: boolean }, to: string): Promise<{ act: number; records: number }> {
  const { rows } = await connection.query<{ who: string }>(`select x.who from ${MARKED} where ${isAlike ? `(${ALIKE} or (x.run_id = $1 and x.record = $2))` : 'x.run_id = $1 and x.record = $2'}`, [runId, record])
  const who = rows.map((row) => row.who)
  await connection.query('update review_handed set ended_at = now(), ended_by = $4 where gate_id = $1 and table_id = $2 and who = any($3) and ended_at is null', [gateId, tableId, who, act])
  // A name that is known keeps its id.
  const reviewer = to === '' ? null : (await rowOf<{ id: number }>(connection, 'insert into reviewer (name) values ($1) on conflict (name) do update set name = excluded.name returning id', [to]))!.id
  await connection.query('insert into review_handed (act_id, gate_id, table_id, who, reviewer_id) select $1, $2, $3, who, $5 from unnest($4::text[]) as who', [act, gateId, tableId, who, reviewer])
  await tell(connection)
  return { act, records: who.length }
}

/** @returns the version of the table that it makes. @throws Refusal `not-found`, `computed`; `stale` where the value is not what it was seen to be */
async function correct(connection: Connection, tableId: number, record: number, { column, text, seen, reading }: Correction): Promise<number> {
  const { conflicts, change, table } = await changeWithin(connection, tableId, { kind: 'values', reading, cells: [{ record, column, text, seen }] })
  if (conflicts.length > 0) throw refusals.correctedMeanwhile(table.columns.find(({ id }) => id === column)!.name)
  return change!.version
}

/** Takes an act back, whole: what it put an end to stands again. @throws Refusal `not-found`; `stale` where something else was done on top of it */
export async function takeBack(database: Database, id: number): Promise<ActAnswer> {
  return inTransaction(database, async (connection) => {
    const made = await rowOf<{ tableId: number | null; version: number | null }>(connection, 'select (select table_id from review_mark where act_id = a.id limit 1) as "tableId", table_version as version from review_act a where id = $1 and taken_back_at is null for update', [id])
    if (!made) throw refusals.notFound('act in the review')
    // The table first, as whoever corrects takes it: two who hold on to what the other waits for would wait for ever.
    if (made.version !== null && made.tableId !== null) await undoWithin(connection, made.tableId, made.version)
    let records = 0
    for (const kept of ['review_mark', 'review_handed']) {
      const { over } = (await rowOf<{ over: number }>(connection, `select count(*)::int as over from ${kept} where act_id = $1 and ended_at is not null`, [id]))!
      if (over > 0) throw refusals.reviewedMeanwhile(null)
      records += (await connection.query(`update ${kept} set ended_at = now() where act_id = $1`, [id])).rowCount ?? 0
      await connection.query(`update ${kept} set ended_at = null, ended_by = null where ended_by = $1`, [id])
    }
    await connection.query('update review_act set taken_back_at = now() where id = $1', [id])
    await tell(connection)
    return { act: id, records, exception: null }
  })
}

/** One at a time for a gate: of two who settle the same, the second sees what the first did. @throws Refusal `not-found`, `stale` */
async function lockGate(connection: Connection, runId: number): Promise<{ gateId: number; tableId: number }> {
  const run = await rowOf<{ gateId: number; tableId: number; number: number; later: number | null }>(connection, `
    select gate_id as "gateId", table_id as "tableId", number, (select max(number) from run l where l.gate_id = r.gate_id and l.table_id = r.table_id and l.id > r.id and l.state = 'done' and l.removed_at is null) as later
    from run r where id = $1 and removed_at is null`, [runId])
  if (!run) throw refusals.notFound('run')
  await connection.query('select from gate where id = $1 for update', [run.gateId])
  if (run.later !== null) throw refusals.ranAgain(run.number, run.later)
  return run
}

/** @throws Refusal `malformed` where the gate gives nothing of that name, or a value is not of its kind */
async function checkOutcomes(connection: Connection, runId: number, outcomes: NonNullable<ActRequest['outcomes']>): Promise<void> {
  const { gate } = (await rowOf<{ gate: Gate }>(connection, 'select v.document as gate from run r join gate_version v on v.gate_id = r.gate_id and v.number = r.gate_version where r.id = $1', [runId]))!
  for (const [name, text] of Object.entries(outcomes)) {
    const outcome = gate.outcomes.find((one) => one.name === name)
    if (!outcome) throw refusals.malformed(`The gate gives no “${name}”. It gives: ${gate.outcomes.map((one) => one.name).join(', ')}.`)
    const kind = outcomeKind(outcome, gate)
    if (text !== null && valueFromText(text, kind) === null) throw refusals.malformed(`“${text.slice(0, 40)}” is no ${kind}, which “${name}” is.`)
  }
}

async function tell(connection: Connection): Promise<void> {
  await connection.query('select pg_notify($1, $2)', [CHANNEL, 'review'])
}
