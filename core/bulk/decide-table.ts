/**
 * Every record of a table decided at once; equal, record for record, to `decideRecord`. Tests that look at one thing put
 * each record into a class (`test-classes`), classes together into a cell (`cells`), and each cell is decided once
 * (`cell-decider`). After a change only what it touched is done again.
 */
import { type Bitmap, emptyBitmap, setBit } from '../table/bitmap'
import { recordAt, type Table } from '../table/table'
import { Remembered } from '../value/remembered'
import type { DateValue } from '../value/value'
import { textOfValue } from '../value/value-text'
import { type Condition, conditionText, type Test } from '../rule/condition'
import { type Completions, completionsOf, openIn } from '../rule/completions'
import type { Lowered, LoweredEntry } from '../rule/rules'
import { type Decision, decideFacts } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { TRUE, type Verdict, verdictOf } from '../decide/verdict'
import { askedTable } from './asked-table'
import { BY_RECORD, cellDecider, firstDecider, type ReachingDecider } from './cell-decider'
import { type Cells, MOST_UNSEEN, writeClassesOf } from './cells'
import { AFTER_RULES, type Decisions, decisionsOf } from './decisions'
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
  const codesFor = (gate: Lowered, { groups, cells }: Sorted): Codes => {
    const completions = () => completionsOf(gate, today)
    // Cells of combinations that were met by chance mean something else each time.
    const structure = cells.levels.some(({ keys }) => keys) ? null : structureOf(gate, groups, cells, completions)
    const isFramed = structure !== null && lastCodes?.structure?.frame === structure.frame && groups.every(({ verdicts }, at) => goesOn(lastCodes!.verdicts[at]!, verdicts))
    const from = isFramed ? firstOther(lastCodes!.structure!.rules, structure.rules) : 0
    // Where only cuts are elsewhere, every cell is decided as before; classes that came on the way make cells of their own.
    const isAlike = isFramed && from === Infinity
    const isSame = isAlike && groups.every(({ verdicts }, at) => verdicts === lastCodes!.verdicts[at])
    if (isSame) return lastCodes!
    const kept = isAlike ? lastCodes! : { ...(from > 0 ? above(lastCodes!, from, gate.rules.length) : unknownCodes(cells.count)), counts: null, hasOwn: false }
    lastCodes = { ...kept, structure, verdicts: groups.map(({ verdicts }) => verdicts), decider: cellDecider(gate, groups, completions) }
    return lastCodes
  }

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
      const made = codesFor(gate, sorted)
      const { codes } = made
      count(made, sorted, rules)
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

/** Counts records by what becomes of their cells, and decides cells that were not met before; after some moved, only these. */
function count(made: Codes, { cells, groups, moves }: Sorted, rules: number): void {
  const { codes, reached, decider } = made
  const classes = new Int32Array(groups.length)
  const codeOf = (cell: number): number => {
    if (codes[cell] === UNKNOWN) {
      writeClassesOf(cells, cell, classes)
      codes[cell] = decider.decide(classes)
      reached[cell] = decider.reached
    }
    return codes[cell]!
  }
  if (!made.counts || !moves || made.hasOwn) {
    made.counts = new Float64Array(rules + AFTER_RULES.length)
    made.hasOwn = false
    const { records } = cells
    for (let cell = 0; cell < records.length; cell++) {
      if (records[cell] === 0) continue
      const code = codeOf(cell)
      if (code === BY_RECORD) made.hasOwn = true
      else made.counts[code]! += records[cell]!
    }
    return
  }
  const { counts } = made
  for (let index = 0; index < moves.from.length; index++) {
    counts[codes[moves.from[index]!]!]!--
    const code = codeOf(moves.to[index]!)
    if (code === BY_RECORD) made.hasOwn = true
    else counts[code]!++
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

/** Whether classes are those that were there before, and maybe more behind them. */
function goesOn(before: TestClasses['verdicts'], after: TestClasses['verdicts']): boolean {
  return before === after || (before.length <= after.length && before.every((one, place) => one === after[place]))
}

/** Codes by cell, and who makes them when they are first asked for. */
interface Codes {
  structure: Structure | null
  verdicts: readonly TestClasses['verdicts'][]
  decider: ReachingDecider
  codes: Int32Array
  /** By cell how far down the rules its decision looked. */
  reached: Int32Array
  /** Records by code; null before they were counted. */
  counts: Float64Array | null
  /** Whether some must be decided record by record. */
  hasOwn: boolean
}

const UNKNOWN = -2

type KnownCodes = Pick<Codes, 'codes' | 'reached'>

const unknownCodes = (cells: number): KnownCodes => ({ codes: new Int32Array(cells).fill(UNKNOWN), reached: new Int32Array(cells) })

/** Cells that were decided above the rule `from` stay what they are, whatever the rules from there on are now. @param rules how many there are now */
function above({ codes, reached, structure }: Codes, from: number, rules: number): KnownCodes {
  const before = structure!.rules.length
  return { codes: codes.map((code, cell) => (reached[cell]! >= from ? UNKNOWN : code < before ? code : code + rules - before)), reached }
}

/** The first rule that is another than it was; none where all of them are the same. */
function firstOther(before: readonly string[], now: readonly string[]): number {
  const other = now.findIndex((rule, at) => rule !== before[at])
  return other >= 0 ? other : now.length < before.length ? now.length : Infinity
}

/** What decides a cell, apart from the cuts of the tests: where this is the same, cells of the same classes are decided the same. */
interface Structure {
  /** All but the rules. */
  frame: string
  rules: string[]
}

function structureOf(gate: Lowered, groups: readonly TestClasses[], { levels }: Cells, completions: () => ReadonlyMap<string, Completions>): Structure {
  const places = new Map(groups.flatMap(({ tests }, group) => tests.map(({ text }, at) => [text, `${group}.${at}`] as const)))
  const shape = (condition: Condition): unknown => (condition.kind === 'test' ? places.get(condition.text) : condition.kind === 'not' ? { not: shape(condition.of) } : { [condition.kind]: condition.of.map(shape) })
  const entries = (all: readonly LoweredEntry[] | null) => all?.map((entry) => ('value' in entry ? textOfValue(entry.value) : { tree: entry.tree }))
  const allOpen = [...new Set(groups.flatMap(({ open }) => open.flat()))]
  // What an open input could come to are the classes in use; but for rounded values, of which there may be none between two cuts.
  const open = allOpen.filter((input) => gate.inputs.get(input)!.precision.kind !== 'as measured')
  const frame = [
    gate.hitPolicy, gate.outcomes, entries(gate.otherwise),
    open.length > 0 && openIn(completions(), open).map(({ input, ways }) => [input, ways]), allOpen.length > 0 && groups.map(({ inUse }) => inUse), levels.map(({ classes }) => classes),
  ]
  return { frame: JSON.stringify(frame), rules: gate.rules.map((rule) => JSON.stringify([shape(rule.condition), entries(rule.entries)])) }
}

