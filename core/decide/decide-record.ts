/**
 * One record decided, rule by rule, in decimals: the reference that deciding a table is held to.
 */
import { evaluate } from '../expression/evaluate'
import type { DateValue, Value } from '../value/value'
import type { Test } from '../rule/condition'
import { type Facts, factsOf, type Given, missingInputs } from './facts'
import { areSameHit, hit, type Hittable } from './hit-policy'
import { type Lowered, type LoweredEntry, NONE, type Status } from '../rule/rules'
import { EITHER, FALSE, isCertain, isPossible, NULL, TRUE, type Verdict, verdictOf } from './verdict'

export interface Decision {
  status: Status
  /** The rule that decided, or NONE. */
  rule: number
  /** One an outcome column; empty where the record has none. */
  outcomes: Value[]
  /** The inputs whose missing values hold the record; empty where it is not held. */
  missing: string[]
}

export function decideRecord(gate: Lowered, given: Given, today: DateValue): Decision {
  const facts = factsOf(gate, given, today)
  return decideFacts(gate, facts, gate.hitPolicy === 'first' ? verdictsUpToTrue(gate, facts) : verdictsOf(gate, facts))
}

/** With First, nothing after the first true rule counts. */
function verdictsUpToTrue(gate: Lowered, facts: Facts): Verdict[] {
  const verdicts: Verdict[] = []
  for (const { condition } of gate.rules) {
    const verdict = verdictOf(condition, (test) => testVerdict(gate, test, facts))
    verdicts.push(verdict)
    if (isCertain(verdict)) break
  }
  return verdicts
}

/** By rule, what its condition comes to. */
export function verdictsOf(gate: Lowered, facts: Facts): Verdict[] {
  return gate.rules.map(({ condition }) => verdictOf(condition, (test) => testVerdict(gate, test, facts)))
}

/**
 * What the rules come to that are true for certain, unless another that is only possible would change it:
 * then the record is held. With the policy First that is the walk down to the first true rule, which every
 * unknown condition met before it keeps as a possibility.
 */
export function decideFacts(gate: Lowered, facts: Facts, verdicts: readonly Verdict[]): Decision {
  const policy = hittable(gate, facts)
  const places = [...verdicts.keys()]
  const certain = places.filter((rule) => isCertain(verdicts[rule]!))
  const possible = places.filter((rule) => isPossible(verdicts[rule]!) && !isCertain(verdicts[rule]!))
  const decided = hit(policy, certain)
  if (decided.status === 'contested') return { ...decided, missing: [] }
  const unsettled = possible.filter((rule) => !areSameHit(decided, hit(policy, [...certain, rule].toSorted((a, b) => a - b))))
  if (unsettled.length === 0) return { ...decided, missing: [] }
  return { status: 'held', rule: NONE, outcomes: [], missing: missingFor(gate, facts, unsettled) }
}

/**
 * What a test comes to. FEEL answers `null = 5` with false; a record that holds on blanks must not be decided by
 * that, so a test that met a blank, or something that could not be computed, stays open, unless it asks for
 * blanks itself. Where blanks pass, FEEL's answer stands (DMN 1.5 tables 49 to 54).
 */
export function testVerdict(gate: Pick<Lowered, 'inputs'>, test: Test, facts: Facts): Verdict {
  let fellShort = false
  const value = evaluate(test.tree, { value: facts.value, today: facts.today, note: () => void (fellShort = true) })
  const blank = test.inputs.filter((input) => facts.value(input) === null)
  const isOpen = typeof value !== 'boolean' || ((blank.length > 0 || fellShort) && !test.asksForBlanks)
  const concerned = blank.length > 0 ? blank : test.inputs
  if (isOpen && concerned.some((input) => gate.inputs.get(input)?.blank !== 'pass')) return EITHER
  return typeof value !== 'boolean' ? NULL : value ? TRUE : FALSE
}

function hittable(gate: Lowered, facts: Facts): Hittable {
  const values = (entries: readonly LoweredEntry[]) => entries.map((entry) => ('value' in entry ? entry.value : evaluate(entry.tree, facts)))
  return {
    hitPolicy: gate.hitPolicy,
    columns: gate.outcomes,
    outcomesOf: (rule) => values(gate.rules[rule]!.entries),
    otherwise: () => gate.otherwise && values(gate.otherwise),
  }
}

/** The blanks behind the tests that are unknown in these rules. */
function missingFor(gate: Lowered, facts: Facts, rules: readonly number[]): string[] {
  const names = new Set<string>()
  for (const rule of rules) {
    verdictOf(gate.rules[rule]!.condition, (test) => {
      const verdict = testVerdict(gate, test, facts)
      if (verdict === EITHER) for (const input of missingInputs(gate, facts, test.inputs)) names.add(input)
      return verdict
    })
  }
  return [...names]
}

