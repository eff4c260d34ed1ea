/**
 * Every record of a table decided at once; equal, record for record, to `decideRecord`. Tests that look at one thing put
 * each record into a class (`test-classes`), classes together into a cell (`cells`), and each cell is decided once
 * (`cell-decider`). After a change only what it touched is done again.
 */
import { type Bitmap, emptyBitmap, setBit } from '../table/bitmap'
import { recordAt, type Table } from '../table/table'
import { Remembered } from '../value/remembered'
import type { DateValue } from '../value/value'
import { type Condition, conditionText, type Test } from '../rule/condition'
import { completionsOf } from '../rule/completions'
import type { Lowered } from '../rule/rules'
import { type Decision, decideFacts } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { TRUE, type Verdict, verdictOf } from '../decide/verdict'
import { askedTable } from './asked-table'
import { type Codes, codesFor, countCodes } from './cell-codes'
import { BY_RECORD, firstDecider } from './cell-decider'
import { MOST_UNSEEN, writeClassesOf } from './cells'
import { type Decisions, decisionsOf } from './decisions'
import { ownDecisions } from './own-decisions'
import { canLadder, hasRoom, isWide, RecordLadder } from './record-ladder'
import { distinctTests, inputSignatures, MOST_KEPT, type Sorted, Sorter } from './sorter'
import type { TestClasses } from './test-classes'

export interface TableDecider {
  decide(gate: Lowered): Decisions
  /** All of the decision for one record. */
  explain(gate: Lowered, at: number): Decision
  /** The records for which one condition is true, whatever the rules before it take. */
  trueFor(gate: Lowered, condition: Condition): Bitmap
  /** For how many records each condition is true. @param about what most of them ask about: its classes are kept from call to call */
  countTrue(gate: Lowered, about: string, conditions: readonly Condition[]): number[]
  /** The records for which a condition is true that is made of the tests of those conditions, which were counted just so before: they are in their classes already. */
  trueAmong(gate: Lowered, about: string, conditions: readonly Condition[], wanted: Condition): Bitmap
  /** By rule, for how many records its condition is true, whatever the rules before it take. */
  alone(gate: Lowered): number[]
}

/** Counts that are kept; a number each. */
const MOST_COUNTED = 20_000

/**
 * Decides one table by gate after gate; what two gates share is done once.
 * @param widest combinations of classes up to which records are gathered in cells
 */
