/** The order in which exceptions are listed. Of a hundred thousand few have a mark, so what became of these is asked apart, and the database neither joins nor sorts. */
import { type ExceptionFilter, type ExceptionListing, type ExceptionState, LAPSED, NOBODY } from '@dime-gate/contract/review'
import { EXCEPTION_KINDS } from '@dime-gate/core/result/exception'
import { copyRows } from '../database/copy-rows'
import { type Connection, rowsOf } from '../database/database'
import { HANDED, listReviewers, MARKED_ONES, NAMED_RUNS, STATE } from './exception-list'

/** Exceptions that are read at a time. */
const AT_ONCE = 16_384
const OVERRIDDEN = EXCEPTION_KINDS.indexOf('overridden')
/** Beyond any number of records of a table. */
const RECORDS = 2 ** 31

/** Which there are of some runs, in order, as `exceptionListingSchema` says; the runs that the filter names are these. */
export async function* exceptionOrder(connection: Connection, runs: readonly number[], { filter, by }: ExceptionListing): AsyncGenerator<Uint8Array> {
  const marks = await marksOf(connection, runs)
  const ranks = new Map((by === 'person' ? await listReviewers(connection) : []).map(({ id }, at) => [id, at + 1]))
  const places = new Map(runs.map((id, at) => [id, at]))
  const isOfPeople = by === 'person' || filter.people !== null
  const groups = new Map<number, Group>()
  const sql = `select x.run_id, x.record, x.kind, ${isOfPeople ? `coalesce(p.id, ${NOBODY})` : NOBODY} from exception x ${isOfPeople ? `join run r on r.id = x.run_id ${HANDED}` : ''} where ${whereOf(connection, runs, filter, isOfPeople)}`
  for await (const rows of copyRows(connection, sql, 4, AT_ONCE)) {
    for (let row = 0; row < rows.length; row++) {
      const [place, record, kind, person] = [places.get(rows.whole(row, 0))!, rows.whole(row, 1), rows.whole(row, 2), rows.whole(row, 3)]
      const mark = marks.get(place * RECORDS + record)
      // One that was only overridden is none any more once that is taken back.
      if (kind === OVERRIDDEN && mark?.kind !== 'overridden') continue
      const state = mark?.state ?? 'open'
      if (filter.states && !filter.states.includes(state)) continue
      const isLapsed = state === 'lapsed'
      const lead = by === 'person' ? (ranks.get(person) ?? 0) : by === 'run' ? place : 0
      const key = (2 * lead + (isLapsed ? 0 : 1)) * EXCEPTION_KINDS.length + kind
      let group = groups.get(key)
      if (!group) groups.set(key, (group = { key, code: by === 'person' ? person : isLapsed ? LAPSED : kind, of: [] }))
      group.of.push(place * RECORDS + record)
    }
  }
  for (const { code, of } of [...groups.values()].sort((one, other) => one.key - other.key)) yield listed(runs, code, of)
}

/** @property of places of runs and records, both in one number by which they are sorted */
interface Group {
  key: number
  code: number
  of: number[]
}

function listed(runs: readonly number[], code: number, of: readonly number[]): Uint8Array {
  const bytes = Buffer.allocUnsafe(of.length * 12)
  let at = 0
  for (const one of Float64Array.from(of).sort()) for (const field of [runs[Math.floor(one / RECORDS)]!, one % RECORDS, code]) at = bytes.writeInt32LE(field, at)
  return bytes
}

/** What became of those that have a mark, by the place of the run and the record in one number. */
async function marksOf(connection: Connection, runs: readonly number[]): Promise<Map<number, { kind: string; state: ExceptionState }>> {
  const rows = await rowsOf<{ runId: number; record: number; kind: string; state: ExceptionState }>(connection, `select x.run_id as "runId", x.record, m.kind, ${STATE} as state from ${MARKED_ONES} and ${NAMED_RUNS}`, [runs])
  const places = new Map(runs.map((id, at) => [id, at]))
  return new Map(rows.map(({ runId, record, kind, state }) => [places.get(runId)! * RECORDS + record, { kind, state }]))
}

/** What the database filters by; states are looked at here. */
function whereOf(connection: Connection, runs: readonly number[], { kinds, people, text }: ExceptionFilter, isOfPeople: boolean): string {
  const parts = [`x.run_id = any('{${runs.join(',')}}'::bigint[])`]
  if (kinds) parts.push(`x.kind = any('{${kinds.map((kind) => EXCEPTION_KINDS.indexOf(kind)).join(',')}}'::smallint[])`)
  if (people && isOfPeople) parts.push(`coalesce(p.id, ${NOBODY}) = any('{${people.join(',')}}'::integer[])`)
  if (text?.trim()) parts.push(`(x.who || ' ' || (x.basis ->> 'landed') || ' ' || x.reasons::text) ilike ${connection.escapeLiteral(`%${text.trim().replace(/[\\%_]/g, '\\$&')}%`)}`)
  return parts.join(' and ')
}
