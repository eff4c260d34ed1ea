/**
 * The records of a table decided rule by rule, where they are so different that nearly each would be a cell of its own. Every
 * test is a row of bits over the records, and so is every condition; rules take theirs from what is left. After a change
 * of one test that test and its condition are done again, and the walk down the rules from there on. Where blanks leave a rule open
 * before one is sure, the record is decided by its classes.
 */
import { isSame } from '../gate/is-same'
import { type Bitmap, countBits, emptyBitmap, fullBitmap, hasBit, placesOf, setBit } from '../table/bitmap'
import type { Condition, Test } from '../rule/condition'
import type { Lowered } from '../rule/rules'
import { type FirstDecider, verdictsAt } from './cell-decider'
import { AFTER_RULES } from './decisions'
import type { TestClasses } from './test-classes'
import { bothRows, emptyRows, negatedRows, putVerdict, type TruthRows } from './truth-rows'

/** Bits that are kept in all, of tests and conditions, before they are made anew: two hundred megabytes. */
const MOST_BITS = 1.6e9

/** No rule was unsure of a record. */
const SURE = 0xffff

/** How records came down the rules of a gate. By record: */
interface Walked {
  gate: Lowered
  codes: Uint16Array
  /** How far down its decision looked: the rules behind change nothing of it. */
  reached: Uint16Array
  /** The first rule that blanks left open; SURE where none did. */
  unsure: Uint16Array
  /** Whether so much was open that what it could be was not tried. */
  tooOpen: Bitmap
}

export class RecordLadder {
  private last: Walked | null = null
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

  /** @param decider by the classes of one record. @returns by record a code (see `decisions`), and how many have each */
  decide(gate: Lowered, groups: readonly TestClasses[], decider: () => FirstDecider): { codes: Uint16Array; counts: number[] } {
    this.makeRoom()
    const { length } = this
    const classes = this.classArrays(groups)
    const rules = gate.rules.length
    const from = this.last ? firstOther(this.last.gate, gate) : 0
    const now: Walked = { gate, codes: new Uint16Array(length), reached: new Uint16Array(length), unsure: new Uint16Array(length).fill(SURE), tooOpen: emptyBitmap(length) }
    const counts = Array<number>(rules + AFTER_RULES.length).fill(0)
    const { codes, reached, unsure } = now
    const left = from > 0 ? emptyBitmap(length).words : fullBitmap(length).words
    const open = emptyBitmap(length)
    let byClasses: FirstDecider | null = null
    const own = new Int32Array(groups.length)
    const classesAt = (at: number) => {
      for (let group = 0; group < own.length; group++) own[group] = classes[group]![at]!
      return own
    }
    if (from > 0) this.takeOver(now, from, counts, left, open, (at) => (byClasses ??= decider()).isTooOpen(classesAt(at)))
    for (let rule = from; rule < rules; rule++) {
      const { t, f, n } = this.truths(gate.rules[rule]!.condition, groups, classes)
      let taken = 0
      for (let word = 0; word < left.length; word++) {
        const possible = left[word]! & t[word]!
        if (possible === 0) continue
        let unsureNow = possible & (f[word]! | n[word]!)
        open.words[word]! |= unsureNow
        let sure = possible & ~unsureNow
        left[word]! &= ~possible
        for (; sure !== 0; sure &= sure - 1) {
          const at = word * 32 + 31 - Math.clz32(sure & -sure)
          codes[at] = rule
          reached[at] = rule
          taken++
        }
        for (; unsureNow !== 0; unsureNow &= unsureNow - 1) unsure[word * 32 + 31 - Math.clz32(unsureNow & -unsureNow)] = rule
      }
      counts[rule]! += taken
    }
    const rest = rules + AFTER_RULES.indexOf(gate.otherwise ? 'otherwise' : 'unplaced')
    for (const at of placesOf({ length, words: left })) {
      codes[at] = rest
      reached[at] = rules
    }
    counts[rest]! += countBits({ length, words: left })
    for (const at of placesOf(open)) {
      byClasses ??= decider()
      const code = byClasses.decide(classesAt(at))
      codes[at] = code
      reached[at] = byClasses.reached
      if (byClasses.isTooOpen(own)) setBit(now.tooOpen, at)
      counts[code]!++
    }
    this.last = now
    return { codes, counts }
  }

  /**
   * Records that were decided before the first rule that is another now stay what they are; the others are left to the
   * rules from there on, or open where one before was unsure of them.
   */
  private takeOver(now: Walked, from: number, counts: number[], left: Uint32Array, open: Bitmap, isTooOpen: (at: number) => boolean): void {
    const last = this.last!
    const { codes, reached, unsure, tooOpen } = last
    const more = now.gate.rules.length - last.gate.rules.length
    for (let at = 0; at < codes.length; at++) {
      const isOpen = unsure[at] !== SURE
      if (reached[at]! < from && (!isOpen || hasBit(tooOpen, at) === isTooOpen(at))) {
        const code = codes[at]! < from ? codes[at]! : codes[at]! + more
        now.codes[at] = code
        now.reached[at] = reached[at]!
        counts[code]!++
        if (!isOpen) continue
        now.unsure[at] = unsure[at]!
        if (hasBit(tooOpen, at)) setBit(now.tooOpen, at)
      } else if (unsure[at]! < from) {
        now.unsure[at] = unsure[at]!
        setBit(open, at)
      } else left[at >>> 5]! |= 1 << (at & 31)
    }
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
    const verdicts = verdictsAt(groups[group]!.verdicts, at)
    const made = emptyRows(this.length)
    const own = classes[group]!
    for (let place = 0; place < this.length; place++) putVerdict(made, place, verdicts[own[place]!]!)
    this.tests.set(text, made)
    this.kept++
    return made
  }
}

/** The first rule that is another than it was; of all rules where blanks could be anything else. */
function firstOther(before: Lowered, now: Lowered): number {
  const expected = ({ inputs }: Lowered) => [...inputs.values()].map((input) => input.expected)
  if (before === now || !isSame(expected(before), expected(now))) return 0
  const other = now.rules.findIndex(({ condition, entries }, rule) => condition !== before.rules[rule]?.condition || !isSame(entries, before.rules[rule]!.entries))
  return other === -1 ? Math.min(now.rules.length, before.rules.length) : other
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
