/** All that a result is made of apart from the records: what the page's worker, the server's threads and a kept run are asked alike. */
import { type ReadyGate, readyGates } from '@dime-gate/core/bulk/decide-gates'
import type { Gate, Input } from '@dime-gate/core/gate/document'
import type { GateProblem } from '@dime-gate/core/gate/gate-problem'
import type { Tables } from '@dime-gate/core/result/result'
import type { NumberColumn } from '@dime-gate/core/table/number-column'
import type { Column, Table } from '@dime-gate/core/table/table'
import { columnsBound, type StandingInputs } from './binding'
import type { FeedingGate } from './gate'

export interface Question {
  gate: Gate
  /** What stands for the gate's inputs; one that nothing stands for is blank. */
  inputs: StandingInputs
  /** The gates whose outcomes it takes, each after those that feed it. */
  feeding: Pick<FeedingGate, 'gate' | 'inputs'>[]
}

/** Ids of the columns that are looked at, each once, in the order in which they are named. */
export function columnsAsked({ gate, inputs, feeding }: Question): number[] {
  return [...new Set([...feeding, { gate, inputs }].flatMap((one) => one.gate.inputs.flatMap(({ name }) => (one.inputs[name] ? columnsBound(one.inputs[name]) : []))))]
}

/** @returns the gates in the order to decide them in, the one asked last; or what is wrong with it, or with one that feeds it */
export function gatesAsked({ gate, feeding }: Pick<Question, 'gate' | 'feeding'>): { gates: ReadyGate[] } | { problems: GateProblem[] } {
  const ready = readyGates({ conditions: [], gates: [...feeding.map((one) => one.gate), gate] })
  if ('problems' in ready) return { problems: ready.problems.get(gate.name) ?? [...ready.problems.values()].flat() }
  const isAsked = (one: ReadyGate) => one.gate === gate
  return { gates: [...ready.ready.filter((one) => !isAsked(one)), ...ready.ready.filter(isAsked)] }
}

/** @param column by id */
export function tablesAsked({ gate, inputs, feeding }: Question, length: number, column: (id: number) => Column): Tables {
  const tables = new Map([...feeding, { gate, inputs }].map((one): [string, Table] => {
    const columns = one.gate.inputs.flatMap(({ name, isSet }): [string, Column | NumberColumn[]][] => {
      const bound = one.inputs[name]
      if (!bound) return []
      const members = columnsBound(bound).map(column)
      return [[name, isSet ? (members as NumberColumn[]) : members[0]!]]
    })
    return [one.gate.name, { length, columns: new Map(columns) }]
  }))
  return (name) => tables.get(name)!
}

/** What has to be given for a record: what columns give, to the gate or to one that feeds it; each name once. */
export function givenInputs({ gate, feeding }: Pick<Question, 'gate' | 'feeding'>): Input[] {
  const given = [...feeding.map((one) => one.gate), gate].flatMap(({ inputs }) => inputs.filter(({ source }) => source.kind === 'given'))
  return [...new Map(given.map((input) => [input.name, input])).values()]
}
