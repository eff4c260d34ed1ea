/** The labelled table of a run as CSV (RFC 4180): its columns as written, then what the gate said. */
import { stringify } from 'csv-stringify/sync'
import { gatesAsked } from '@dime-gate/contract/question'
import type { Run } from '@dime-gate/contract/run'
import { bandInterval } from '@dime-gate/core/gate/form'
import { intervalText } from '@dime-gate/core/gate/interval'
import { conditionText } from '@dime-gate/core/rule/condition'
import { STATUSES } from '@dime-gate/core/rule/rules'
import { copyRows } from '../database/copy-rows'
import type { Connection } from '../database/database'
import { relationOf, writtenText } from '../table/relation'
import { outcomeField, runRelation } from './run-relation'

/** RFC 4180 clause 2.1: lines end in CR LF. */
const FORMAT = { record_delimiter: '\r\n' } as const

/** Text of the file, piece by piece. A rule is told by its condition as FEEL; a band by its limits, a FEEL unary test such as `[12..25)`. */
export async function* labelledCsv(connection: Connection, run: Run): AsyncGenerator<string> {
  const headers = run.columns.map(({ header, name }) => header || name)
  const { outcomes } = run.gate
  yield stringify([[...headers, ...addedHeaders(headers, run)]], FORMAT)
  const rules = ruleTexts(run)
  const written = run.columns.map(({ id }) => writtenText(id))
  const given = outcomes.map((_, at) => `${outcomeField(at)}::text`)
  const fields = ['status', 'rule', ...given, ...written]
  const sql = `select ${fields.join(', ')} from ${relationOf(run.tableId)} left join ${runRelation(run.id)} using (record) order by record`
  for await (const rows of copyRows(connection, sql, fields.length, AT_ONCE)) {
    const [status, rule, ...texts] = fields.map((_, field) => rows.texts(field))
    const [gives, columns] = [texts.slice(0, outcomes.length), texts.slice(outcomes.length)]
    const [label, ...others] = gives as [(string | null)[], ...(string | null)[][]]
    yield stringify(status!.map((one, at) => {
      const words = one === null ? 'not in the run' : STATUSES[Number(one)]!
      return [...columns.map((column) => column[at] ?? ''), label[at] ?? '', words, rule![at] === null ? '' : rules[Number(rule![at])]!, ...others.map((other) => other[at] ?? '')]
    }), FORMAT)
  }
}

/** Records that are written at a time. */
const AT_ONCE = 10_000

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

function ruleTexts({ gate, feeding }: Run): string[] {
  if (gate.form === 'scale') return gate.bands.map((_, index) => intervalText(bandInterval(gate, index)))
  const asked = gatesAsked({ gate, feeding })
  return 'gates' in asked ? asked.gates.at(-1)!.lowered.rules.map(({ condition }) => conditionText(condition)) : []
}
