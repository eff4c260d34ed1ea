/** The labelled table of a run as CSV (RFC 4180): its columns as written, then what the gate said. */
import { to as copyTo } from 'pg-copy-streams'
import { gatesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import { bandInterval } from '@dime-gate/core/gate/form'
import { intervalText } from '@dime-gate/core/gate/interval'
import { conditionText } from '@dime-gate/core/rule/condition'
import { STATUSES } from '@dime-gate/core/rule/rules'
import { guardText } from '@dime-gate/core/value/guarded-text'
import { csvText, PLAIN_CSV } from '@dime-gate/interchange/table/write-csv'
import type { Connection } from '../database/database'
import { guardInSql } from '../database/guard-in-sql'
import { relationOf, valueOf, writtenText } from '../table/relation'
import { outcomeField, runRelation } from './run-relation'

/**
 * Bytes of the file, piece by piece, in UTF-8. The database writes them, so that nobody else waits. A rule is told by its
 * condition as FEEL; a band by its limits, a FEEL unary test such as `[12..25)`. Text that a spreadsheet program would
 * run is guarded (`core/value/guarded-text`).
 */
export async function* labelledCsv(connection: Connection, run: Run): AsyncGenerator<Uint8Array> {
  const headers = run.columns.map(({ header, name }) => header || name)
  yield Buffer.from(csvText([[...headers, ...addedHeaders(headers, run)].map(guardText)], PLAIN_CSV))
  // A list in JSON knows where its parts are, however many; to join with rows of texts would take twice as long as all else.
  const wordOf = (all: readonly string[], place: string) => `${connection.escapeLiteral(JSON.stringify(all))}::jsonb ->> ${place}::int`
  const [label, ...others] = run.gate.outcomes.map(({ type }, at): Field => ({ text: `${outcomeField(at)}::text`, isPlain: type === 'number' ? 'true' : 'false' }))
  const fields: Field[] = [
    ...run.columns.map(({ id, type }): Field => ({ text: writtenText(id), isPlain: type === 'text' ? 'false' : `${valueOf(id)} is not null` })),
    label!,
    { text: `coalesce(${wordOf(STATUSES, 'run.status')}, 'not in the run')`, isPlain: 'true' },
    { text: wordOf(ruleTexts(run), 'run.rule'), isPlain: 'false' },
    ...others,
  ]
  // The texts are made in one step and looked at in the next: written into one, each would be made several times.
  const made = fields.map(({ text, isPlain }, at) => `${text} as f${at}, ${isPlain} as p${at}`)
  const guarded = fields.map((_, at) => `case when p${at} then f${at} else ${guardInSql(`f${at}`)} end`)
  const sql = `
    select ${guarded.join(', ')} from (
      select ${made.join(', ')} from ${relationOf(run.tableId)} left join ${runRelation(run.id)} as run using (record)
      order by record offset 0) as made`
  yield* withReturns(connection.query(copyTo(`copy (${sql}) to stdout (format csv)`)))
}

/** A field of a line, as SQL. */
interface Field {
  text: string
  /** Whether it is a figure, a day or a truth, which is not guarded, whatever sign it begins with. */
  isPlain: string
}

const [LINE_FEED, RETURN, QUOTE] = [0x0a, 0x0d, 0x22]

/** Bytes that are sent at a time: the database gives a line at a time, and each would be a packet of its own. */
const PIECE = 1 << 16

/** The database ends lines in LF alone; in quoted values they stay as they are. */
export async function* withReturns(pieces: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let isQuoted = false
  let [out, used] = [Buffer.allocUnsafe(2 * PIECE), 0]
  for await (const piece of pieces) {
    if (used + 2 * piece.length > out.length) {
      yield out.subarray(0, used)
      ;[out, used] = [Buffer.allocUnsafe(Math.max(2 * PIECE, 2 * piece.length)), 0]
    }
    for (let at = 0; at < piece.length; at++) {
      const byte = piece[at]!
      if (byte === QUOTE) isQuoted = !isQuoted
      else if (byte === LINE_FEED && !isQuoted) out[used++] = RETURN
      out[used++] = byte
    }
  }
  yield out.subarray(0, used)
}

/** The gate's own columns, numbered where the table already uses their names. */
function addedHeaders(headers: string[], { gate, gateName }: Run): string[] {
  const taken = new Set(headers)
  const rule = gate.form === 'scale' ? 'limits' : 'rule'
  return [gateName, `${gateName} status`, `${gateName} ${rule}`, ...gate.outcomes.slice(1).map(({ name }) => `${gateName} ${name}`)].map((wanted) => {
    let name = wanted
    for (let number = 2; taken.has(name); number++) name = `${wanted} ${number}`
    taken.add(name)
    return name
  })
}

/** In the order of the rules that core decides by. */
function ruleTexts({ gate, feeding }: Run): string[] {
  if (gate.form === 'scale') return gate.bands.map((_, index) => intervalText(bandInterval(gate, index)))
  const asked = gatesAsked({ gate, feeding })
  return 'gates' in asked ? asked.gates.at(-1)!.lowered.rules.map(({ condition }) => conditionText(condition)) : []
}
