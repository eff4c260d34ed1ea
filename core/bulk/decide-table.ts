/**
 * Every record of a table decided at once; equal, record for record, to `decideRecord`. Tests that look at one thing put
 * each record into a class (`test-classes`), classes together into a cell (`cells`), and each cell is decided once
 * (`cell-decider`). After a change only what it touched is done again.
 */
import { type Bitmap, emptyBitmap, hasBit, setBit } from '../table/bitmap'
import { dictionaryColumn } from '../table/dictionary-column'
import { recordAt, type Table } from '../table/table'
import type { DateValue } from '../value/value'
import { textOfValue } from '../value/value-text'
import { type Condition, conditionText, testsOf, type Test } from '../rule/condition'
import { freeNames } from '../expression/tree'
import { type Completions, completionsOf } from '../rule/completions'
import { type Lowered, type LoweredEntry, NONE } from '../rule/rules'
import { type Decision, decideFacts } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { TRUE, type Verdict, verdictOf } from '../decide/verdict'
import { askedTable, type AskedTable } from './asked-table'
import { BY_RECORD, type CellDecider, cellDecider } from './cell-decider'
import { type Cells, cellsOf, moveRecords, writeClassesOf } from './cells'
import { AFTER_RULES, codeOf, type Decisions, decisionsOf } from './decisions'
import { isMissing } from './input-columns'
import { recordClasses } from './record-classes'
import { type Changed, movedClasses, subjectClasses, type SubjectClasses } from './subject-classes'
import type { TestClasses } from './test-classes'
import { type TestGroup, testGroups } from './test-groups'
import { valueClasses } from './value-classes'

export interface TableDecider {
  decide(gate: Lowered): Decisions
  /** All of the decision for one record. */
  explain(gate: Lowered, at: number): Decision
  /** The records for which one condition is true, whatever the rules before it take. */
  trueFor(gate: Lowered, condition: Condition): Bitmap
}

interface Sorted {
  keys: readonly string[]
  groups: readonly TestClasses[]
  cells: Cells
}

/** Groups whose classes are kept for the next gate. */
const MOST_KEPT = 64

/** Decides one table by gate after gate; what two gates share is done once. */
export function tableDecider(given: Table, today: DateValue): TableDecider {
  const ofRules = new Sorter(given, today)
  const ofConditions = new Sorter(given, today)
  const found = new Map<string, Bitmap>()
  let lastCodes: Codes | null = null
  let decided = 0

  const explain = (gate: Lowered, at: number): Decision => decideFacts(gate, factsOf(gate, recordAt(given, at), today))
  const codesFor = (gate: Lowered, { groups, cells }: Sorted): Codes => {
    const completions = () => completionsOf(gate, today)
    // Cells of combinations that were met by chance mean something else each time.
    const structure = cells.levels.some(({ keys }) => keys) ? null : structureOf(gate, groups, completions)
    const isAlike = structure !== null && lastCodes?.structure === structure && lastCodes.codes.length === cells.count && groups.every(({ verdicts }, at) => verdicts === lastCodes!.verdicts[at])
    // Where only cuts are elsewhere, every cell is decided as before.
    if (!isAlike) lastCodes = { structure, verdicts: groups.map(({ verdicts }) => verdicts), decide: cellDecider(gate, groups, completions), codes: new Int32Array(cells.count).fill(UNKNOWN) }
    return lastCodes!
  }

  return {
    explain,
    trueFor(gate, condition) {
      const key = `${conditionText(condition)}\n${[...inputSignatures(gate).values()].join()}`
      const bits = found.get(key) ?? bitsOf(condition, ofConditions.sort(gate, distinctTests([condition])), given.length)
      found.delete(key)
      found.set(key, bits)
      const [oldest] = found.keys()
      if (found.size > MOST_KEPT) found.delete(oldest!)
      return bits
    },
    decide(gate) {
      const turn = ++decided
      const sorted = ofRules.sort(gate, distinctTests(gate.rules.map(({ condition }) => condition)))
      const { groups, cells } = sorted
      const { decide, codes } = codesFor(gate, sorted)
      const rules = gate.rules.length
      const counts = new Float64Array(rules + AFTER_RULES.length)
      const hasOwn = countCells(cells, codes, counts, decide, new Int32Array(groups.length))
      const { of } = cells
      const byCell = (at: number) => codes[of[at]!]!
      const own = ownDecisions(askedTable(ofRules.tableFor(gate), gate, today), byCell, hasOwn, (at) => explain(gate, at))
      for (const [at, code] of own) {
        const before = byCell(at)
        if (before !== BY_RECORD) counts[before]!--
        counts[code]!++
      }
      return decisionsOf(given.length, rules, [...counts], (at) => {
        if (turn !== decided) throw new Error('these decisions were made before the last ones')
        return own.get(at) ?? byCell(at)
      })
    },
  }
}

