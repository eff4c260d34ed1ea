/** What tests can look at: the gate's inputs, and whatever else of the table becomes one once it is looked at. */
import type { Bound, BoundInputs } from '@dime-gate/contract/binding'
import { boundByNames } from '@dime-gate/contract/bound-by-names'
import type { KnownCondition } from '@dime-gate/contract/condition'
import type { GateSummary } from '@dime-gate/contract/gate'
import type { Column, Table } from '@dime-gate/contract/table'
import { usableName } from '@dime-gate/core/expression/names'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { problemWords } from '@dime-gate/core/expression/problem-words'
import { freeNames } from '@dime-gate/core/expression/tree'
import type { Input, RulesGate, SharedCondition } from '@dime-gate/core/gate/document'
import { conditionsOf, namesIn, withParcel } from '@dime-gate/core/gate/named-conditions'
import { type Condition, conditionText } from '@dime-gate/core/rule/condition'
import { readCondition, typesIn } from '@dime-gate/core/rule/read-condition'
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
  /** Null for what the gate has already. */
  adds: { inputs: { input: Input; bound: Bound | null }[]; conditions: readonly SharedCondition[] } | null
}

const added = (input: Input, bound: Bound | null): Subject['adds'] => ({ inputs: [{ input, bound }], conditions: [] })

const PLAIN = {
  isSet: false,
  unit: '',
  expected: null,
  precision: { kind: 'as measured' },
  tolerance: null,
  blank: null,
} as const satisfies Partial<Input>

/**
 * Inputs and named conditions first, then what is none yet: columns, sets, other gates' labels, and conditions of other gates
 * that go with this one on this table.
 * @param gates that are bound to the table and have a version
 */
export function subjectsOf(
  { gate, inputs }: OnTable,
  table: Pick<Table, 'columns' | 'sets'>,
  gates: readonly Pick<GateSummary, 'name'>[],
  conditions: readonly KnownCondition[],
): Subject[] {
  const taken = new Set(namesIn(gate))
  const bound = new Set(Object.values(inputs).flatMap((one) => ('column' in one ? [one.column] : [])))
  const fed = new Set(gate.inputs.flatMap(({ source }) => (source.kind === 'gate' ? [source.gate] : [])))
  const own = gate.inputs.map((input): Subject => ({ name: input.name, detail: inputDetail(input), adds: null }))
  const named = conditionsOf(gate).map(({ name }): Subject => ({ name, detail: 'named condition', adds: null }))
  const columns = table.columns
    .filter(({ id }) => !bound.has(id))
    .map((column): Subject => {
      const name = freeName(column.name, taken)
      return {
        name,
        detail: `column, ${withUnit(TYPE_WORDS[column.type], column.unit)}`,
        adds: added(inputOf(column, name), { column: column.id }),
      }
    })
  const sets = table.sets
    .filter(({ name }) => !taken.has(name))
    .map((set): Subject => {
      const name = freeName(set.name, taken)
      return {
        name,
        detail: 'set of columns',
        adds: added({ ...PLAIN, name, type: 'number', isSet: true, source: { kind: 'given' } }, { set: set.name }),
      }
    })
  const labels = gates
    .filter(({ name }) => name !== gate.name && !fed.has(name))
    .map((other): Subject => {
      const name = freeName(other.name, taken)
      return {
        name,
        detail: 'what that gate gives',
        adds: added({ ...PLAIN, name, type: 'text', source: { kind: 'gate', gate: other.name, outcome: null } }, null),
      }
    })
  const ofOthers = conditions.flatMap((one): Subject[] => {
    const adds = conditionsOf(gate).some(({ id }) => id === one.id) ? null : takenOver(gate, one, table, gates)
    return adds === null ? [] : [{ name: one.name, detail: `condition of ${one.gates[0]?.name ?? 'another gate'}`, adds }]
  })
  return [...own, ...named, ...columns, ...sets, ...labels, ...ofOthers]
}

