/**
 * What becomes of each cell of a table, kept from gate to gate: while cuts alone are elsewhere all of it stays, and where rules are
 * others, what was decided above the first of them.
 */
import { type Completions, openIn } from '../rule/completions'
import type { Condition } from '../rule/condition'
import type { Lowered, LoweredEntry } from '../rule/rules'
import { textOfValue } from '../value/value-text'
import { BY_RECORD, cellDecider, type ReachingDecider } from './cell-decider'
import { type Cells, writeClassesOf } from './cells'
import { AFTER_RULES } from './decisions'
import type { Sorted } from './sorter'
import type { TestClasses } from './test-classes'

/** Codes by cell, and who makes them when they are first asked for. */
export interface Codes {
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

/** @param last of the gate before; null where nothing of it holds any more */
export function codesFor(
  last: Codes | null,
  gate: Lowered,
  { groups, cells }: Sorted,
  completions: () => ReadonlyMap<string, Completions>,
): Codes {
  // Cells of combinations that were met by chance mean something else each time.
  const structure = cells.levels.some(({ keys }) => keys) ? null : structureOf(gate, groups, cells, completions)
  const isFramed =
    structure !== null && last?.structure?.frame === structure.frame && groups.every(({ verdicts }, at) => goesOn(last.verdicts[at]!, verdicts))
  const from = isFramed ? firstOther(last!.structure!.rules, structure.rules) : 0
  // Where only cuts are elsewhere, every cell is decided as before; classes that came on the way make cells of their own.
  const isAlike = isFramed && from === Infinity
  if (isAlike && groups.every(({ verdicts }, at) => verdicts === last!.verdicts[at])) return last!
  const own = { structure, verdicts: groups.map(({ verdicts }) => verdicts), decider: cellDecider(gate, groups, completions) }
  if (isAlike) return { ...last!, ...own }
  return { ...(from > 0 ? above(last!, from, gate.rules.length) : unknownCodes(cells.count)), ...own, counts: null, hasOwn: false }
}

/** Counts records by what becomes of their cells, and decides cells that were not met before; after some moved, only these. */
export function countCodes(made: Codes, { cells, groups, moves }: Sorted, rules: number): void {
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

/** Whether classes are those that were there before, and maybe more behind them. */
function goesOn(before: TestClasses['verdicts'], after: TestClasses['verdicts']): boolean {
  return before === after || (before.length <= after.length && before.every((one, place) => one === after[place]))
}
