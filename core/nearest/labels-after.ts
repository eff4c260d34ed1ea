/** What records would get if one value of each were another: decided anew, with the gates that feed. */
import { decideTableByGates, type ReadyGate } from '../bulk/decide-gates'
import { givenTable } from '../bulk/given-table'
import type { Gate, Input } from '../gate/document'
import { entriesOf, labelGiven } from '../gate/entries'
import { lowered } from '../rule/lower'
import type { Result } from '../result/result'
import { type Column, type Table, valueTextAt } from '../table/table'
import type { Value } from '../value/value'
import { textOfValue } from '../value/value-text'

/** What is moved: a column, for every input that it stands for; or a figure of one gate, by itself. */
export type Way = { column: Column } | FigureOf

interface FigureOf {
  gate: string
  figure: string
}

/** A record, by its place, and the value that it would have. */
export interface Moved {
  at: number
  way: Way
  to: Value
}

/** @returns by each its label; null where it would get none */
export function labelsAfter(result: Result, moved: readonly Moved[]): (string | null)[] {
  const labels = Array<string | null>(moved.length).fill(null)
  const byGates = new Map<string, { gates: readonly ReadyGate[]; places: number[] }>()
  moved.forEach(({ way }, place) => {
    const key = 'figure' in way ? JSON.stringify([way.gate, way.figure]) : ''
    if (!byGates.has(key)) byGates.set(key, { gates: 'figure' in way ? withGiven(result.on.gates, way) : result.on.gates, places: [] })
    byGates.get(key)!.places.push(place)
  })
  for (const { gates, places } of byGates.values()) {
    labelsOf(result, gates, places.map((place) => moved[place]!)).forEach((label, at) => (labels[places[at]!] = label))
  }
  return labels
}

/** The gates with one figure as if it were given, to the last digit as it comes out. */
function withGiven(gates: readonly ReadyGate[], { gate: name, figure }: FigureOf): ReadyGate[] {
  const library = { conditions: [], gates: gates.map(({ gate }) => gate) }
  const asGiven = (input: Input): Input => (input.name === figure ? { ...input, source: { kind: 'given' }, precision: { kind: 'as measured' } } : input)
  return gates.map((one) => {
    if (one.gate.name !== name) return one
    const gate: Gate = { ...one.gate, inputs: one.gate.inputs.map(asGiven) }
    return { gate, lowered: lowered(gate, library) }
  })
}

function labelsOf({ on: { tables, today } }: Result, gates: readonly ReadyGate[], moved: readonly Moved[]): (string | null)[] {
  const asked = gates.at(-1)!.gate
  const decided = decideTableByGates(gates, (gate) => tableOf(gates.find((one) => one.gate.name === gate)!.gate, tables(gate), moved), today).get(asked.name)!
  const entries = entriesOf(asked)
  return moved.map((_, at) => {
    const { status, rule } = decided.decisions.at(at)
    return status === 'labelled' ? labelGiven(entries[rule]!) : status === 'otherwise' ? labelGiven(asked.otherwise!) : null
  })
}

/** A record each, as it is but for what is moved. @param table what the gate looks at */
function tableOf(gate: Gate, table: Table, moved: readonly Moved[]): Table {
  const given = gate.inputs.filter(({ source }) => source.kind === 'given')
  return givenTable(given, moved.length, ({ name }, place) => {
    const { at, way, to } = moved[place]!
    if ('figure' in way && way.gate === gate.name && way.figure === name) return [textOf(to)]
    const bound = table.columns.get(name)
    const columns = bound === undefined ? [] : 'kind' in bound ? [bound] : bound
    return columns.map((column) => ('column' in way && way.column === column ? textOf(to) : valueTextAt(column, at)))
  })
}

const textOf = (value: Value) => (value === null ? null : textOfValue(value))
