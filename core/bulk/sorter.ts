/** The records of a table in cells, for one set of tests after the other: what two sets share is done once. */
import { dictionaryColumn } from '../table/dictionary-column'
import type { Table } from '../table/table'
import type { DateValue } from '../value/value'
import { type Condition, type Test, testsOf } from '../rule/condition'
import type { Lowered } from '../rule/rules'
import { askedTable, type AskedTable } from './asked-table'
import { type CellMoves, type Cells, cellsOf, moveRecords, NO_MOVES } from './cells'
import { recordClasses } from './record-classes'
import { movedClasses, subjectClasses, type SubjectClasses } from './subject-classes'
import type { Changed, TestClasses } from './test-classes'
import { type GroupedSubject, subjectTest } from './subject-tests'
import { type TestGroup, testGroups } from './test-groups'
import { movedValues, valueClasses, type ValueClasses } from './value-classes'

export interface Sorted {
  keys: readonly string[]
  groups: readonly TestClasses[]
  cells: Cells
  /** What changed since the records were put into cells for the last set of tests; null where they were put anew. */
  moves: CellMoves | null
}

/** Groups whose classes are kept for the next gate. */
export const MOST_KEPT = 64

const MOST_TOLD = 20_000
/** Tests of one thing that are kept although nobody asks for them now. */
const MOST_UNASKED = 2

/** Puts the records of a table into cells, for one set of tests after the other. */
export class Sorter {
  private readonly kept = new Map<string, TestClasses>()
  private last: Sorted | null = null
  /** What tests say of one thing, by their text, as long as the inputs stay what they are. */
  private told: { inputs: string; byText: Map<string, GroupedSubject | null> } = { inputs: '', byText: new Map() }

  constructor(private readonly given: Table, private readonly today: DateValue) {}

  /** Inputs that nothing is bound to are blank columns from here on. */
  tableFor(gate: Lowered): Table {
    const { given } = this
    const unbound = [...gate.inputs.values()].filter(({ figure, isSet, name }) => !figure && !isSet && !given.columns.has(name))
    if (unbound.length === 0) return given
    const blanks = Array<null>(given.length).fill(null)
    return { length: given.length, columns: new Map([...given.columns, ...unbound.map(({ name, type }) => [name, dictionaryColumn(type, blanks)] as const)]) }
  }

  /** Most tests of a gate are those of the gate before: what they say is not looked for again. */
  private teller(asked: AskedTable): (test: Test) => GroupedSubject | null {
    const inputs = JSON.stringify([...asked.gate.inputs.values()].map(({ name, type, isSet, source }) => [name, type, isSet, source]))
    if (this.told.inputs !== inputs || this.told.byText.size > MOST_TOLD) this.told = { inputs, byText: new Map() }
    const { byText } = this.told
    return (test) => {
      if (!byText.has(test.text)) byText.set(test.text, subjectTest(test, asked))
      return byText.get(test.text)!
    }
  }

  sort(gate: Lowered, tests: readonly Test[]): Sorted {
    return this.sortUnless(gate, tests, () => false) as Sorted
  }

  /** @param isTooWide whether records under such groups are better not put into cells: then their classes are all */
  sortUnless(gate: Lowered, tests: readonly Test[], isTooWide: (groups: readonly TestClasses[]) => boolean): Sorted | { groups: readonly TestClasses[]; cells: null } {
    const { keys, groups, moved, isNew } = this.grouped(gate, tests)
    if (isTooWide(groups)) {
      // What moved the cells of before have not followed.
      this.last = null
      return { groups, cells: null }
    }
    const isAsBefore = this.last !== null && !isNew && this.last.keys.join('\n\n') === keys.join('\n\n')
    const moves = isAsBefore ? movesAfter(this.last!, groups, moved) : null
    const moving = isAsBefore ? (moved?.group ?? null) : null
    this.last = { keys, groups, moves, cells: moves ? this.last!.cells : cellsOf(groups, this.given.length, moving) }
    return this.last
  }