export function tableDecider(given: Table, today: DateValue, widest = MOST_UNSEEN): TableDecider {
  const ofRules = new Sorter(given, today)
  const ofConditions = new Sorter(given, today)
  const counters = new Map<string, Sorter>()
  const found = new Remembered<Bitmap>(MOST_KEPT)
  /** By condition, for how many records it is true, as long as the inputs stay what they are. */
  let counted = { inputs: '', of: new Map<string, number>() }
  let ladder: RecordLadder | null = null
  let lastCodes: Codes | null = null
  let decided = 0
  let lastDecided: Lowered | null = null

  const ladderFor = (gate: Lowered): RecordLadder => {
    const signature = [...inputSignatures(gate).values()].join()
    if (ladder?.signature !== signature) ladder = new RecordLadder(given.length, signature)
    return ladder
  }
  const isTooWide = (gate: Lowered, tests: readonly Test[]) => (groups: readonly TestClasses[]): boolean =>
    canLadder(gate) && isWide(groups, widest) && hasRoom(tests.length, gate.rules.length, given.length)
  const explain = (gate: Lowered, at: number): Decision => decideFacts(gate, factsOf(gate, recordAt(given, at), today))
  const sortedAbout = (gate: Lowered, about: string, conditions: readonly Condition[]): Sorted => {
    if (!counters.has(about)) counters.set(about, new Sorter(given, today))
    return counters.get(about)!.sort(gate, distinctTests(conditions))
  }

  return {
    explain,
    trueFor(gate, condition) {
      const key = `${conditionText(condition)}\n${[...inputSignatures(gate).values()].join()}`
      return found.of(key, () => bitsOf(condition, ofConditions.sort(gate, distinctTests([condition])), given.length))
    },
    countTrue(gate, about, conditions) {
      const inputs = [...inputSignatures(gate).values()].join()
      if (counted.inputs !== inputs || counted.of.size > MOST_COUNTED) counted = { inputs, of: new Map() }
      const { of } = counted
      const news = conditions.filter((condition) => !of.has(conditionText(condition)))
      // While one cut moves, all others are where they were.
      const counts = news.length === conditions.length ? trueByCell(news, sortedAbout(gate, about, news)) : news.length > 0 ? trueByCell(news, ofConditions.sort(gate, distinctTests(news))) : []
      news.forEach((condition, at) => of.set(conditionText(condition), counts[at]!))
      return conditions.map((condition) => of.get(conditionText(condition))!)
    },
    trueAmong: (gate, about, conditions, wanted) => bitsOf(wanted, sortedAbout(gate, about, conditions), given.length),
    alone(gate) {
      const conditions = gate.rules.map(({ condition }) => condition)
      // What moves on the way to another gate is not told to the next that is decided, which is counted anew.
      if (gate !== lastDecided) lastCodes = null
      const tests = distinctTests(conditions)
      const sorted = ofRules.sortUnless(gate, tests, isTooWide(gate, tests))
      return sorted.cells ? trueByCell(conditions, sorted) : ladderFor(gate).countTrue(conditions, sorted.groups)
    },
    decide(gate) {
      const turn = ++decided
      lastDecided = gate
      const tests = distinctTests(gate.rules.map(({ condition }) => condition))
      const sorted = ofRules.sortUnless(gate, tests, isTooWide(gate, tests))
      const { cells, groups } = sorted
      if (!cells) {
        const { codes, counts } = ladderFor(gate).decide(gate, groups, () => firstDecider(gate, groups, () => completionsOf(gate, today)))
        return decisionsOf(given.length, gate.rules.length, counts, (at) => codes[at]!)
      }
      const rules = gate.rules.length
      const made = (lastCodes = codesFor(lastCodes, gate, sorted, () => completionsOf(gate, today)))
      const { codes } = made
      countCodes(made, sorted, rules)
      const counts = made.counts!.slice()
      const { of } = cells
      const byCell = (at: number) => codes[of[at]!]!
      const own = ownDecisions(askedTable(ofRules.tableFor(gate), gate, today), byCell, made.hasOwn, (at) => explain(gate, at))
      for (const [at, code] of own) {
        const before = byCell(at)
        if (before !== BY_RECORD) counts[before]!--
        counts[code]!++
      }
      return decisionsOf(given.length, rules, [...counts], (at) => {
        if (turn !== decided) throw new Error('these decisions were made before the last ones')
        return own.size === 0 ? byCell(at) : (own.get(at) ?? byCell(at))
      })
    },
  }
}

function bitsOf(condition: Condition, sorted: Sorted, length: number): Bitmap {
  const { cells } = sorted
  const isTrue = new Uint8Array(cells.count)
  eachCell(sorted, (cell, verdict) => void (isTrue[cell] = Number(verdictOf(condition, verdict) === TRUE)))
  const bits = emptyBitmap(length)
  for (let at = 0; at < length; at++) if (isTrue[cells.of[at]!] === 1) setBit(bits, at)
  return bits
}

function trueByCell(conditions: readonly Condition[], sorted: Sorted): number[] {
  const counts = conditions.map(() => 0)
  eachCell(sorted, (cell, verdict) => conditions.forEach((condition, at) => {
    if (verdictOf(condition, verdict) === TRUE) counts[at]! += sorted.cells.records[cell]!
  }))
  return counts
}

/** Hands over each cell that has a record, with what tests come to in it. */
function eachCell({ groups, cells }: Sorted, use: (cell: number, verdict: (test: Test) => Verdict) => void): void {
  const places = new Map(groups.flatMap(({ tests }, group) => tests.map(({ text }, at) => [text, { group, at }] as const)))
  const classes = new Int32Array(groups.length)
  const verdict = ({ text }: Test): Verdict => {
    const { group, at } = places.get(text)!
    return groups[group]!.verdicts[classes[group]!]![at]!
  }
  for (let cell = 0; cell < cells.count; cell++) {
    if (cells.records[cell] === 0) continue
    writeClassesOf(cells, cell, classes)
    use(cell, verdict)
  }
}