/** What a gate gets with a condition of another one; null where that does not go with it on this table. */
function takenOver(
  gate: RulesGate,
  { parcel }: KnownCondition,
  { columns, sets }: Pick<Table, 'columns' | 'sets'>,
  gates: readonly Pick<GateSummary, 'name'>[],
): Subject['adds'] {
  const taken = withParcel(gate, parcel)
  if ('quarrel' in taken) return null
  const bound = boundByNames(taken.added, columns, sets)
  const isThere = ({ name, source }: Input) =>
    source.kind === 'figure' || (source.kind === 'given' ? name in bound : source.gate !== gate.name && gates.some((one) => one.name === source.gate))
  if (!taken.added.every(isThere)) return null
  return {
    inputs: taken.added.map((input) => ({ input, bound: bound[input.name] ?? null })),
    conditions: parcel.conditions.filter(({ id }) => !conditionsOf(gate).some((own) => own.id === id)),
  }
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
  const usable = usableName(wanted)
  for (let number = 1; ; number++) {
    const name = number === 1 ? usable : `${usable} ${number}`
    if (taken.has(name)) continue
    taken.add(name)
    return name
  }
}

/** The gate with what the subject adds to it. */
export function lookingAt({ gate, inputs }: OnTable, { adds }: Subject): OnTable {
  if (!adds) return { gate, inputs }
  // Something that was looked at before may have brought a part of it.
  const has = new Set(namesIn(gate))
  const news = adds.inputs.filter(({ input }) => !has.has(input.name))
  const conditions = adds.conditions.filter(({ name }) => !has.has(name))
  const bound = news.flatMap((one): [string, Bound][] => (one.bound ? [[one.input.name, one.bound]] : []))
  const wider = { ...gate, inputs: [...gate.inputs, ...news.map(({ input }) => input)] }
  return {
    gate: conditions.length === 0 ? wider : { ...wider, conditions: [...conditionsOf(gate), ...conditions] },
    inputs: { ...inputs, ...Object.fromEntries(bound) },
  }
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
  const all = {
    inputs: [...on.gate.inputs, ...subjects.flatMap(({ adds }) => adds?.inputs.map(({ input }) => input) ?? [])],
    conditions: [...conditionsOf(on.gate), ...subjects.flatMap(({ adds }) => adds?.conditions ?? [])],
  }
  const read = readCondition(text, typesIn(all))
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
  const names = namesIn(gate)
  const entries = [...gate.rules.map((rule) => rule.entries), gate.otherwise ?? []].flat()
  const texts = [
    ...[...gate.rules.map(({ condition }) => condition), ...conditionsOf(gate).map(({ feel }) => feel)].filter((text) => text.trim() !== '' && text.trim() !== '-'),
    ...entries.flatMap((entry) => (entry && 'feel' in entry ? [entry.feel] : [])),
    ...gate.inputs.flatMap(({ source }) => (source.kind === 'figure' ? [source.feel] : [])),
  ]
  const used = new Set<string>()
  const namedIn = reading(names)
  for (const text of texts) {
    const named = namedIn(text)
    if (!named) return new Set(names)
    for (const name of named) used.add(name)
  }
  return used
}

/** More texts than any gate has. */
const MOST_READ = 10_000
let lastRead = { names: '', texts: new Map<string, readonly string[] | null>() }

/** Tells what a text names; null where it cannot be read. Of many rules one is changed at a time: the others were read before. */
function reading(names: readonly string[]): (text: string) => readonly string[] | null {
  const key = JSON.stringify(names)
  if (lastRead.names !== key || lastRead.texts.size > MOST_READ) lastRead = { names: key, texts: new Map() }
  const { texts } = lastRead
  return (text) => {
    if (!texts.has(text)) {
      const parsed = parseExpression(text, names)
      texts.set(text, 'problem' in parsed ? null : freeNames(parsed.tree))
    }
    return texts.get(text)!
  }
}
