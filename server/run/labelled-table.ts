/** The labelled table of a run in formats that have types: its columns, then what the gate said, labels in their colours. */
import type { Run } from '@dime-gate/contract/run'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import { STATUSES } from '@dime-gate/core/rule/rules'
import type { OutColumn, OutTable } from '@dime-gate/interchange/table/out'
import type { TypedFormat } from '@dime-gate/interchange/table/out-formats'
import { writeTable } from '@dime-gate/interchange/table/write-table'
import type { Connection } from '../database/database'
import { besideRun } from '../review/beside-run'
import { outColumns, type OutField, outField, outRows } from '../table/out-rows'
import { addedHeaders } from './labelled-csv'
import { ruleTexts } from './rule-texts'
import { outcomeField, recordsOfRun, runRelation } from './run-relation'

export async function* labelledTable(connection: Connection, run: Run, highlights: readonly Highlight[], format: TypedFormat): AsyncGenerator<Uint8Array> {
  const { gate, columns } = run
  const wordOf = (all: readonly string[], place: string) => `${connection.escapeLiteral(JSON.stringify(all))}::jsonb ->> ${place}::int`
  const plain = (value: string): OutField => ({ value, unreadable: null })
  const beside = await besideRun(connection, run, highlights)
  const [label, status, rule, ...further] = addedHeaders(columns.map(({ name }) => name), run, beside)
  const others = further.slice(0, gate.outcomes.length - 1)
  const said = further.slice(others.length)
  const added = (name: string, type: OutColumn['type'] = 'text', colours?: OutColumn['colours']): OutColumn => ({
    name,
    unit: '',
    type,
    fullMarks: null,
    isIdentity: false,
    hasUnreadable: false,
    ...(colours ? { colours } : {}),
  })
  const looks = gate.outcomes.map((outcome) => new Map(outcome.labels.map(({ value, colour }) => [value, colour])))
  const typeOf = (at: number): OutColumn['type'] =>
    gate.outcomes[at]!.type === 'boolean' || gate.outcomes[at]!.type === 'date' ? (gate.outcomes[at]!.type as OutColumn['type']) : 'text'
  const table: OutTable = {
    name: run.tableName,
    columns: [
      ...(await outColumns(connection, columns, recordsOfRun(run))),
      added(label!, typeOf(0), looks[0]),
      added(status!),
      added(rule!),
      ...others.map((name, at) => added(name, gate.outcomes[at + 1]!.type === 'number' ? 'number' : typeOf(at + 1), looks[at + 1])),
      ...said.map((name, at) => added(name, 'text', beside.columns[at]!.colours ?? undefined)),
    ],
  }
  const outcome = (at: number) =>
    plain(
      gate.outcomes[at]!.type === 'boolean'
        ? `case ${outcomeField(at)} when true then 'true' when false then 'false' end`
        : `${outcomeField(at)}::text`,
    )
  const fields: OutField[] = [
    ...columns.map(outField),
    outcome(0),
    plain(`coalesce(${wordOf(STATUSES, 'run.status')}, 'not in the run')`),
    plain(wordOf(ruleTexts(run), 'run.rule')),
    ...others.map((_, at) => outcome(at + 1)),
    ...beside.columns.map(({ text }) => plain(text)),
  ]
  yield* writeTable(
    format,
    table,
    outRows(connection, fields, `${recordsOfRun(run)} left join ${runRelation(run.id)} as run using (record)${beside.join}`),
  )
}
