/**
 * One record decided, rule by rule, in decimals: the reference that deciding a table is held to.
 */
import { evaluateOpen } from '../expression/evaluate'
import { isOpen, type Possible } from '../expression/open'
import { freeNames } from '../expression/tree'
import type { DateValue, Value } from '../value/value'
import { combinations, type Completions, completionsOf } from '../rule/completions'
import type { Test } from '../rule/condition'
import { type Lowered, type LoweredEntry, NONE, type Status } from '../rule/rules'
import { type Facts, factsOf, type Given, holds, missingInputs } from './facts'
import { areSameHit, type Hit, hit, isSettled } from './hit-policy'
import { EITHER, FALSE, isCertain, isOpenVerdict, isPossible, NULL, TRUE, type Verdict, verdictOf } from './verdict'

export interface Decision {
  status: Status
  /** The rule that decided, or NONE. Where a blank could make it several that give the same, the last of them. */
  rule: number
  /** One an outcome column; empty where the record has none. */
  outcomes: Value[]
  /** The inputs whose missing values hold the record; empty where it is not held. */
  missing: string[]
}

export function decideRecord(gate: Lowered, given: Given, today: DateValue): Decision {
  return decideFacts(gate, factsOf(gate, given, today))
}

/** What a record's own values say, each test asked once. */
export function answersOf(gate: Lowered, facts: Facts): Answers {
  const known = new Map<string, Verdict>()
  return {
    test(one) {
      if (!known.has(one.text)) known.set(one.text, testVerdict(gate, one, facts))
      return known.get(one.text)!
    },
    entry: (entry) => ('value' in entry ? entry.value : evaluateOpen(entry.tree, { value: facts.possible, today: facts.today })),
  }
}

export function decideFacts(gate: Lowered, facts: Facts): Decision {
  const answers = answersOf(gate, facts)
  const { found, unsettled } = decideByTests(gate, answers)
  const hit = found ?? decideByTrying(gate, answers, [...completionsOf(gate, facts.today).values()].filter(({ input }) => isOpen(facts.possible(input))))
  if (hit) return { ...hit, outcomes: hit.outcomes as Value[], missing: [] }
  return { status: 'held', rule: NONE, outcomes: [], missing: missingFor(gate, facts, unsettled, answers) }
}

/** By rule, what its condition comes to. */
export function verdictsOf(gate: Lowered, facts: Facts): Verdict[] {
  return gate.rules.map(({ condition }) => verdictOf(condition, (test) => testVerdict(gate, test, facts)))
}

/** What tests and entries come to for a record. */
export interface Answers {
  test(test: Test): Verdict
  entry(entry: LoweredEntry): Possible
}

export interface Found {
  /** Null where it could still be one thing or another. */
  found: Hit | null
  /** The rules that leave it so. */
  unsettled: readonly number[]
}

/**
 * What the rules come to that are true for certain, unless others that are only possible would change it. With the
 * policy First that is the walk down to the first true rule, which every unknown condition met before it keeps as a
 * possibility. Each test is taken by itself: two that look at one blank are not set against each other.
 */
export function decideByTests(gate: Lowered, answers: Answers): Found {
  const certain: number[] = []
  const possible: number[] = []
  for (const [rule, { condition }] of gate.rules.entries()) {
    const verdict = verdictOf(condition, answers.test)
    if (isCertain(verdict)) certain.push(rule)
    else if (isPossible(verdict)) possible.push(rule)
    // With First, nothing after the first true rule counts.
    if (isCertain(verdict) && gate.hitPolicy === 'first') break
  }
  const values = (entries: readonly LoweredEntry[]) => entries.map(answers.entry)
  const policy = { hitPolicy: gate.hitPolicy, columns: gate.outcomes, outcomesOf: (rule: number) => values(gate.rules[rule]!.entries), otherwise: () => gate.otherwise && values(gate.otherwise) }
  const decided = hit(policy, certain)
  if (decided.status === 'contested') return { found: decided, unsettled: [] }
  if (!isSettled(decided)) return { found: null, unsettled: certain.concat(possible) }
  const wouldChange = (rules: readonly number[]) => !areSameHit(decided, hit(policy, [...certain, ...rules].toSorted((a, b) => a - b)))
  const unsettled = possible.filter((rule) => wouldChange([rule]))
  // Rules that change nothing by themselves may do so together, as where they are counted.
  if (unsettled.length === 0 && possible.length > 1 && wouldChange(possible)) return { found: null, unsettled: possible }
  return unsettled.length === 0 ? { found: decided, unsettled } : { found: null, unsettled }
}

/**
 * Whether all that the blanks of these inputs could be comes to the same.
 * @returns null where it does not, or there is too much to try
 */
export function decideByTrying(gate: Lowered, answers: Answers, open: readonly Completions[]): Hit | null {
  if (open.length === 0) return null
  let result: Hit | null = null
  for (const verdicts of combinations(open)) {
    const test = (one: Test): Verdict => {
      const verdict = verdicts.get(one.text)
      return verdict === undefined ? answers.test(one) : verdict ? TRUE : FALSE
    }
    const { found } = decideByTests(gate, { ...answers, test })
    if (!found || (result && !areSameHit(result, found))) return null
    if (!result || found.rule > result.rule) result = found
  }
  return result
}

/**
 * What a test comes to. A test that met a blank which holds stays open, unless it has its value whatever the blank is,
 * or asks for blanks itself; so does one that could not be computed. FEEL would answer `null = 5` with false, and let a
 * blank decide; where blanks pass, that is what happens (DMN 1.5 tables 49 to 54).
 */
export function testVerdict(gate: Pick<Lowered, 'inputs'>, test: Test, facts: Facts): Verdict {
  const isHolding = (input: string) => holds(gate.inputs.get(input) ?? { blank: null })
  const value = evaluateOpen(test.tree, { value: facts.possible, today: facts.today, shortfallIsOpen: test.inputs.some(isHolding) })
  if (typeof value === 'boolean') return value ? TRUE : FALSE
  if (isOpen(value)) return value.can
  // It is null: by a blank that passes, or because what there is cannot be compared.
  const blank = test.inputs.filter((input) => facts.value(input) === null)
  return (blank.length > 0 ? blank : test.inputs).some(isHolding) ? EITHER : NULL
}

/** The blanks behind the tests that are unknown in these rules, and behind what they give. */
function missingFor(gate: Lowered, facts: Facts, rules: readonly number[], answers: Answers): string[] {
  const asked = new Set<string>()
  const addEntries = (entries: readonly LoweredEntry[]) => {
    for (const entry of entries) if ('tree' in entry && isOpen(answers.entry(entry))) freeNames(entry.tree).forEach((name) => asked.add(name))
  }
  for (const rule of rules) {
    const { condition, entries } = gate.rules[rule]!
    verdictOf(condition, (test) => {
      const verdict = answers.test(test)
      if (isOpenVerdict(verdict)) test.inputs.forEach((name) => asked.add(name))
      return verdict
    })
    addEntries(entries)
  }
  if (rules.length === 0 && gate.otherwise) addEntries(gate.otherwise)
  const missing = missingInputs(gate, facts, [...asked])
  if (missing.length > 0) return missing
  // Nothing is blank, so what there is came to nothing: sets that are empty, or else all that was looked at.
  const empty = [...asked].filter((name) => (facts.value(name) as readonly Value[] | null)?.length === 0)
  return empty.length > 0 ? empty : [...asked]
}
