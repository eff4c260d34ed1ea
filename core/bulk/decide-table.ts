/**
 * Every record of a table decided at once; equal, record for record, to `decideRecord`. Tests that look at one thing put
 * each record into a class (`test-classes`), classes together into a cell (`cells`), and each cell is decided once
 * (`cell-decider`). After a change only what it touched is done again.
 */
import { type Bitmap, emptyBitmap, hasBit, setBit } from '../table/bitmap'
import { dictionaryColumn } from '../table/dictionary-column'
import { recordAt, type Table } from '../table/table'
import type { DateValue } from '../value/value'
import { type Condition, testsOf, type Test } from '../rule/condition'
import { freeNames } from '../expression/tree'
import { completionsOf } from '../rule/completions'
import { type Lowered, type LoweredEntry, NONE } from '../rule/rules'
import { type Decision, decideFacts } from '../decide/decide-record'
import { factsOf } from '../decide/facts'
import { TRUE, verdictOf } from '../decide/verdict'
import { askedTable, type AskedTable } from './asked-table'
import { BY_RECORD, cellDecider } from './cell-decider'
import { type Cells, cellsOf, movedCells, writeClassesOf } from './cells'
import { AFTER_RULES, codeOf, type Decisions, decisionsOf } from './decisions'
import { isMissing } from './input-columns'
import { recordClasses } from './record-classes'
import { movedClasses, subjectClasses, type SubjectClasses } from './subject-classes'
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

/** Classes that are kept for the next gate, in bytes of a record each. */
const MOST_KEPT = 64

/** Decides one table by gate after gate; what two gates share is done once. */
export function tableDecider(given: Table, today: DateValue): TableDecider {
  const kept = new Map<string, TestClasses>()
  let last: Sorted | null = null

  /** Inputs that nothing is bound to are blank columns from here on. */
  const tableFor = (gate: Lowered): Table => {
    const unbound = [...gate.inputs.values()].filter(({ figure, isSet, name }) => !figure && !isSet && !given.columns.has(name))
    if (unbound.length === 0) return given
    const blanks = Array<null>(given.length).fill(null)
    return { length: given.length, columns: new Map([...given.columns, ...unbound.map(({ name, type }) => [name, dictionaryColumn(type, blanks)] as const)]) }
  }

  const sort = (gate: Lowered, tests: readonly Test[]): Sorted => {
    const asked = askedTable(tableFor(gate), gate, today)
    const signatures = inputSignatures(gate)
    const found = testGroups(asked, tests)
    const keys = found.map((group) => `${group.key}\n${asked.givenBehind(testsIn(group).flatMap(({ inputs }) => inputs)).concat(testsIn(group).flatMap(({ inputs }) => inputs)).map((name) => signatures.get(name) ?? '').join()}`)
    let moved: { group: number; before: TestClasses; changed: Int32Array } | null = null
    let isNew = false
    const groups = found.map((group, at): TestClasses => {
      const before = kept.get(keys[at]!)
      kept.delete(keys[at]!)
      let classes = before && hasTests(before, testsIn(group)) ? before : null
      if (!classes) {
        const step = before && 'vector' in before && group.kind === 'subject' ? movedClasses(before as SubjectClasses, group.grouped) : null
        if (step && !moved && !isNew) moved = { group: at, before: before!, changed: step.changed }
        else isNew = true
        classes = step?.moved ?? classesOf(asked, group, before)
      }
      kept.set(keys[at]!, classes)
      return classes
    })
    forgetOldest(kept)
    const isAsBefore = last !== null && !isNew && last.keys.join('\n\n') === keys.join('\n\n')
    const cells = isAsBefore ? cellsAfter(last!, groups, moved) : null
    last = { keys, groups, cells: cells ?? cellsOf(groups, given.length) }
    return last
  }

  const explain = (gate: Lowered, at: number): Decision => decideFacts(gate, factsOf(gate, recordAt(given, at), today))

  return {
    explain,
    trueFor(gate, condition) {
      const { groups, cells } = sort(gate, distinctTests([condition]))
      const places = new Map(groups.flatMap(({ tests }, group) => tests.map(({ text }, at) => [text, { group, at }] as const)))
      const classes = new Int32Array(groups.length)
      const isTrue = Uint8Array.from({ length: cells.count }, (_, cell) => {
        if (cells.records[cell] === 0) return 0
        writeClassesOf(cells, cell, classes)
        return Number(verdictOf(condition, ({ text }) => groups[places.get(text)!.group]!.verdicts[classes[places.get(text)!.group]!]![places.get(text)!.at]!) === TRUE)
      })
      const found = emptyBitmap(given.length)
      for (let at = 0; at < given.length; at++) if (isTrue[cells.of[at]!] === 1) setBit(found, at)
      return found
    },
    decide(gate) {
      const { groups, cells } = sort(gate, distinctTests(gate.rules.map(({ condition }) => condition)))
      const decide = cellDecider(gate, groups, completionsOf(gate, today))
      const rules = gate.rules.length
      const codes = new Int32Array(cells.count)
      const counts = Array<number>(rules + AFTER_RULES.length).fill(0)
      const classes = new Int32Array(groups.length)
      let hasOwn = false
      for (let cell = 0; cell < codes.length; cell++) {
        const records = cells.records[cell]!
        if (records === 0) continue
        writeClassesOf(cells, cell, classes)
        const code = (codes[cell] = decide(classes))
        if (code === BY_RECORD) hasOwn = true
        else counts[code]! += records
      }
      const { of } = cells
      const own = ownDecisions(askedTable(tableFor(gate), gate, today), (at) => codes[of[at]!]!, hasOwn, (at) => explain(gate, at))
      for (const [at, code] of own) {
        const before = codes[of[at]!]!
        if (before !== BY_RECORD) counts[before]!--
        counts[code]!++
      }
      return decisionsOf(given.length, rules, counts, own.size === 0 ? (at) => codes[of[at]!]! : (at) => own.get(at) ?? codes[of[at]!]!)
    },
  }
}

function cellsAfter({ groups: before, cells }: Sorted, groups: readonly TestClasses[], moved: { group: number; before: TestClasses; changed: Int32Array } | null): Cells | null {
  const isSame = groups.every((group, at) => group === before[at] || at === moved?.group)
  if (!isSame) return null
  if (!moved) return cells
  return moved.before === before[moved.group] ? movedCells(cells, moved.group, moved.before.classes, groups[moved.group]!.classes, moved.changed) : null
}

/** What two gates share is kept; what nobody asked for lately goes first. */
function forgetOldest(kept: Map<string, TestClasses>): void {
  let bytes = [...kept.values()].reduce((total, { classes }) => total + classes.BYTES_PER_ELEMENT, 0)
  for (const [key, { classes }] of kept) {
    if (bytes <= MOST_KEPT) return
    bytes -= classes.BYTES_PER_ELEMENT
    kept.delete(key)
  }
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
