/** Several gates, each after those whose outcomes it uses. */
import type { Column, Table } from '../table/table'
import type { DateValue, Value } from '../value/value'
import { type Decision, decideRecord } from '../decide/decide-record'
import { type TableDecider, tableDecider } from './decide-table'
import type { Gate, Library } from '../gate/document'
import { gateOrder } from '../gate/gate-order'
import { type GateProblem, gateProblem } from '../gate/gate-problem'
import type { Decisions } from './decisions'
import { lower } from '../rule/lower'
import { outcomeColumns } from './outcome-columns'
import type { Lowered } from '../rule/rules'

export interface ReadyGate {
  gate: Gate
  lowered: Lowered
}

/** @returns the gates in the order to decide them in, or what keeps them from it, by gate */
export function readyGates(library: Library): { ready: ReadyGate[] } | { problems: Map<string, GateProblem[]> } {
  const order = gateOrder(library.gates)
  if ('loop' in order) return { problems: new Map(order.loop.map((name) => [name, [gateProblem('gate-loop', 'inputs', order.loop)]])) }
  const problems = new Map<string, GateProblem[]>()
  const ready = order.order.flatMap((name): ReadyGate[] => {
    const gate = library.gates.find((one) => one.name === name)!
    const lowering = lower(gate, library)
    if ('lowered' in lowering) return [{ gate, lowered: lowering.lowered }]
    problems.set(name, lowering.problems)
    return []
  })
  return problems.size > 0 ? { problems } : { ready }
}

/** @param given the record's values, by gate and input: gates may name one column differently */
export function decideRecordByGates(gates: readonly ReadyGate[], given: (gate: string, input: string) => Value, today: DateValue): Map<string, Decision> {
  const decided = new Map<string, Decision>()
  for (const one of gates) decided.set(one.gate.name, decideRecord(one.lowered, withFed(gates, decided, one, (name) => given(one.gate.name, name)), today))
  return decided
}

/** What a gate sees of a record: its own values, and what the gates that feed it gave. @param decided by gate */
export function withFed(gates: readonly ReadyGate[], decided: ReadonlyMap<string, Decision>, { lowered }: ReadyGate, given: (input: string) => Value): (input: string) => Value {
  return (name) => {
    const source = lowered.inputs.get(name)?.source
    if (source?.kind !== 'gate') return given(name)
    return decided.get(source.gate)?.outcomes[outcomePlace(gates, source.gate, source.outcome)] ?? null
  }
}

export interface DecidedTable {
  decisions: Decisions
  /** The table that the gate looked at, other gates' outcomes among its columns. */
  table: Table
  decider: TableDecider
  /** By outcome. */
  columns(): ReadonlyMap<string, Column>
}

/** @param tables by gate, each with its columns under the names of that gate's inputs */
export function decideTableByGates(gates: readonly ReadyGate[], tables: (gate: string) => Table, today: DateValue): Map<string, DecidedTable> {
  return gatesDecider(tables, today)(gates)
}

/** Decides by gates, again and again: what feeds a gate and is what it was is not decided anew. */
export function gatesDecider(tables: (gate: string) => Table, today: DateValue): (gates: readonly ReadyGate[]) => Map<string, DecidedTable> {
  const known = new Map<string, { gate: string; fed: readonly Column[]; decided: DecidedTable }>()
  return (gates) => {
    const all = new Map<string, DecidedTable>()
    for (const { gate, lowered } of gates) {
      const feeding = [...lowered.inputs.values()].flatMap(({ name, source }): [string, Column][] => {
        if (source.kind !== 'gate') return []
        return [[name, [...all.get(source.gate)!.columns().values()][outcomePlace(gates, source.gate, source.outcome)]!]]
      })
      const fed = feeding.map(([, column]) => column)
      const before = known.get(gate.name)
      const isFedAlike = before !== undefined && before.fed.length === fed.length && fed.every((column, at) => column === before.fed[at])
      const text = JSON.stringify(gate)
      const decided = isFedAlike && before.gate === text ? before.decided : decide(lowered, isFedAlike ? before.decided : anew(tables(gate.name), feeding))
      known.set(gate.name, { gate: text, fed, decided })
      all.set(gate.name, decided)
    }
    return all
  }

  function anew(own: Table, feeding: [string, Column][]): Pick<DecidedTable, 'table' | 'decider'> {
    const table: Table = { length: own.length, columns: new Map([...own.columns, ...feeding]) }
    return { table, decider: tableDecider(table, today) }
  }

  function decide(lowered: Lowered, { table, decider }: Pick<DecidedTable, 'table' | 'decider'>): DecidedTable {
    const decisions = decider.decide(lowered)
    let columns: ReadonlyMap<string, Column> | null = null
    return { decisions, table, decider, columns: () => (columns ??= outcomeColumns(lowered, table, decisions, decider)) }
  }
}

/** An outcome that is not named is the label. */
export function outcomePlace(gates: readonly ReadyGate[], gate: string, outcome: string | null): number {
  return outcome === null ? 0 : gates.find((one) => one.gate.name === gate)!.gate.outcomes.findIndex(({ name }) => name === outcome)
}
