/** What a gate gives, as columns: to be written out, or to be looked at by the next gate. */
import { dictionaryColumn } from '../table/dictionary-column'
import { numberColumn } from '../table/number-column'
import type { Column, Table } from '../table/table'
import { kindOf, type Value, type ValueKind } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { TableDecider } from './decide-table'
import type { Decisions } from './decisions'
import { isOfOneRule, type Lowered, type LoweredEntry } from '../rule/rules'

/** By outcome its column; blank for a record that has none. A list of outcomes is told as its text. */
export function outcomeColumns(gate: Lowered, table: Table, decisions: Decisions, decider: TableDecider): Map<string, Column> {
  const values = outcomeValues(gate, table, decisions, decider)
  return new Map(gate.outcomes.map(({ name, type }, at): [string, Column] => {
    const cells = values.map((outcomes) => outcomes[at] ?? null)
    const texts = cells.map((value) => (value === null ? null : textOfValue(value)))
    // Gathered outcomes are lists, and counted ones are numbers, whatever the column's own kind.
    const kinds = new Set(cells.filter((value) => value !== null).map(kindOf))
    const areAll = (kind: ValueKind) => kinds.size === 0 || (kinds.size === 1 && kinds.has(kind))
    if (areAll('number') && (type === 'number' || kinds.size > 0)) return [name, numberColumn(texts)]
    return [name, dictionaryColumn(areAll(type) ? type : 'text', texts)]
  }))
}

/** By record its outcomes; none where it has none. Only what is computed, or gathered from several rules, is worked out record by record. */
function outcomeValues(gate: Lowered, table: Table, decisions: Decisions, decider: TableDecider): (readonly Value[])[] {
  const literal = (entries: readonly LoweredEntry[] | null) => (entries?.every((entry) => 'value' in entry) ? entries.map((entry) => ('value' in entry ? entry.value : null)) : null)
  const byRule = gate.rules.map(({ entries }) => literal(entries))
  const otherwise = literal(gate.otherwise)
  const isOneRule = isOfOneRule(gate)
  return Array.from({ length: table.length }, (_, at) => {
    const { status, rule } = decisions.at(at)
    if (status === 'labelled' && isOneRule && byRule[rule]) return byRule[rule]
    if (status === 'otherwise' && otherwise) return otherwise
    return status === 'labelled' || status === 'otherwise' ? decider.explain(gate, at).outcomes : []
  })
}
