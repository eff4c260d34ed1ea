/**
 * What a gate makes of each cell of records, decided once for all of them. It is `decideByTests` and `decideByTrying`
 * (see `decide-record`) over classes in place of a record's own values; with First and written-out results a walk of
 * its own, which the property tests hold to those.
 */
import { testsOf, type Condition, type Test } from '../rule/condition'
import { type Completions, MOST_COMBINED, openIn } from '../rule/completions'
import { type Lowered, type LoweredEntry, NONE } from '../rule/rules'
import { kindOf } from '../value/value'
import { textOfValue } from '../value/value-text'
import { type Answers, decideByTests, decideByTrying } from '../decide/decide-record'
import { FALSE, NULL, TRUE, type Verdict } from '../decide/verdict'
import { both, either, negated } from '../expression/truth'
import { AFTER_RULES, codeOf } from './decisions'
import { allOf, OpenWays, takeOut } from './open-ways'
import type { TestClasses } from './test-classes'

/** The records of the cell have to be decided one by one: what they get is computed from their own values. */
export const BY_RECORD = -1
const TORN = -2
const ANYTHING = TRUE | FALSE | NULL

/** Decides a cell by its records' classes, one a group. @returns a code (see `decisions`), or BY_RECORD */
export type CellDecider = (classes: Int32Array) => number

/** @property reached how far down the rules the last decision had to look: those behind change nothing of it */
export interface ReachingDecider {
  readonly decide: CellDecider
  readonly reached: number
}

export function cellDecider(gate: Lowered, groups: readonly TestClasses[], completions: () => ReadonlyMap<string, Completions>): ReachingDecider {
  if (gate.hitPolicy === 'first') return new Walk(gate, groups, completions)
  // All rules have a say.
  return { decide: general(gate, groups, completions), reached: gate.rules.length }
}

/** With First. */
export interface FirstDecider extends ReachingDecider {
  /** Whether so much is open in these classes that what it could be is not tried. */
  isTooOpen(classes: Int32Array): boolean
}

export function firstDecider(gate: Lowered, groups: readonly TestClasses[], completions: () => ReadonlyMap<string, Completions>): FirstDecider {
  return new Walk(gate, groups, completions)
}

class Computed extends Error {}

function general(gate: Lowered, groups: readonly TestClasses[], completions: () => ReadonlyMap<string, Completions>): CellDecider {
  const places = placesOfTests(groups)
  const literal = (entry: LoweredEntry) => {
    if ('tree' in entry) throw new Computed()
    return entry.value
  }
  return (classes) => {
    const answers: Answers = {
      test: ({ text }) => {
        const { group, at } = places.get(text)!
        return groups[group]!.verdicts[classes[group]!]![at]!
      },
      entry: literal,
    }
    try {
      const inputs = groups.flatMap(({ open }, group) => open[classes[group]!]!)
      const open = inputs.length === 0 ? [] : openIn(completions(), inputs)
      const hit = decideByTests(gate, answers).found ?? decideByTrying(gate, answers, open)
      return hit ? codeOf(hit.status, hit.rule, gate.rules.length) : codeOf('held', NONE, gate.rules.length)
    } catch (error) {
      if (error instanceof Computed) return BY_RECORD
      throw error
    }
  }
}

function placesOfTests(groups: readonly TestClasses[]): Map<string, { group: number; at: number }> {
  return new Map(groups.flatMap(({ tests }, group) => tests.map(({ text }, at): [string, { group: number; at: number }] => [text, { group, at }])))
}

/**
 * What one class of a group says of rules, a bit each: that it may still be taken by a record of the class, and that
 * nothing which is asked of the group is in its way.
 */
interface SaidOfRules {
  possible: Uint32Array
  sure: Uint32Array
}

/** First: down the rules that a cell's classes leave possible. */
class Walk implements FirstDecider {
  reached = 0
  /** By test its group, and by class what it comes to; the ways of open inputs come after the group's own classes. */
  readonly groupOf: Int32Array
  readonly verdicts: Uint8Array[]
  /**
   * By rule what its condition comes to; null where it asks for several things together, each of one group: then the groups
   * say by themselves whether it may hold, and whether it is sure to.
   */
  private readonly mixed: (Compiled | null)[]
  /** By group and class what a record's class says of the rules; made when first asked for. */
  private readonly said: (SaidOfRules | undefined)[][]
  /** The rules that ask something of a group, and what that is. */
  private readonly asking: { rule: number; parts: Compiled }[][]
  /** What a group says of rules that ask nothing of it. */
  private readonly anyhow: SaidOfRules
  /** The classes of records of which one alone is known. */
  private readonly ofClass: Int32Array
  private readonly words: number
  private readonly open: OpenWays
  readonly testAt = new Map<string, number>()
  private readonly results: Int32Array
  private readonly hasComputed: boolean