  private grouped(gate: Lowered, tests: readonly Test[]): { keys: string[]; groups: TestClasses[]; moved: Moved | null; isNew: boolean } {
    const asked = askedTable(this.tableFor(gate), gate, this.today)
    // In an order of their own: a rule that is moved among others moves no record.
    const sorted = testGroups(asked, tests, this.teller(asked)).map((group) => ({ group, key: keyOf(group, asked) })).toSorted((one, other) => (one.key < other.key ? -1 : 1))
    const [found, keys] = [sorted.map(({ group }) => group), sorted.map(({ key }) => key)]
    let moved: Moved | null = null
    let isNew = false
    const groups = found.map((group, at): TestClasses => {
      const before = this.kept.get(keys[at]!)
      let classes = before && hasTests(before, testsIn(group)) ? before : null
      if (!classes) {
        const step = before ? movedGroup(asked, group, before) : null
        if (step?.changed && !moved) moved = { group: at, before: before!, changed: step.changed }
        else isNew = true
        classes = step?.moved ?? classesOf(asked, group, before)
      }
      // Put last again, so that what nobody asked for lately comes first, and goes first.
      this.kept.delete(keys[at]!)
      this.kept.set(keys[at]!, classes)
      return classes
    })
    for (const key of this.kept.keys()) if (this.kept.size > MOST_KEPT && !keys.includes(key)) this.kept.delete(key)
    return { keys, groups, moved, isNew }
  }
}

/** A group that is what it was but for where its cuts are, or which values its tests name. */
interface Moved {
  group: number
  before: TestClasses
  changed: Changed
}

/** What two gates must have in common for their records to be in the same classes: what the tests look at, and how. */
function keyOf(group: TestGroup, { gate, givenBehind }: AskedTable): string {
  const signatures = inputSignatures(gate)
  // Each once: how many tests look at it says nothing of the records.
  const inputs = [...new Set(testsIn(group).flatMap((test) => test.inputs))]
  return `${group.key}\n${[...givenBehind(inputs), ...inputs].map((name) => signatures.get(name) ?? '').join()}`
}

/** Goes on with the cells that there are, where there is nothing but what moved in one group. */
function movesAfter({ groups: before, cells }: Sorted, groups: readonly TestClasses[], moved: Moved | null): CellMoves | null {
  if (!groups.every((group, at) => group === before[at] || at === moved?.group)) return null
  if (!moved) return NO_MOVES
  const { group, changed } = moved
  const hasRoom = groups[group]!.verdicts.length <= cells.levels[group]!.classes
  return hasRoom && moved.before === before[group] ? moveRecords(cells, group, changed) : null
}

/** @property changed null where so much did that all records are looked at */
function movedGroup(asked: AskedTable, group: TestGroup, before: TestClasses): { moved: TestClasses; changed: Changed | null } | null {
  if (group.kind === 'values') return movedValues(asked, before as ValueClasses, group.column, group.tests)
  return group.kind === 'subject' && 'vector' in before ? movedClasses(asked, before as SubjectClasses, group.grouped) : null
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

/**
 * In whatever order: who asks what a test comes to finds it by its text. A few that nobody asks for any more are no harm: a cut that passes
 * over another one is, for a moment, the same test as that.
 */
function hasTests(classes: TestClasses, wanted: readonly Test[]): boolean {
  const { tests } = classes
  const more = tests.length - wanted.length
  if (more < 0 || more > ('vector' in classes ? MOST_UNASKED : 0)) return false
  const texts = new Set(tests.map(({ text }) => text))
  return wanted.every(({ text }) => texts.has(text))
}

export function distinctTests(conditions: readonly Condition[]): Test[] {
  return [...new Map(conditions.flatMap((condition) => testsOf(condition)).map((test) => [test.text, test])).values()]
}

/** What an input's values depend on beside its column, so that a changed precision or figure is a different test. */
export function inputSignatures({ inputs }: Lowered): Map<string, string> {
  const signatures = new Map<string, string>()
  for (const [name, input] of inputs) {
    const own = JSON.stringify([input.precision, input.blank === 'pass', input.source])
    // A figure depends on other inputs, which come before it.
    signatures.set(name, input.figure ? own + [...signatures.values()].join() : own)
  }
  return signatures
}
