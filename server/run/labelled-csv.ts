/** The labelled table of a run as CSV (RFC 4180): its columns as written, then what the gate said. */
import { gatesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import { bandInterval } from '@dime-gate/core/gate/form'
import { intervalText } from '@dime-gate/core/gate/interval'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import { conditionText } from '@dime-gate/core/rule/condition'
import { STATUSES } from '@dime-gate/core/rule/rules'
import type { Connection } from '../database/database'
import { type CsvField, csvPieces, writtenField } from '../table/csv-pieces'
import { highlightNames } from './run-highlights'
import { outcomeField, recordsOfRun, runRelation } from './run-relation'

/**
 * Bytes of the file, piece by piece, in UTF-8. The database writes them, so that nobody else waits. A rule is told by its
 * condition as FEEL; a band by its limits, a FEEL unary test such as `[12..25)`. Text that a spreadsheet program would
 * run is guarded (`core/value/guarded-text`).
 */
export async function* labelledCsv(connection: Connection, run: Run, highlights: readonly Highlight[]): AsyncGenerator<Uint8Array> {
  const headers = run.columns.map(({ header, name }) => header || name)
  // A list in JSON knows where its parts are, however many; to join with rows of texts would take twice as long as all else.
  const wordOf = (all: readonly string[], place: string) => `${connection.escapeLiteral(JSON.stringify(all))}::jsonb ->> ${place}::int`
  const [label, ...others] = run.gate.outcomes.map(({ type }, at): CsvField => ({ text: `${outcomeField(at)}::text`, isPlain: type === 'number' ? 'true' : 'false' }))
  const fields: CsvField[] = [
    ...run.columns.map(writtenField),
    label!,
    { text: `coalesce(${wordOf(STATUSES, 'run.status')}, 'not in the run')`, isPlain: 'true' },
    { text: wordOf(ruleTexts(run), 'run.rule'), isPlain: 'false' },
    ...others,
    ...(highlights.length > 0 ? [{ text: await highlightNames(connection, run, highlights), isPlain: 'false' }] : []),
  ]
  yield* csvPieces(connection, [...headers, ...addedHeaders(headers, run, highlights)], fields, `${recordsOfRun(run)} left join ${runRelation(run.id)} as run using (record)`)
}

/** The gate's own columns, what is pointed out last, numbered where the table already uses their names. */
export function addedHeaders(headers: readonly string[], { gate, gateName }: Run, highlights: readonly Highlight[]): string[] {
  const taken = new Set(headers)
  const rule = gate.form === 'scale' ? 'limits' : 'rule'
  return [gateName, `${gateName} status`, `${gateName} ${rule}`, ...gate.outcomes.slice(1).map(({ name }) => `${gateName} ${name}`), ...(highlights.length > 0 ? [`${gateName} highlights`] : [])].map((wanted) => {
    let name = wanted
    for (let number = 2; taken.has(name); number++) name = `${wanted} ${number}`
    taken.add(name)
    return name
  })
}

/** In the order of the rules that core decides by. */
export function ruleTexts({ gate, feeding }: Run): string[] {
  if (gate.form === 'scale') return gate.bands.map((_, index) => intervalText(bandInterval(gate, index)))
  const asked = gatesAsked({ gate, feeding })
  return 'gates' in asked ? asked.gates.at(-1)!.lowered.rules.map(({ condition }) => conditionText(condition)) : []
}
