/** Records of a file, decided some thousands at a time. */
import { decideRecordByGates, decideTableByGates, outcomePlace, type ReadyGate } from '@dime-gate/core/bulk/decide-gates'
import type { Input } from '@dime-gate/core/gate/document'
import type { Status } from '@dime-gate/core/rule/rules'
import { type Why, whyOf } from '@dime-gate/core/decide/why'
import type { NumberColumn } from '@dime-gate/core/table/number-column'
import { type Column, columnOf, recordAt, type Table, valueAt, valueTextAt } from '@dime-gate/core/table/table'
import type { DateValue, Value } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import type { Binding } from './bind-columns'
import { type CellReader, cellReader, listFromCell, type Writing } from './read-values'

/** What one gate gives each of the records. */
export interface GateResults {
  /** By outcome, then by record; empty where the record has none. */
  outcomes: string[][]
  statuses: Status[]
  /** The place of the rule that decided, or NONE. */
  rules: number[]
  why(at: number): Why
}

export interface DecidedRecords {
  /** By gate. */
  results: GateResults[]
  /** Texts that could not be read, by input, then by record. */
  unreadable: ReadonlyMap<string, ReadonlyMap<number, string>>
}

export type RecordDecider = (records: readonly string[][]) => DecidedRecords

export function recordDecider(gates: readonly ReadyGate[], binding: Binding, writing: Writing, today: DateValue): RecordDecider {
  const bound = gates.map(({ lowered }) => [...lowered.inputs.values()].flatMap((input): Bound[] => {
    const places = binding.get(input.name)
    return input.source.kind === 'given' && places ? [{ input, places, read: cellReader(input, writing) }] : []
  }))
  // Columns hold single values, and column sets of numbers; other lists go record by record.
  const hasLists = gates.some(({ lowered }) => [...lowered.inputs.values()].some(({ isSet, source, type, name }) => {
    return isSet && source.kind !== 'figure' && (source.kind === 'gate' || type !== 'number' || binding.get(name)?.length === 1)
  }))
  return (records) => {
    const unreadable = new Map<string, Map<number, string>>()
    const note = (input: string, at: number, text: string) => void unreadable.set(input, (unreadable.get(input) ?? new Map<number, string>()).set(at, text))
    const columns = bound.map((inputs) => new Map(inputs.map((one) => [one.input.name, boundColumns(one, records, note)])))
    const results = hasLists ? byRecord(gates, bound, columns, records, today, note) : byTable(gates, columns, records.length, today)
    return { results, unreadable }
  }
}

interface Bound {
  input: Input
  places: number[]
  read: CellReader
}

function boundColumns({ input, places, read }: Bound, records: readonly string[][], note: (input: string, at: number, text: string) => void): Column[] {
  // Whole lists are read record by record.
  if (input.isSet && places.length === 1) return []
  return places.map((place) => {
    const column = columnOf(input.type, records.map((record) => read(record[place]!)))
    for (const [at, text] of column.unreadable) note(input.name, at, text)
    return column
  })
}

type Columns = ReadonlyMap<string, Column[]>

function byTable(gates: readonly ReadyGate[], columns: readonly Columns[], length: number, today: DateValue): GateResults[] {
  const tables = new Map(gates.map(({ gate, lowered }, at): [string, Table] => {
    const bound = [...columns[at]!].map(([name, members]): [string, Column | NumberColumn[]] => [name, lowered.inputs.get(name)!.isSet ? (members as NumberColumn[]) : members[0]!])
    return [gate.name, { length, columns: new Map(bound) }]
  }))
  const decided = decideTableByGates(gates, (name) => tables.get(name)!, today)
  return gates.map(({ gate, lowered }): GateResults => {
    const { decisions, table, columns: outcomes } = decided.get(gate.name)!
    const each = Array.from({ length }, (_, at) => decisions.at(at))
    return {
      outcomes: [...outcomes().values()].map((column) => Array.from({ length }, (_, at) => valueTextAt(column, at) ?? '')),
      statuses: each.map(({ status }) => status),
      rules: each.map(({ rule }) => rule),
      why: (at) => whyOf(lowered, recordAt(table, at), today),
    }
  })
}

function byRecord(gates: readonly ReadyGate[], bound: readonly Bound[][], columns: readonly Columns[], records: readonly string[][], today: DateValue, note: (input: string, at: number, text: string) => void): GateResults[] {
  const places = new Map(gates.map(({ gate }, at) => [gate.name, at]))
  const lists = new Map<string, (readonly Value[] | null)[]>()
  for (const { input, places: at, read } of bound.flat()) {
    if (!input.isSet || at.length > 1 || lists.has(input.name)) continue
    lists.set(input.name, records.map((record, index) => {
      const found = listFromCell(record[at[0]!]!, input, read)
      if (found && 'unreadable' in found) note(input.name, index, found.unreadable)
      return found && 'list' in found ? found.list : null
    }))
  }
  const givenAt = (at: number) => (gate: string, name: string): Value => {
    const list = lists.get(name)
    if (list) return list[at]!
    const members = columns[places.get(gate)!]!.get(name)
    if (!members) return null
    return gates[places.get(gate)!]!.lowered.inputs.get(name)!.isSet ? members.map((member) => valueAt(member, at)).filter((value) => value !== null) : valueAt(members[0]!, at)
  }
  const decided = records.map((_, at) => decideRecordByGates(gates, givenAt(at), today))
  return gates.map(({ gate, lowered }): GateResults => {
    const each = decided.map((one) => one.get(gate.name)!)
    return {
      outcomes: lowered.outcomes.map((_, outcome) => each.map(({ outcomes }) => textOfValue(outcomes[outcome] ?? null))),
      statuses: each.map(({ status }) => status),
      rules: each.map(({ rule }) => rule),
      why: (at) => whyOf(lowered, (name) => {
        const source = lowered.inputs.get(name)?.source
        if (source?.kind !== 'gate') return givenAt(at)(gate.name, name)
        return decided[at]!.get(source.gate)!.outcomes[outcomePlace(gates, source.gate, source.outcome)] ?? null
      }, today),
    }
  })
}
