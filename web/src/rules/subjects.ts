/** What tests can look at: the gate's inputs, and whatever else of the table becomes one once it is looked at. */
import type { Bound, BoundInputs } from '@dime-gate/contract/binding'
import type { GateSummary } from '@dime-gate/contract/gate'
import type { Column, Table } from '@dime-gate/contract/table'
import { nameTrouble } from '@dime-gate/core/expression/names'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { problemWords } from '@dime-gate/core/expression/problem-words'
import { freeNames } from '@dime-gate/core/expression/tree'
import type { Input, RulesGate } from '@dime-gate/core/gate/document'
import { type Condition, conditionText } from '@dime-gate/core/rule/condition'
import { inputTypes, readCondition } from '@dime-gate/core/rule/read-condition'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { TYPE_WORDS, withUnit } from '../shared/words'

/** A gate of rules and what stands for its inputs in one table. */
export interface OnTable {
  gate: RulesGate
  inputs: BoundInputs
}

/** Something that tests can look at. */
export interface Subject {
  /** How it is called in conditions. */
  name: string
  detail: string
  /** Null for what is an input already. */
  adds: { input: Input; bound: Bound | null } | null
}

const PLAIN = {
  isSet: false,
  unit: '',
  expected: null,
  precision: { kind: 'as measured' },
  tolerance: null,
  blank: null,
} as const satisfies Partial<Input>

/** Inputs first, then columns, sets and other gates' labels that are none yet. @param gates that are bound to the table and have a version */
export function subjectsOf(
  { gate, inputs }: OnTable,
  table: Pick<Table, 'columns' | 'sets'>,
  gates: readonly Pick<GateSummary, 'name'>[],
): Subject[] {
  const taken = new Set(gate.inputs.map(({ name }) => name))
  const bound = new Set(Object.values(inputs).flatMap((one) => ('column' in one ? [one.column] : [])))
  const fed = new Set(gate.inputs.flatMap(({ source }) => (source.kind === 'gate' ? [source.gate] : [])))
  const own = gate.inputs.map((input): Subject => ({ name: input.name, detail: inputDetail(input), adds: null }))
  const columns = table.columns
    .filter(({ id }) => !bound.has(id))
    .map((column): Subject => {
      const name = freeName(column.name, taken)
      return {
        name,
        detail: `column, ${withUnit(TYPE_WORDS[column.type], column.unit)}`,
        adds: { input: inputOf(column, name), bound: { column: column.id } },
      }
    })
  const sets = table.sets
    .filter(({ name }) => !taken.has(name))
    .map((set): Subject => {
      const name = freeName(set.name, taken)
      return {
        name,
        detail: 'set of columns',
        adds: { input: { ...PLAIN, name, type: 'number', isSet: true, source: { kind: 'given' } }, bound: { set: set.name } },
      }
    })
  const labels = gates
    .filter(({ name }) => name !== gate.name && !fed.has(name))
    .map((other): Subject => {
      const name = freeName(other.name, taken)
      return {
        name,
        detail: 'what that gate gives',
        adds: { input: { ...PLAIN, name, type: 'text', source: { kind: 'gate', gate: other.name, outcome: null } }, bound: null },
      }
    })
  return [...own, ...columns, ...sets, ...labels]
}

function inputDetail({ type, unit, isSet, source }: Input): string {
  const kind =
    source.kind === 'figure'
      ? 'figure'
      : source.kind === 'gate'
        ? 'a gate’s label'
        : isSet
          ? 'set of columns'
          : type === 'boolean'
            ? 'yes or no'
            : type
  return withUnit(kind, unit)
}

function inputOf({ type, unit, expectedLow, expectedHigh }: Column, name: string): Input {
  const side = (at: string | null) => (at === null ? null : { at, included: true })
  const expected =
    expectedLow === null && expectedHigh === null ? null : { kind: 'range' as const, low: side(expectedLow), high: side(expectedHigh) }
  return {
    ...PLAIN,
    name,
    type: kindOfColumn(type),
    unit: unit === '' && type === 'percent' ? '%' : unit,
    source: { kind: 'given' },
    expected,
  }
}

