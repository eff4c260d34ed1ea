import { plainColumn, type Table } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { anInput, band } from '@dime-gate/core/testing/a-gate'
import { bindingsNeeded, choicesFor, wholeOf, type PlannedGate, plannedInputs } from './plan'

const table = (...columns: Table['columns']): Table => ({ id: 5, name: 'Trees', columns, sets: [{ name: 'Marks', by: { kind: 'columns', columns: [1, 2] } }] }) as unknown as Table
const scale = (input: string, id = 1, bound: PlannedGate['bound'] = null): PlannedGate => ({ id, version: 1, bound, gate: plainScale(`On ${input}`, givenNumber(input, ''), [{ at: '1', owner: 'above' }], [band('a'), band('b')]) })
const how = (gate: PlannedGate, on: Table) => plannedInputs([gate], on).map((one) => [one.how, one.bound])

test('what was bound before stays; else a column of that name, else one that is nearly called so', () => {
  const on = table(plainColumn(1, 'Decay'), plainColumn(2, 'Lean'), plainColumn(3, 'Height in metres'), plainColumn(4, 'Note', { type: 'text' }))
  expect(how(scale('Decay', 1, { inputs: { Decay: { column: 2 } }, version: 4 }), on)).toEqual([['bound', { column: 2 }]])
  expect(how(scale('Decay', 1, { inputs: { Decay: { column: 99 } }, version: 4 }), on)).toEqual([['named', { column: 1 }]])
  expect(how(scale('decay'), on)).toEqual([['named', { column: 1 }]])
  expect(how(scale('Height'), on)).toEqual([['near', { column: 3 }]])
  expect(how(scale('Note'), on)).toEqual([['nothing', null]])
  expect(how(scale('Trunk'), on)).toEqual([['nothing', null]])
})

test('of two that are equally near none is taken', () => {
  expect(how(scale('Height'), table(plainColumn(1, 'Height now'), plainColumn(2, 'Height then')))).toEqual([['nothing', null]])
})

test('a column set is stood for by a set, or by columns of one first word; a column by columns of its kind', () => {
  const on = table(plainColumn(1, 'Mark A'), plainColumn(2, 'Mark B'), plainColumn(3, 'Who', { type: 'text' }), plainColumn(4, 'Height'))
  expect(choicesFor(anInput('Modules', 'number', { isSet: true }), on)).toEqual([{ title: 'Marks (2 columns)', value: { set: 'Marks' } }, { title: 'Mark … (2 columns)', value: { columns: [1, 2] } }])
  expect(choicesFor(anInput('Who', 'text'), on).map(({ title }) => title)).toEqual(['Who'])
})

test('only gates of which something is not bound yet are bound, with all that stands for their inputs', () => {
  const on = table(plainColumn(1, 'Decay'), plainColumn(2, 'Lean'))
  const gates = [scale('Decay', 1, { inputs: { Decay: { column: 1 } }, version: 2 }), scale('Lean', 7)]
  expect(bindingsNeeded(gates, plannedInputs(gates, on))).toEqual([{ gateId: 7, inputs: { Lean: { column: 2 } }, seen: 0 }])
})

test('the whole is as far as its records are; what waits counts for nothing yet, what failed is at its end', () => {
  const run = (state: 'done' | 'failed' | 'under way', records: number, progress: number | null) => ({ state, records, progress })
  expect(wholeOf([run('done', 100, null), run('under way', 200, 50), run('under way', 300, null), run('failed', 10, null)])).toEqual({ runs: 4, done: 2, records: 610, decided: 160 })
  expect(wholeOf([])).toEqual({ runs: 0, done: 0, records: 0, decided: 0 })
})
