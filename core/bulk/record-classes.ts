/** Classes under tests of any kind, found by asking record by record; where all that they look at repeats, each combination once. */
import type { Test } from '../rule/condition'
import type { DictionaryColumn } from '../table/dictionary-column'
import { FALSE } from '../decide/verdict'
import { type AskedTable, classFor } from './asked-table'
import { addClasses, ClassList, type TestClasses } from './test-classes'

/** More combinations than this are not kept. */
const MOST_KEPT = 2 ** 22

export function recordClasses(asked: AskedTable, tests: readonly Test[]): TestClasses {
  const { table } = asked
  const list = new ClassList()
  const look = (at: number) => {
    const { verdicts, open } = classFor(asked, tests, asked.facts(at))
    return list.placeOf(verdicts, open)
  }
  const places = new Uint32Array(table.length)
  const combination = combinationOf(asked, tests)
  if (combination) {
    const known = new Int32Array(combination.count).fill(-1)
    for (let at = 0; at < places.length; at++) {
      const key = combination.at(at)
      if (known[key] === -1) known[key] = look(at)
      places[at] = known[key]!
    }
  } else for (let at = 0; at < places.length; at++) places[at] = look(at)
  // A table of no record has no class at all.
  if (table.length === 0) list.placeOf(tests.map(() => FALSE), [])
  const { verdicts, open } = list
  return { tests, verdicts, open, addTo: (numbers, width, from) => addClasses(numbers, places, width, from) }
}

/** A number for what the tests look at in a record, the same where it is the same; null where there would be too many. */
function combinationOf({ table, givenBehind }: AskedTable, tests: readonly Test[]): { count: number; at(place: number): number } | null {
  const columns = givenBehind(tests.flatMap(({ inputs }) => inputs)).map((name) => table.columns.get(name))
  const isDictionary = (column: (typeof columns)[number]): column is DictionaryColumn => column !== undefined && 'kind' in column && column.kind === 'dictionary'
  if (!columns.every(isDictionary)) return null
  const count = columns.reduce((product, { texts }) => product * (texts.length + 1), 1)
  if (count > MOST_KEPT) return null
  return { count, at: (place) => columns.reduce((key, { codes, texts }) => key * (texts.length + 1) + codes[place]! + 1, 0) }
}