/** Counts the records of all cells by what becomes of them, and decides cells that were not met before. @returns whether some must be decided record by record */
function countCells(cells: Cells, codes: Int32Array, counts: Float64Array, decide: CellDecider, classes: Int32Array): boolean {
  const { records } = cells
  let hasOwn = false
  for (let cell = 0; cell < records.length; cell++) {
    if (records[cell] === 0) continue
    if (codes[cell] === UNKNOWN) {
      writeClassesOf(cells, cell, classes)
      codes[cell] = decide(classes)
    }
    const code = codes[cell]!
    if (code === BY_RECORD) hasOwn = true
    else counts[code]! += records[cell]!
  }
  return hasOwn
}

/** Puts the records of a table into cells, for one set of tests after the other. */
class Sorter {
  private readonly kept = new Map<string, TestClasses>()
  private last: Sorted | null = null

  constructor(private readonly given: Table, private readonly today: DateValue) {}

  /** Inputs that nothing is bound to are blank columns from here on. */
  tableFor(gate: Lowered): Table {
    const { given } = this
    const unbound = [...gate.inputs.values()].filter(({ figure, isSet, name }) => !figure && !isSet && !given.columns.has(name))
    if (unbound.length === 0) return given
    const blanks = Array<null>(given.length).fill(null)
    return { length: given.length, columns: new Map([...given.columns, ...unbound.map(({ name, type }) => [name, dictionaryColumn(type, blanks)] as const)]) }
  }

  sort(gate: Lowered, tests: readonly Test[]): Sorted {
    const asked = askedTable(this.tableFor(gate), gate, this.today)
    const found = testGroups(asked, tests)
    const keys = found.map((group) => keyOf(group, asked))
    let moved: Moved | null = null
    let isNew = false
    const groups = found.map((group, at): TestClasses => {
      const before = this.kept.get(keys[at]!)
      let classes = before && hasTests(before, testsIn(group)) ? before : null
      if (!classes) {
        const step = before && 'vector' in before && group.kind === 'subject' ? movedClasses(asked, before as SubjectClasses, group.grouped) : null
        if (step && !moved) moved = { group: at, before: before!, changed: step.changed }
        else isNew = true
        classes = step?.moved ?? classesOf(asked, group, before)
      }
      // Put last again, so that what nobody asked for lately comes first, and goes first.
      this.kept.delete(keys[at]!)
      this.kept.set(keys[at]!, classes)
      return classes
    })
    for (const key of this.kept.keys()) if (this.kept.size > MOST_KEPT && !keys.includes(key)) this.kept.delete(key)
    const isAsBefore = this.last !== null && !isNew && this.last.keys.join('\n\n') === keys.join('\n\n')
    const cells = isAsBefore ? cellsAfter(this.last!, groups, moved) : null
    this.last = { keys, groups, cells: cells ?? cellsOf(groups, this.given.length) }
    return this.last
  }
}

/** A group that is what it was but for where its cuts are. */
interface Moved {
  group: number
  before: TestClasses
  changed: Changed
}

/** What two gates must have in common for their records to be in the same classes: what the tests look at, and how. */
function keyOf(group: TestGroup, { gate, givenBehind }: AskedTable): string {
  const signatures = inputSignatures(gate)
  const inputs = testsIn(group).flatMap((test) => test.inputs)
  return `${group.key}\n${[...givenBehind(inputs), ...inputs].map((name) => signatures.get(name) ?? '').join()}`
}

function bitsOf(condition: Condition, { groups, cells }: Sorted, length: number): Bitmap {
  const places = new Map(groups.flatMap(({ tests }, group) => tests.map(({ text }, at) => [text, { group, at }] as const)))
  const classes = new Int32Array(groups.length)
  const verdict = ({ text }: Test): Verdict => {
    const { group, at } = places.get(text)!
    return groups[group]!.verdicts[classes[group]!]![at]!
  }
  const isTrue = Uint8Array.from({ length: cells.count }, (_, cell) => {
    if (cells.records[cell] === 0) return 0
    writeClassesOf(cells, cell, classes)
    return Number(verdictOf(condition, verdict) === TRUE)
  })
  const bits = emptyBitmap(length)
  for (let at = 0; at < length; at++) if (isTrue[cells.of[at]!] === 1) setBit(bits, at)
  return bits
}

/** Codes by cell, and who makes them when they are first asked for. */
interface Codes {
  structure: string | null
  verdicts: readonly unknown[]
  decide: CellDecider
  codes: Int32Array
}

const UNKNOWN = -2