/** A name that conditions can refer to, as near to the column's as can be. */
function freeName(wanted: string, taken: Set<string>): string {
  const usable = nameTrouble(wanted) === null ? wanted : usableName(wanted)
  for (let number = 1; ; number++) {
    const name = number === 1 ? usable : `${usable} ${number}`
    if (taken.has(name)) continue
    taken.add(name)
    return name
  }
}

function usableName(wanted: string): string {
  const plain = wanted
    .replace(/[^\p{L}\p{N} _]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim()
  const begun = /^\p{L}/u.test(plain) ? plain : `Column ${plain}`.trim()
  return nameTrouble(begun) === null ? begun : `${begun} value`
}

/** The gate with an input more, where the subject is none yet. */
export function lookingAt({ gate, inputs }: OnTable, { name, adds }: Subject): OnTable {
  if (!adds) return { gate, inputs }
  return { gate: { ...gate, inputs: [...gate.inputs, adds.input] }, inputs: adds.bound ? { ...inputs, [name]: adds.bound } : inputs }
}

export type Written = OnTable & { condition: Condition; text: string }

/**
 * A condition as it was typed. Whatever of the table it names becomes an input.
 * @returns its canonical text, or what is wrong and where
 */
export function writtenCondition(
  on: OnTable,
  text: string,
  subjects: readonly Subject[],
): Written | { trouble: { words: string; from: number; to: number } } {
  const parsed = parseExpression(
    text,
    subjects.map(({ name }) => name),
  )
  const named = 'tree' in parsed ? freeNames(parsed.tree) : []
  const wider = named.reduce((sum, name) => {
    const subject = subjects.find((one) => one.name === name)
    return subject ? lookingAt(sum, subject) : sum
  }, on)
  const read = readCondition(text, inputTypes([...on.gate.inputs, ...subjects.flatMap(({ adds }) => adds?.input ?? [])]))
  if ('problem' in read) return { trouble: { words: problemWords(read.problem), from: read.problem.from, to: read.problem.to } }
  return { ...wider, condition: read.condition, text: text.trim() === '' ? '' : conditionText(read.condition) }
}

/** The gate without inputs that nothing in it looks at any more, unless somebody has said how they are to be read. */
export function withoutUnused({ gate, inputs }: OnTable): OnTable {
  const used = usedInputs(gate)
  const left = gate.inputs.filter((input) => used.has(input.name) || isSaid(input))
  if (left.length === gate.inputs.length) return { gate, inputs }
  return {
    gate: { ...gate, inputs: left },
    inputs: Object.fromEntries(
      Object.entries(inputs).filter(([name]) => left.some((one) => one.name === name) || !gate.inputs.some((one) => one.name === name)),
    ),
  }
}

function isSaid({ blank, tolerance, precision, source }: Input): boolean {
  return blank !== null || tolerance !== null || precision.kind !== 'as measured' || source.kind === 'figure'
}

/** The inputs that conditions, results or figures name; all of them where one cannot be read. */
export function usedInputs(gate: RulesGate): Set<string> {
  const names = gate.inputs.map(({ name }) => name)
  const entries = [...gate.rules.map((rule) => rule.entries), gate.otherwise ?? []].flat()
  const texts = [
    ...gate.rules.map(({ condition }) => condition).filter((text) => text.trim() !== '' && text.trim() !== '-'),
    ...entries.flatMap((entry) => (entry && 'feel' in entry ? [entry.feel] : [])),
    ...gate.inputs.flatMap(({ source }) => (source.kind === 'figure' ? [source.feel] : [])),
  ]
  const used = new Set<string>()
  for (const text of texts) {
    const parsed = parseExpression(text, names)
    if ('problem' in parsed) return new Set(names)
    for (const name of freeNames(parsed.tree)) used.add(name)
  }
  return used
}
