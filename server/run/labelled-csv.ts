/** The labelled table of a run as CSV (RFC 4180): its columns as written, then what the gate said. */
import { to as copyTo } from 'pg-copy-streams'
import { gatesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import type { Column } from '@dime-gate/contract/table'
import { bandInterval } from '@dime-gate/core/gate/form'
import { intervalText } from '@dime-gate/core/gate/interval'
import { conditionText } from '@dime-gate/core/rule/condition'
import { STATUSES } from '@dime-gate/core/rule/rules'
import { guardText } from '@dime-gate/core/value/guarded-text'
import { csvText, PLAIN_CSV } from '@dime-gate/interchange/table/write-csv'
import type { Connection } from '../database/database'
import { guardInSql } from '../database/guard-in-sql'
import { relationOf, valueOf, writtenOf, writtenText } from '../table/relation'
import { outcomeField, runRelation } from './run-relation'

/**
 * Bytes of the file, piece by piece, in UTF-8. The database writes them, so that nobody else waits. A rule is told by its
 * condition as FEEL; a band by its limits, a FEEL unary test such as `[12..25)`. Text that a spreadsheet program would
 * run is guarded (`core/value/guarded-text`).
 */
export async function* labelledCsv(connection: Connection, run: Run): AsyncGenerator<Uint8Array> {
  const headers = run.columns.map(({ header, name }) => header || name)
  yield Buffer.from(csvText([[...headers, ...addedHeaders(headers, run)].map(guardText)], PLAIN_CSV))
  const texts = (all: readonly string[]) => all.map((text, at) => `(${at}, ${connection.escapeLiteral(text)})`).join(', ')
  const [label, ...others] = run.gate.outcomes.map(({ type }, at) => (type === 'number' ? `${outcomeField(at)}::text` : guardInSql(`${outcomeField(at)}::text`)))
  const fields = [...run.columns.map(columnInSql), label, "coalesce(words.text, 'not in the run')", guardInSql('rules.text'), ...others]
  const sql = `
    select ${fields.join(', ')}
    from ${relationOf(run.tableId)} left join ${runRelation(run.id)} as run using (record)
    left join (values ${texts(STATUSES)}) as words (code, text) on words.code = run.status
    left join (values ${texts(ruleTexts(run))}) as rules (place, text) on rules.place = run.rule
    order by record`
  yield* withReturns(connection.query(copyTo(`copy (${sql}) to stdout (format csv)`)))
}

/** Values that could be read are figures, days or truths, whatever sign they begin with. */
function columnInSql({ id, type }: Column): string {
  if (type === 'text') return guardInSql(writtenText(id))
  return `case when ${valueOf(id)} is null then ${guardInSql(writtenOf(id))} else ${writtenText(id)} end`
}

const [LINE_FEED, RETURN, QUOTE] = [0x0a, 0x0d, 0x22]

/** The database ends lines in LF alone; in quoted values they stay as they are. */
export async function* withReturns(pieces: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let isQuoted = false
  for await (const piece of pieces) {
    const out = Buffer.allocUnsafe(2 * piece.length)
    let used = 0
    for (let at = 0; at < piece.length; at++) {
      const byte = piece[at]!
      if (byte === QUOTE) isQuoted = !isQuoted
      else if (byte === LINE_FEED && !isQuoted) out[used++] = RETURN
      out[used++] = byte
    }
    yield out.subarray(0, used)
  }
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

/** In the order of the rules that core decides by; at least one, which nobody may have. */
function ruleTexts({ gate, feeding }: Run): string[] {
  if (gate.form === 'scale') return gate.bands.map((_, index) => intervalText(bandInterval(gate, index)))
  const asked = gatesAsked({ gate, feeding })
  const texts = 'gates' in asked ? asked.gates.at(-1)!.lowered.rules.map(({ condition }) => conditionText(condition)) : []
  return texts.length > 0 ? texts : ['']
}
