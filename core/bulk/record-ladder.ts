/**
 * The records of a table decided rule by rule, where they are so different that nearly each would be a cell of its own. Every
 * test is a row of bits over the records, and so is every condition; rules take theirs from what is left. After a change
 * of one test that test and its condition are done again, and the walk down the rules. Where blanks leave a rule open
 * before one is sure, the record is decided by its classes.
 */
import { countBits, emptyBitmap, fullBitmap, placesOf } from '../table/bitmap'
import type { Condition, Test } from '../rule/condition'
import type { Lowered } from '../rule/rules'
import type { Verdict } from '../decide/verdict'
import type { CellDecider } from './cell-decider'
import { AFTER_RULES } from './decisions'
import type { TestClasses } from './test-classes'
import { bothRows, emptyRows, negatedRows, putVerdict, type TruthRows } from './truth-rows'

/** Bits that are kept in all, of tests and conditions, before they are made anew: two hundred megabytes. */
const MOST_BITS = 1.6e9

export class RecordLadder {
  private tests = new Map<string, TruthRows>()
  /** Rows of bits that were made and are still here. */
  private kept = 0
  private conditions = new WeakMap<Condition, TruthRows>()
  /** By group the class of every record. */
  private readonly classes = new WeakMap<TestClasses, Uint32Array>()

  /** @param signature what the inputs' values depend on beside their columns: with another, everything is another */
  constructor(
    private readonly length: number,
    readonly signature: string,
  ) {}

  private makeRoom(): void {
    if (this.kept * 3 * this.length < MOST_BITS) return
    this.kept = 0
    this.tests = new Map()
    this.conditions = new WeakMap()
  }

  /** @param decide by the classes of one record. @returns by record a code (see `decisions`), and how many have each */
  decide(gate: Lowered, groups: readonly TestClasses[], decide: () => CellDecider): { codes: Uint16Array; counts: number[] } {
    this.makeRoom()
    const { length } = this
    const classes = this.classArrays(groups)
    const rules = gate.rules.length
    const codes = new Uint16Array(length)
    const counts = Array<number>(rules + AFTER_RULES.length).fill(0)
    const left = fullBitmap(length).words
    const open = emptyBitmap(length)
    gate.rules.forEach(({ condition }, rule) => {
      const { t, f, n } = this.truths(condition, groups, classes)
      let taken = 0
      for (let word = 0; word < left.length; word++) {
        const possible = left[word]! & t[word]!
        if (possible === 0) continue
        const unsure = possible & (f[word]! | n[word]!)
        open.words[word]! |= unsure
        let sure = possible & ~unsure
        left[word]! &= ~possible
        for (; sure !== 0; sure &= sure - 1) {
          codes[word * 32 + 31 - Math.clz32(sure & -sure)] = rule
          taken++
        }
      }
      counts[rule] = taken
    })
    const rest = rules + AFTER_RULES.indexOf(gate.otherwise ? 'otherwise' : 'unplaced')
    for (const at of placesOf({ length, words: left })) codes[at] = rest
    counts[rest] = countBits({ length, words: left })
    if (open.words.some((word) => word !== 0)) {
      const byClasses = decide()
      const own = new Int32Array(groups.length)
      for (const at of placesOf(open)) {
        for (let group = 0; group < own.length; group++) own[group] = classes[group]![at]!
        const code = byClasses(own)
        codes[at] = code
        counts[code]!++
      }
    }
    return { codes, counts }
  }

  /** By condition, for how many records it is true. */
  countTrue(conditions: readonly Condition[], groups: readonly TestClasses[]): number[] {
    this.makeRoom()
    const classes = this.classArrays(groups)
    return conditions.map((condition) => {
      const { t, f, n } = this.truths(condition, groups, classes)
      return countBits({ length: this.length, words: t.map((word, at) => word & ~f[at]! & ~n[at]!) })
    })
  }

  private truths(condition: Condition, groups: readonly TestClasses[], classes: readonly Uint32Array[]): TruthRows {
    const known = this.conditions.get(condition)
    if (known) return known
    const made = this.made(condition, groups, classes)
    this.conditions.set(condition, made)
    if (condition.kind !== 'test') this.kept++
    return made
  }

  private made(condition: Condition, groups: readonly TestClasses[], classes: readonly Uint32Array[]): TruthRows {
    switch (condition.kind) {
      case 'test':
        return this.ofTest(condition, groups, classes)
      case 'not':
        return negatedRows(this.truths(condition.of, groups, classes))
      default: {
        const parts = condition.of.map((part) => this.truths(part, groups, classes))
        const all = condition.kind === 'all' ? parts : parts.map(negatedRows)
        const both = all.reduce(bothRows, this.always())
        return condition.kind === 'all' ? both : negatedRows(both)
      }
    }
  }

  private classArrays(groups: readonly TestClasses[]): Uint32Array[] {
    return groups.map((group) => {
      const known = this.classes.get(group)
      if (known) return known
      const classes = new Uint32Array(this.length)
      group.addTo(classes, group.verdicts.length, 0)
      this.classes.set(group, classes)
      return classes
    })
  }

  private always(): TruthRows {
    const { words } = fullBitmap(this.length)
    return { t: words, f: new Uint32Array(words.length), n: new Uint32Array(words.length) }
  }

  private ofTest({ text }: Test, groups: readonly TestClasses[], classes: readonly Uint32Array[]): TruthRows {
    const known = this.tests.get(text)
    if (known) return known
    const group = groups.findIndex(({ tests }) => tests.some((test) => test.text === text))
    const at = groups[group]!.tests.findIndex((test) => test.text === text)
    const verdicts = Uint8Array.from(groups[group]!.verdicts, (all: readonly Verdict[]) => all[at]!)
    const made = emptyRows(this.length)
    const own = classes[group]!
    for (let place = 0; place < this.length; place++) putVerdict(made, place, verdicts[own[place]!]!)
    this.tests.set(text, made)
    this.kept++
    return made
  }
}

/** Whether the rows of bits of so many tests and rules can be kept: with more of them every change would make all anew. */
export function hasRoom(tests: number, rules: number, records: number): boolean {
  return (tests + 2 * rules) * 3 * records < MOST_BITS
}

/** Whether records are so different under these groups that cells would not gather them. */
export function isWide(groups: readonly TestClasses[], most: number): boolean {
  return groups.reduce((product, { verdicts }) => product * verdicts.length, 1) > most
}

/** Whether the walk down rows of bits says all: the first rule decides, and results are written out. */
export function canLadder({ hitPolicy, rules, otherwise }: Lowered): boolean {
  return (
    hitPolicy === 'first' &&
    rules.length < 2 ** 16 - AFTER_RULES.length &&
    [...rules.map(({ entries }) => entries), otherwise ?? []].every((entries) => entries.every((entry) => 'value' in entry))
  )
}
