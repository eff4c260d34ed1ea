import { LAPSED, type ReviewRun } from '@dime-gate/contract/review'
import { EXCEPTION_KINDS, type ExceptionKind } from '@dime-gate/core/result/exception'
import { ExceptionOrder, lineAt, lineOf, runsInOrder } from './review-groups'

const run = (id: number, gateId: number, gateName: string, tableId: number, tableName: string): ReviewRun => ({ id, number: 1, name: null, gateId, gateName, tableId, tableName })
const RUNS = [run(7, 1, 'Decay band', 1, 'Street trees'), run(8, 2, 'Award', 2, 'Night course'), run(9, 2, 'Award', 3, 'Climbers')]
const order = (...all: [run: number, record: number, kind: ExceptionKind | 'lapsed'][]) =>
  new ExceptionOrder(Int32Array.from(all.flatMap(([runId, record, kind]) => [runId, record, kind === 'lapsed' ? LAPSED : EXCEPTION_KINDS.indexOf(kind)])))
const LISTED = order([7, 4, 'lapsed'], [8, 1, 'held'], [9, 2, 'held'], [7, 9, 'on an edge'])

test('by reason: those that stand together for one reason are one group, what lapsed another', () => {
  expect(LISTED.groups('reason', RUNS)).toEqual([{ of: 'lapsed', start: 0, records: 1 }, { of: 'held', start: 1, records: 2 }, { of: 'on an edge', start: 3, records: 1 }])
})

test('by gate and by table, of the run that each is of', () => {
  const byRun = order([9, 2, 'held'], [8, 1, 'lapsed'], [8, 5, 'held'], [7, 4, 'held'])
  expect(byRun.groups('gate', RUNS).map(({ of, records }) => [of, records])).toEqual([[2, 3], [1, 1]])
  expect(byRun.groups('table', RUNS).map(({ of, records }) => [of, records])).toEqual([[3, 1], [2, 2], [1, 1]])
})

test('by whom they wait for, nobody among them', () => {
  const byPerson = new ExceptionOrder(Int32Array.from([7, 4, 0, 8, 1, 3, 9, 2, 3]))
  expect(byPerson.groups('person', RUNS).map(({ of, records }) => [of, records])).toEqual([[0, 1], [3, 2]])
})

test('runs follow each other by name, so that those of one gate, or of one table, stand together', () => {
  expect([runsInOrder(RUNS, 'gate'), runsInOrder(RUNS, 'table')]).toEqual([[9, 8, 7], [9, 8, 7]])
  expect(runsInOrder([run(1, 1, 'B', 1, 'T'), run(2, 2, 'A', 2, 'S'), run(3, 1, 'B', 2, 'S')], 'gate')).toEqual([2, 3, 1])
})

test('every line of the list is a head or an exception, each once; and back again', () => {
  const groups = LISTED.groups('reason', RUNS)
  const lines = Array.from({ length: LISTED.length + groups.length }, (_, index) => lineAt(groups, index)!)
  expect(lines.map((line) => (line.kind === 'head' ? line.group.of : line.place))).toEqual(['lapsed', 0, 'held', 1, 2, 'on an edge', 3])
  for (let place = 0; place < LISTED.length; place++) expect(lines[lineOf(groups, place)]).toEqual({ kind: 'exception', place })
  expect(lineAt([], 0)).toBeNull()
})

test('one is found by its run and record, and one that is not listed is not', () => {
  expect([LISTED.placeOf({ runId: 9, record: 2 }), LISTED.placeOf({ runId: 9, record: 4 }), LISTED.at(3)]).toEqual([2, -1, { runId: 7, record: 9 }])
})
