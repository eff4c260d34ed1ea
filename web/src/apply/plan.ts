/** What runs when gates are applied to tables: for each gate on each table, which columns stand for what it looks at, and what is missing. */
import type { Run } from '@dime-gate/contract/run'
import type { Bound, BoundInputs } from '@dime-gate/contract/binding'
import { boundByNames } from '@dime-gate/contract/bound-by-names'
import type { Table } from '@dime-gate/contract/table'
import { membersOfSet } from '@dime-gate/contract/table-figures'
import type { Gate, Input } from '@dime-gate/core/gate/document'
import { areNear, isWrittenAlike } from '@dime-gate/core/gate/near-values'
import { grouped } from '@dime-gate/core/value/grouped'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'

/** A gate as it is to be run, or as it feeds one. */
export interface PlannedGate {
  id: number
  /** Its last version. */
  gate: Gate
  version: number
  /** What stands for its inputs in the table; null where it was never bound there. */
  bound: { inputs: BoundInputs; version: number } | null
}

/** `bound`: before; `chosen`: by hand just now; `named`: a column is called so; `near`: one is called nearly so; `nothing`: none is. */
export type How = 'bound' | 'chosen' | 'named' | 'near' | 'nothing'

export interface PlannedInput {
  gateId: number
  gateName: string
  input: Input
  bound: Bound | null
  how: How
}

export interface Choice {
  title: string
  value: Bound
}

/** @param gates those that feed it, and itself, each after those that feed it */
export function plannedInputs(gates: readonly PlannedGate[], table: Table): PlannedInput[] {
  return gates.flatMap(({ id, gate, bound }) => {
    const named = boundByNames(gate.inputs, table.columns, table.sets)
    return gate.inputs.filter(({ source }) => source.kind === 'given').map((input): PlannedInput => {
      const one = { gateId: id, gateName: gate.name, input }
      const before = bound?.inputs[input.name]
      if (before && isThere(before, table)) return { ...one, bound: before, how: 'bound' }
      if (named[input.name]) return { ...one, bound: named[input.name]!, how: 'named' }
      const near = nearest(input, table)
      return near ? { ...one, bound: near, how: 'near' } : { ...one, bound: null, how: 'nothing' }
    })
  })
}

/** The columns that can stand for an input; for a column set the sets, and columns whose names begin with the same word. */
export function choicesFor(input: Input, { columns, sets }: Table): Choice[] {
  const fitting = columns.filter(({ type }) => kindOfColumn(type) === input.type)
  if (!input.isSet) return fitting.map(({ id, name }) => ({ title: name, value: { column: id } }))
  const alike = grouped(fitting.filter(({ feel, drawn }) => feel === null && drawn === null), ({ name }) => name.trim().split(/\s+/)[0]!)
  return [
    ...sets.map((set): Choice => ({ title: `${set.name} (${membersOfSet(set, columns).length} columns)`, value: { set: set.name } })),
    ...[...alike].filter(([, own]) => own.length > 1).map(([word, own]): Choice => ({ title: `${word} … (${own.length} columns)`, value: { columns: own.map(({ id }) => id) } })),
  ]
}

function isThere(bound: Bound, { columns, sets }: Table): boolean {
  if ('set' in bound) return sets.some(({ name }) => name === bound.set)
  const ids = 'column' in bound ? [bound.column] : bound.columns
  return ids.every((id) => columns.some((column) => column.id === id))
}

/** One that is written alike, is a letter off, or has all its words; null where there is none, or several. */
function nearest(input: Input, table: Table): Bound | null {
  const choices = choicesFor(input, table)
  const nameOf = ({ title }: Choice) => title.replace(/( …)? \(\d+ columns\)$/, '')
  for (const isLike of [isWrittenAlike, areNear, hasWordsOf]) {
    const like = choices.filter((choice) => isLike(nameOf(choice), input.name))
    if (like.length === 1) return like[0]!.value
    if (like.length > 1) return null
  }
  return null
}

const wordsOf = (name: string) => name.toLowerCase().split(/[^\p{L}\p{N}]+/u).filter((word) => word !== '')

function hasWordsOf(one: string, other: string): boolean {
  const [words, others] = [wordsOf(one), wordsOf(other)]
  const [few, many] = words.length < others.length ? [words, others] : [others, words]
  return few.length > 0 && few.every((word) => many.includes(word))
}

/** What has to be bound, or bound otherwise, before it can run: by gate all its inputs. */
export function bindingsNeeded(gates: readonly PlannedGate[], planned: readonly PlannedInput[]): { gateId: number; inputs: BoundInputs; seen: number }[] {
  return gates.flatMap(({ id, bound }) => {
    const own = planned.filter(({ gateId }) => gateId === id)
    if (own.every(({ how }) => how === 'bound')) return []
    const chosen = Object.fromEntries(own.flatMap(({ input, bound: one }) => (one ? [[input.name, one] as const] : [])))
    return [{ gateId: id, inputs: { ...bound?.inputs, ...chosen }, seen: bound?.version ?? 0 }]
  })
}

export interface Whole {
  runs: number
  done: number
  records: number
  decided: number
}

/** How far all runs that were begun are together. What has failed is at its end. */
export function wholeOf(runs: readonly Pick<Run, 'state' | 'progress' | 'records'>[]): Whole {
  return runs.reduce((sum, { state, progress, records }) => ({
    runs: sum.runs + 1, done: sum.done + Number(state !== 'under way'), records: sum.records + records, decided: sum.decided + (state === 'under way' ? (progress ?? 0) : records),
  }), { runs: 0, done: 0, records: 0, decided: 0 })
}