  constructor(private readonly gate: Lowered, groups: readonly TestClasses[], completions: () => ReadonlyMap<string, Completions>) {
    const tests = groups.flatMap(({ tests }, group) => tests.map((test, at) => ({ test, group, at })))
    tests.forEach(({ test }, at) => this.testAt.set(test.text, at))
    this.groupOf = Int32Array.from(tests, ({ group }) => group)
    const expanded = groups.map((group) => withWays(group, completions))
    this.verdicts = tests.map(({ group, at }) => verdictsAt(expanded[group]!.verdicts, at))
    this.open = new OpenWays(this, expanded.map(({ ways }) => ways))
    const [groupOf, verdictsOf] = [this.groupOf, this.verdicts]
    const compile = (condition: Condition) => compiled(condition, ({ text }) => {
      const at = this.testAt.get(text)!
      const [own, group] = [verdictsOf[at]!, groupOf[at]!]
      return (classes, only) => (only === ALL || only === group ? own[classes[group]!]! : ANYTHING)
    })
    const groupsOf = (condition: Condition) => [...new Set(testsOf(condition).map(({ text }) => groupOf[this.testAt.get(text)!]!))]
    this.words = (gate.rules.length + 31) >>> 5
    this.asking = groups.map(() => [])
    this.anyhow = { possible: new Uint32Array(this.words), sure: new Uint32Array(this.words) }
    this.ofClass = new Int32Array(groups.length)
    this.mixed = gate.rules.map(({ condition }, rule) => {
      const parts = partsOf(condition)
      const whole = parts.every((part) => groupsOf(part).length === 1) ? null : compile(condition)
      const partsIn = (group: number) => compile({ kind: 'all', of: parts.filter((part) => groupsOf(part).includes(group)) })
      for (const group of groupsOf(condition)) this.asking[group]!.push({ rule, parts: whole ?? partsIn(group) })
      const bit = 1 << (rule & 31)
      if (!whole || whole(this.ofClass, NO_GROUP) & TRUE) this.anyhow.possible[rule >>> 5]! |= bit
      this.anyhow.sure[rule >>> 5]! |= bit
      return whole
    })
    this.said = groups.map(() => [])
    this.results = resultsOf(gate)
    this.hasComputed = [...gate.rules.map(({ entries }) => entries), gate.otherwise ?? []].some((entries) => entries.some((entry) => 'tree' in entry))
  }

  readonly decide: CellDecider = (classes) => {
    const code = this.walk(classes)
    if (code !== TORN) return code
    if (this.hasComputed) return BY_RECORD
    const tried = this.tried(classes)
    return tried === TORN ? codeOf('held', NONE, this.gate.rules.length) : tried
  }

  isTooOpen(classes: Int32Array): boolean {
    return this.open.combinations(classes) > MOST_COMBINED
  }

  private saidBy(group: number, place: number): SaidOfRules {
    const [possible, sure] = [this.anyhow.possible.slice(), this.anyhow.sure.slice()]
    const { ofClass } = this
    ofClass[group] = place
    for (const { rule, parts } of this.asking[group]!) {
      const verdict = parts(ofClass, group)
      const bit = 1 << (rule & 31)
      if ((verdict & TRUE) === 0) possible[rule >>> 5]! &= ~bit
      if (verdict !== TRUE) sure[rule >>> 5]! &= ~bit
    }
    return { possible, sure }
  }

  /** @returns the code of what decides, or TORN where blanks leave several results */
  private walk(classes: Int32Array): number {
    const { results, gate } = this
    let met = -1
    for (let word = 0; word < this.words; word++) {
      let possible = this.candidatesIn(word, classes)
      let sure = possible
      for (let group = 0; group < classes.length && sure !== 0; group++) sure &= this.said[group]![classes[group]!]!.sure[word]!
      for (; possible !== 0; possible &= possible - 1) {
        const rule = word * 32 + 31 - Math.clz32(possible & -possible)
        const verdict = this.mixed[rule]?.(classes, ALL) ?? null
        if (verdict !== null && (verdict & TRUE) === 0) continue
        this.reached = rule
        if (met >= 0 && met !== results[rule]) return TORN
        if (verdict === null ? sure & possible & -possible : verdict === TRUE) return rule
        met = results[rule]!
      }
    }
    this.reached = gate.rules.length
    const rest = results[gate.rules.length]!
    if (met >= 0 && met !== rest) return TORN
    return gate.rules.length + AFTER_RULES.indexOf(gate.otherwise ? 'otherwise' : 'unplaced')
  }

  /** `decideByTrying`: whatever the blanks could be, as far as that comes to the same. */
  private tried(classes: Int32Array): number {
    const combined = this.open.combined(classes)
    if (!combined) return TORN
    const left = allOf(combined)
    const { results, gate: { rules, otherwise } } = this
    let [result, last] = [-1, -1]
    for (const rule of this.candidatesFor(classes)) {
      const { isPossible, isSure } = takeOut(left, this.open.outcome(rules[rule]!.condition, classes, combined))
      if (!isPossible) continue
      // That it is tried at all hangs on the rules that it was torn by.
      this.reached = Math.max(this.reached, rule)
      if (result >= 0 && result !== results[rule]) return TORN
      result = results[rule]!
      // The last rule counts before others, and any rule before what is left over.
      if (isSure) last = rule
      if (isSure && left.every((word) => word === 0)) return last
    }
    this.reached = rules.length
    if (result >= 0 && result !== results[rules.length]) return TORN
    return last >= 0 ? last : rules.length + AFTER_RULES.indexOf(otherwise ? 'otherwise' : 'unplaced')
  }

