/** The labelled table of a run as CSV (RFC 4180): its columns as written, then what the gate said. */
import type { Run } from '@dime-gate/contract/run'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import { STATUSES } from '@dime-gate/core/rule/rules'
import type { Connection } from '../database/database'
import { type BesideRun, besideRun } from '../review/beside-run'
import { type CsvField, csvPieces, writtenField } from '../table/csv-pieces'
import { ruleTexts } from './rule-texts'
import { outcomeField, recordsOfRun, runRelation } from './run-relation'

/**
 * Bytes of the file, piece by piece, in UTF-8. The database writes them, so that nobody else waits. A rule is told by its
 * condition as FEEL; a band by its limits, a FEEL unary test such as `[12..25)`. Text that a spreadsheet program would
 * run is guarded (`core/value/guarded-text`).
 */
export async function* labelledCsv(connection: Connection, run: Run, highlights: readonly Highlight[]): AsyncGenerator<Uint8Array> {
  const headers = run.columns.map(({ header, name }) => header || name)
  const beside = await besideRun(connection, run, highlights)
  // A list in JSON knows where its parts are, however many; to join with rows of texts would take twice as long as all else.
  const wordOf = (all: readonly string[], place: string) => `${connection.escapeLiteral(JSON.stringify(all))}::jsonb ->> ${place}::int`
  const [label, ...others] = run.gate.outcomes.map(({ type }, at): CsvField => ({ text: `${outcomeField(at)}::text`, isPlain: type === 'number' ? 'true' : 'false' }))
  const fields: CsvField[] = [
    ...run.columns.map(writtenField),
    label!,
    { text: `coalesce(${wordOf(STATUSES, 'run.status')}, 'not in the run')`, isPlain: 'true' },
    { text: wordOf(ruleTexts(run), 'run.rule'), isPlain: 'false' },
    ...others,
    ...beside.columns.map(({ text }): CsvField => ({ text, isPlain: 'false' })),
  ]
  yield* csvPieces(connection, [...headers, ...addedHeaders(headers, run, beside)], fields, `${recordsOfRun(run)} left join ${runRelation(run.id)} as run using (record)${beside.join}`)
}

/** The gate's own columns, what people said of its records last, numbered where the table already uses their names. */
export function addedHeaders(headers: readonly string[], { gate, gateName }: Run, beside: BesideRun): string[] {
  const taken = new Set(headers)
  const rule = gate.form === 'scale' ? 'limits' : 'rule'
  return [gateName, `${gateName} status`, `${gateName} ${rule}`, ...gate.outcomes.slice(1).map(({ name }) => `${gateName} ${name}`), ...beside.columns.map(({ name }) => name)].map((wanted) => {
    let name = wanted
    for (let number = 2; taken.has(name); number++) name = `${wanted} ${number}`
    taken.add(name)
    return name
  })
}
