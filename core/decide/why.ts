/** Why a record got what it got, test by test, as data. Pages, files and reports put it in words, all of them from this. */
import { evaluate, type Note } from '../expression/evaluate'
import { combine } from '../value/arithmetic'
import { compareValues } from '../value/compare'
import { type DateValue, kindOf, type Value } from '../value/value'
import type { Condition, Test } from '../rule/condition'
import { decideFacts, type Decision, testVerdict } from './decide-record'
import { type Facts, factsOf, type Given } from './facts'
import type { Lowered } from '../rule/rules'
import { simpleTest } from '../rule/simple-test'
import { isCertain, type Verdict, verdictOf } from './verdict'

export interface Why {
  decision: Decision
  /** What the gate saw, figures too. */
  inputs: SeenInput[]
  /** The rules in order; with First, up to the one that decided. */
  rules: WalkedRule[]
}

export interface SeenInput {
  name: string
  /** After rounding; null for a blank. */
  value: Value
  /** As given, where that is another value. */
  measured: Value
  /** The text that could not be read, where there is one. */
  unreadable: string | null
  /** What came to nothing while it was computed. */
  notes: readonly Note[]
}

export interface WalkedRule {
  rule: number
  /** Where it stands in the gate's document. */
  path: string
  verdict: Verdict
  tests: WalkedTest[]
}

export interface WalkedTest {
  text: string
  /** Whether a `not` stands right before it. */
  isNegated: boolean
  verdict: Verdict
  /** What the test looked at, where that is one thing; null otherwise, and for a blank. */
  saw: Value
  /** The cut nearest to it, and how far the value lies past it (less than nothing: short of it); null where there is none. */
  nearest: { at: Value; distance: Value } | null
}

/** @param unreadable texts that could not be read, by input */
export function whyOf(gate: Lowered, given: Given, today: DateValue, unreadable: ReadonlyMap<string, string> = new Map()): Why {
  const facts = factsOf(gate, given, today)
  const rules: WalkedRule[] = []
  for (const [rule, { condition, path }] of gate.rules.entries()) {
    const verdict = verdictOf(condition, (test) => testVerdict(gate, test, facts))
    rules.push({ rule, path, verdict, tests: walkedTests(gate, condition, facts) })
    if (gate.hitPolicy === 'first' && isCertain(verdict)) break
  }
  const decision = decideFacts(gate, facts)
  const inputs = [...gate.inputs.keys()].map((name): SeenInput => {
    const value = facts.value(name)
    return { name, value, measured: gate.inputs.get(name)!.figure ? value : given(name), unreadable: unreadable.get(name) ?? null, notes: facts.notes.get(name) ?? [] }
  })
  return { decision, inputs, rules }
}

/** In the order of the text. */
function walkedTests(gate: Lowered, condition: Condition, facts: Facts, isNegated = false): WalkedTest[] {
  if (condition.kind === 'test') return [walkedTest(gate, condition, facts, isNegated)]
  if (condition.kind === 'not') return walkedTests(gate, condition.of, facts, true)
  return condition.of.flatMap((part) => walkedTests(gate, part, facts))
}

function walkedTest(gate: Lowered, test: Test, facts: Facts, isNegated: boolean): WalkedTest {
  const simple = simpleTest(test.tree, facts.today)
  const saw = simple ? evaluate(simple.subject, facts) : null
  const ends = simple?.pieces.flatMap(({ low, high }) => [low, high]).filter((end) => end !== null) ?? []
  return { text: test.text, isNegated, verdict: testVerdict(gate, test, facts), saw, nearest: nearestOf(saw, ends) }
}

function nearestOf(value: Value, ends: readonly Value[]): WalkedTest['nearest'] {
  let best: { at: Value; distance: Value; size: Value } | null = null
  for (const at of ends) {
    if (value === null || at === null || kindOf(value) === 'text') continue
    const difference = combine('-', value, at)
    if (!('value' in difference)) continue
    const size = sizeOf(difference.value)
    if (!best || compareValues(size, best.size)! < 0) best = { at, distance: difference.value, size }
  }
  return best && { at: best.at, distance: best.distance }
}

function sizeOf(distance: Value): Value {
  const zero = combine('-', distance, distance)
  if (!('value' in zero) || compareValues(distance, zero.value)! >= 0) return distance
  const negated = combine('-', zero.value, distance)
  return 'value' in negated ? negated.value : distance
}