/** What decides a cell, apart from the cuts of the tests: where this is the same, cells of the same classes are decided the same. */
function structureOf(gate: Lowered, groups: readonly TestClasses[], completions: () => ReadonlyMap<string, Completions>): string {
  const places = new Map(groups.flatMap(({ tests }, group) => tests.map(({ text }, at) => [text, `${group}.${at}`] as const)))
  const shape = (condition: Condition): unknown => (condition.kind === 'test' ? places.get(condition.text) : condition.kind === 'not' ? { not: shape(condition.of) } : { [condition.kind]: condition.of.map(shape) })
  const entries = (all: readonly LoweredEntry[] | null) => all?.map((entry) => ('value' in entry ? textOfValue(entry.value) : { tree: entry.tree }))
  // Between the same cuts lie the same ways, but for rounded values, of which there may be none.
  const open = [...new Set(groups.flatMap(({ open }) => open.flat()))].filter((input) => gate.inputs.get(input)!.precision.kind !== 'as measured')
  return JSON.stringify([
    gate.hitPolicy, gate.outcomes, gate.rules.map((rule) => [shape(rule.condition), entries(rule.entries)]), entries(gate.otherwise),
    open.map((input) => completions().get(input)!.ways),
  ])
}

function cellsAfter({ groups: before, cells }: Sorted, groups: readonly TestClasses[], moved: Moved | null): Cells | null {
  const isSame = groups.every((group, at) => group === before[at] || at === moved?.group)
  if (!isSame) return null
  if (!moved) return cells
  return moved.before === before[moved.group] && moveRecords(cells, moved.group, moved.changed) ? cells : null
}

function classesOf(asked: AskedTable, group: TestGroup, before: TestClasses | undefined): TestClasses {
  if (group.kind === 'values') return valueClasses(asked, group.column, group.tests)
  if (group.kind === 'records') return recordClasses(asked, group.tests)
  const known = before && 'vector' in before ? (before as SubjectClasses).vector : null
  const vector = known ?? asked.vectors.of(group.subject)
  return vector ? subjectClasses(asked, group.subject, group.grouped, vector) : recordClasses(asked, testsIn(group))
}

function testsIn(group: TestGroup): readonly Test[] {
  return group.kind === 'subject' ? group.grouped.map(({ test }) => test) : group.tests
}

function hasTests({ tests }: TestClasses, wanted: readonly Test[]): boolean {
  return tests.length === wanted.length && tests.every(({ text }, at) => text === wanted[at]!.text)
}

function distinctTests(conditions: readonly Condition[]): Test[] {
  return [...new Map(conditions.flatMap((condition) => testsOf(condition)).map((test) => [test.text, test])).values()]
}

/** What an input's values depend on beside its column, so that a changed precision or figure is a different test. */
function inputSignatures({ inputs }: Lowered): Map<string, string> {
  const signatures = new Map<string, string>()
  for (const [name, input] of inputs) {
    const own = JSON.stringify([input.precision, input.blank === 'pass', input.source])
    // A figure depends on other inputs, which come before it.
    signatures.set(name, input.figure ? own + [...signatures.values()].join() : own)
  }
  return signatures
}

/** The decisions of records that their cell does not decide: results that are computed can be open, or the same although they are written differently. */
function ownDecisions(asked: AskedTable, codeAt: (at: number) => number, hasOwn: boolean, explain: (at: number) => Decision): ReadonlyMap<number, number> {
  const { gate, table } = asked
  const own = new Map<number, number>()
  const rules = gate.rules.length
  const canBeOpen = [...gate.rules.map(({ entries }) => entries), gate.otherwise ?? []].map((entries) => openness(entries, asked))
  if (!hasOwn && canBeOpen.every((one) => one === null)) return own
  for (let at = 0; at < table.length; at++) {
    const code = codeAt(at)
    const isDecided = code >= 0 && (code < rules || code === codeOf('otherwise', NONE, rules))
    if (code !== BY_RECORD && !(isDecided && canBeOpen[Math.min(code, rules)]?.(at))) continue
    const { status, rule } = explain(at)
    own.set(at, codeOf(status, rule, rules))
  }
  return own
}

/** Tells where results that are computed may be open; null where they never are. */
function openness(entries: readonly LoweredEntry[], { gate, table, vectors, givenBehind }: AskedTable): ((at: number) => boolean) | null {
  const names = entries.flatMap((entry) => ('tree' in entry ? freeNames(entry.tree) : []))
  if (names.length === 0) return null
  const given = givenBehind(names)
  // A figure can come to nothing although nothing is missing.
  const figures = names.filter((name) => gate.inputs.get(name)?.figure).map((name) => vectors.input(name)?.valid ?? null)
  return (at) => given.some((name) => isMissing(table, name, at)) || figures.some((valid) => !valid || !hasBit(valid, at))
}
