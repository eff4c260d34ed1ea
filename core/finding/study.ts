/** A gate laid out to be looked at: its space, its rules as boxes, and records made for places in it. */
import { evaluate } from '../expression/evaluate'
import { freeNames, type Node } from '../expression/tree'
import { type Condition, testsOf } from '../rule/condition'
import { decideRecord, type Decision, testVerdict } from '../decide/decide-record'
import { factsOf, type Given } from '../decide/facts'
import type { Lowered, LoweredEntry, LoweredInput } from '../rule/rules'
import { isCertain, verdictOf } from '../decide/verdict'
import { Decimal } from '../value/number'
import { type DateValue, kindOf, type Value } from '../value/value'
import { textOfValue } from '../value/value-text'
import { dayTimeDuration, yearMonthDuration } from '../value/temporal'
import { type Space, spaceOf } from '../rule/axes'
import { type Box, boxReader, layoutOf, type Layout } from './box'
import type { RuleBoxes } from './coverage'

export interface Study {
  gate: Lowered
  today: DateValue
  space: Space
  layout: Layout
  /** By rule; null where its condition is too intricate. */
  rules: readonly (RuleBoxes | null)[]
  /** Values worth trying in examples: plain ones, and all that the tests themselves speak of. */
  pool: readonly Value[]
  /** Whether every axis is an input, so that any place in the space is a record. */
  isExact: boolean
  /** By rule a text that is equal where two give the same; the last is otherwise's. */
  keys: readonly string[]
  /** All boxes of all rules, and by rule where its own begin. */
  boxes: readonly Box[]
  starts: readonly number[]
  /** Tests that may still be evaluated in search of examples; what a try costs is the tests of all rules. */
  tries: { left: number; readonly cost: number }
  /** By rule whether it asks for blanks, which have no place in the space. */
  asksForBlanks: readonly boolean[]
}

export function studyOf(gate: Lowered, today: DateValue): Study {
  const space = spaceOf(gate, today)
  const layout = layoutOf(space)
  const boxesOf = boxReader(space, layout)
  const rules = gate.rules.map(({ condition }) => boxesOf(condition))
  const starts = [0]
  for (const boxes of rules) starts.push(starts.at(-1)! + (boxes?.length ?? 0))
  return {
    gate, today, space, layout, rules, starts, pool: poolOf(space, today),
    boxes: rules.flatMap((boxes) => boxes ?? []),
    keys: [...gate.rules.map(({ entries }) => entriesKey(entries)), entriesKey(gate.otherwise)],
    tries: { left: MOST_TESTS_TRIED, cost: gate.rules.reduce((sum, { condition }) => sum + testsOf(condition).length, 1) },
    isExact: space.axes.every(({ input }) => input !== null),
    asksForBlanks: gate.rules.map(({ condition }) => testsOf(condition).some((test) => test.asksForBlanks)),
  }
}

export type Example = Record<string, Value>

/** Tries that are made for a place which expressions over several inputs lie in. */
const MOST_TRIES = 300
/** All tries together, in tests: some tenths of a second. */
const MOST_TESTS_TRIED = 100_000

/** By axis the regions that a record may lie in. */
export type Choices = readonly (readonly number[])[]

/** Where exactly one place will do. */
export function onlyAt(place: readonly number[]): Choices {
  return place.map((region) => [region])
}

/**
 * A record in one of some places of which `claim` is true: it is always tried.
 * @returns null where none was found
 */
export function exampleIn({ gate, space, isExact, pool, tries }: Study, choices: Choices, claim: (given: Given) => boolean): Example | null {
  const sizes = [[0, 0], [], [0], [0, 0, 0]]
  let state = 1
  const pick = <Item>(values: readonly Item[]): Item => values[(state = (Math.imul(state, 1664525) + 1013904223) >>> 0) % values.length]!
  for (let attempt = 0; attempt < (isExact ? 1 : MOST_TRIES); attempt++) {
    if (attempt > 0 && (tries.left -= tries.cost) < 0) return null
    const example: Example = {}
    space.axes.forEach(({ input, regions }, axis) => {
      if (input) example[input.name] = regions[attempt === 0 ? choices[axis]![0]! : pick(choices[axis]!)]!.example
    })
    for (const input of gate.inputs.values()) {
      if (input.figure || input.name in example) continue
      const size = input.isSet ? sizes[attempt % sizes.length]! : null
      example[input.name] = attempt === 0 ? candidates(pool, input)[0]! : size ? size.map(() => pick(candidates(pool, input, false))) : pick(candidates(pool, input))
    }
    if (claim((name) => example[name] ?? null)) return example
  }
  return null
}

function poolOf({ axes }: Space, today: DateValue): Value[] {
  const plain = [1, 0, 2, 10, 100, -1].map((number) => new Decimal(number))
  return ['anything', true, false, today, ...plain, dayTimeDuration(new Decimal(86_400)), yearMonthDuration(12), ...axes.flatMap(({ regions }) => regions.slice(0, 60).map(({ example }) => example))]
}

function candidates(pool: readonly Value[], { type, isSet }: LoweredInput, wraps = true): Value[] {
  const fitting = pool.filter((value) => kindOf(value) === type)
  const known = fitting.length > 0 ? fitting : [null]
  return isSet && wraps ? known.map((value) => [value]) : known
}

/** The given inputs that some expressions look at, through figures too. */
export function inputsOf({ gate }: Study, trees: readonly Node[]): string[] {
  const found = new Set<string>()
  const visit = (name: string): void => {
    const input = gate.inputs.get(name)
    if (input?.figure) freeNames(input.figure).forEach(visit)
    else if (input) found.add(name)
  }
  for (const tree of trees) freeNames(tree).forEach(visit)
  return [...gate.inputs.keys()].filter((name) => found.has(name))
}

/** The given inputs that the tests of some rules look at. */
export function inputsOfRules(study: Study, rules: readonly number[]): string[] {
  return inputsOf(study, rules.flatMap((rule) => testsOf(study.gate.rules[rule]!.condition).map(({ tree }) => tree)))
}

export function decisionFor({ gate, today }: Study, given: Given): Decision {
  return decideRecord(gate, given, today)
}

/** Whether all of these rules are true for a record. */
export function areTrue(study: Study, given: Given, rules: readonly number[]): boolean {
  return areMet(study, given, rules.map((rule) => study.gate.rules[rule]!.condition))
}

export function areMet({ gate, today }: Study, given: Given, conditions: readonly Condition[]): boolean {
  const facts = factsOf(gate, given, today)
  return conditions.every((condition) => isCertain(verdictOf(condition, (test) => testVerdict(gate, test, facts))))
}

/** An expression is told by what it says. */
function entriesKey(entries: readonly LoweredEntry[] | null): string {
  if (!entries) return 'nothing'
  return JSON.stringify(entries.map((entry) => ('value' in entry ? [kindOf(entry.value), textOfValue(entry.value)] : ['=', JSON.stringify(entry.tree, (key, value: unknown) => (key === 'span' ? undefined : value))])))
}

/** The label that a rule gives, as text. */
export function labelText(entries: readonly LoweredEntry[], today: DateValue): string {
  const [first] = entries
  if (!first) return ''
  return 'value' in first ? textOfValue(first.value) : textOfValue(evaluate(first.tree, { value: () => null, today }))
}