  /** Of the 32 rules of a word those that none of a record's classes rules out, a bit each. */
  private candidatesIn(word: number, classes: Int32Array): number {
    const { said, gate: { rules } } = this
    let bits = word === this.words - 1 && rules.length % 32 !== 0 ? (1 << rules.length % 32) - 1 : 0xffffffff
    for (let group = 0; group < said.length; group++) {
      bits &= (said[group]![classes[group]!] ??= this.saidBy(group, classes[group]!)).possible[word]!
    }
    return bits
  }

  /** The rules, in order, that none of a record's classes rules out. */
  private *candidatesFor(classes: Int32Array): Generator<number> {
    for (let word = 0; word < this.words; word++) {
      let bits = this.candidatesIn(word, classes)
      for (; bits !== 0; bits &= bits - 1) yield word * 32 + 31 - Math.clz32(bits & -bits)
    }
  }
}

/** What one test of a group comes to, by class. */
export function verdictsAt(verdicts: readonly (readonly Verdict[])[], test: number): Uint8Array {
  // Hundreds of tests with hundreds of classes: a loop takes a fifth of what making them from an iterable does.
  const all = new Uint8Array(verdicts.length)
  for (let place = 0; place < all.length; place++) all[place] = verdicts[place]![test]!
  return all
}

/** A group's classes, and after them one for each combination of the ways that the open inputs of a class have. */
function withWays({ tests, verdicts, open }: TestClasses, completions: () => ReadonlyMap<string, Completions>) {
  const all = [...verdicts]
  const placeOf = new Map(tests.map(({ text }, at) => [text, at]))
  const ways = open.map((inputs, place): readonly number[] | null => {
    const asked = inputs.length === 0 ? [] : openIn(completions(), inputs)
    if (asked.length === 0) return null
    const count = asked.reduce((product, { ways }) => product * ways.length, 1)
    // More than can be tried: one way too many.
    if (count > MOST_COMBINED) return Array.from({ length: MOST_COMBINED + 1 }, () => place)
    const places = asked.map(({ tests: own }) => own.map((text) => placeOf.get(text)))
    return Array.from({ length: count }, (_, at): number => {
      const made = [...verdicts[place]!]
      let left = at
      asked.forEach(({ ways: own }, input) => {
        const way = own[left % own.length]!
        left = Math.floor(left / own.length)
        places[input]!.forEach((test, which) => {
          if (test !== undefined) made[test] = way[which] ? TRUE : FALSE
        })
      })
      return all.push(made) - 1
    })
  })
  return { verdicts: all, ways }
}

/** What a condition comes to by a record's classes. @param only the group of which alone the class is known; ALL, or NO_GROUP */
type Compiled = (classes: Int32Array, only: number) => Verdict

const [ALL, NO_GROUP] = [-1, -2]

/** A condition as a function of where its tests look: many records are asked, and nothing is looked up for each. */
function compiled(condition: Condition, test: (test: Test) => Compiled): Compiled {
  switch (condition.kind) {
    case 'test':
      return test(condition)
    case 'not': {
      const of = compiled(condition.of, test)
      return (classes, only) => negated(of(classes, only))
    }
    default: {
      const parts = condition.of.map((part) => compiled(part, test))
      const join = condition.kind === 'all' ? both : either
      const [first, last] = condition.kind === 'all' ? [TRUE, FALSE] : [FALSE, TRUE]
      return (classes, only) => {
        let all: Verdict = first
        // Whatever comes behind the one that settles it changes nothing (FEEL's truth tables for and, or).
        for (let at = 0; at < parts.length && all !== last; at++) all = join(all, parts[at]!(classes, only))
        return all
      }
    }
  }
}

/** All of these have to hold. */
function partsOf(condition: Condition): readonly Condition[] {
  return condition.kind === 'all' ? condition.of.flatMap(partsOf) : [condition]
}

/** By rule a number for its results, equal where they are the same; the last is that of what is left over. A computed one is like nothing else. */
function resultsOf(gate: Lowered): Int32Array {
  const known = new Map<string, number>()
  const idOf = (entries: readonly LoweredEntry[] | null, fresh: string): number => {
    const isLiteral = entries?.every((entry) => 'value' in entry)
    const key = isLiteral ? JSON.stringify(entries!.map((entry) => 'value' in entry && [kindOf(entry.value), textOfValue(entry.value)])) : fresh
    if (!known.has(key)) known.set(key, known.size)
    return known.get(key)!
  }
  return Int32Array.from([...gate.rules.map(({ entries }, rule) => idOf(entries, `rule ${rule}`)), idOf(gate.otherwise, 'otherwise')])
}
