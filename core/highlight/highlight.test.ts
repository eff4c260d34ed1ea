import fc from 'fast-check'
import { readyGates } from '../bulk/decide-gates'
import type { Gate } from '../gate/document'
import { givenNumber, plainScale } from '../gate/scale-gate'
import { resultMaker } from '../result/make-results'
import { hasBit, placesOf } from '../table/bitmap'
import { columnOf, type Table } from '../table/table'
import { anInput, band, rulesGate, TODAY } from '../testing/a-gate'
import { type Highlight, highlightChoices, highlighted, highlightGate, NO_OTHERS, ofLabel, otherColumns, type Others, othersAsked } from './highlight'

const SCALE = plainScale('Band', { ...givenNumber('Decay', '%'), expected: null }, [{ at: '-5', owner: 'above' }, { at: '25', owner: 'above' }, { at: '40', owner: 'below' }], ['under', 'sound', 'weak', 'failing'].map(band))
const DECAYS = ['24.6', '25', null, { unreadable: 'n/a' }, '39.5', '40', '40.1', '-5.1', '80']
const told = (condition: string): Highlight => ({ name: condition, condition, colour: '#8e3424', mark: 'kite', on: null, isException: false })

function resultOf(gate: Gate, columns: Table['columns'], length: number) {
  const ready = readyGates({ conditions: [], gates: [gate] })
  if ('problems' in ready) throw new Error('the gate cannot decide')
  return resultMaker(() => ({ length, columns }), TODAY)(ready.ready)
}
const onDecays = () => resultOf(SCALE, new Map([['Decay', columnOf('number', DECAYS)]]), DECAYS.length)
/** By condition the places that meet it, which looking record by record has to find too; null where it cannot be read. */
function places(conditions: string[], result = onDecays(), others = NO_OTHERS): (number[] | null)[] {
  const found = highlighted(result, conditions.map(told), others)
  const bits = found.places()
  for (let at = 0; at < result.on.table.length; at++) expect(found.at(at)).toEqual(conditions.flatMap((_, of) => (hasBit(bits[of]!, at) ? [of] : [])))
  return found.isRead.map((is, of) => (is ? [...placesOf(bits[of]!)] : null))
}

test.each<[string, number[]]>([
  ['Decay > 39', [4, 5, 6, 8]],
  ['Label = "weak"', [1, 4, 5]],
  ['Status = "held"', [2, 3]],
  ['Decay from a cut <= 0.5', [0, 1, 4, 5, 6, 7]],
  ['Decay from a cut = 0', [1, 5]],
  ['Label = "weak" and Decay from a cut <= 0.5', [1, 4, 5]],
  ['Decay = null', [2, 3]],
])('%s', (condition, wanted) => {
  expect(places([condition])).toEqual([wanted])
})

test('a record meets as many as hold for it; a blank meets none that it could change', () => {
  expect(places(['Decay > 0', 'not(Decay > 30)'])).toEqual([[0, 1, 4, 5, 6, 8], [0, 1, 7]])
})

test('one that names what the gate has not, or says nothing yet, is told apart, and the others stand', () => {
  expect(places(['Lean > 3', 'Decay > 79', '', 'Decay >'])).toEqual([null, [8], null, null])
})

test('what an input is called already, an outcome or the status is not', () => {
  const gate = rulesGate([anInput('Label', 'text'), anInput('Status', 'number')], [['Status > 1', 'a']])
  const { inputs } = highlightGate(resultOf(gate, new Map(), 0).ready, [], TODAY)
  expect(inputs.map(({ name }) => name)).toEqual(['Label', 'Status', 'Label 2', 'Status 2', 'Status from a cut'])
})

test('one label against all others', () => {
  expect(places([ofLabel(SCALE, 'failing', { colour: '#8e3424', mark: 'kite' }, 'Label').condition])).toEqual([[6, 8]])
})

test('what several rules give a record is looked at as it is told', () => {
  const gate = rulesGate([anInput('Decay', 'number')], [['Decay > 20', 'a'], ['Decay > 30', 'b']], { hitPolicy: 'rule order' })
  const result = resultOf(gate, new Map([['Decay', columnOf('number', ['25', '35'])]]), 2)
  expect(places(['contains(Label, "b")'], result)).toEqual([[1]])
})

test('a distance is that to the nearest cut, worked out by hand, to the last place', () => {
  const value = fc.integer({ min: -2000, max: 12_000 }).map((hundredths) => (hundredths / 100).toFixed(2))
  fc.assert(fc.property(fc.array(value, { minLength: 1, maxLength: 30 }), fc.integer({ min: 0, max: 400 }), (decays, most) => {
    const result = resultOf(SCALE, new Map([['Decay', columnOf('number', decays)]]), decays.length)
    const hundredths = decays.map((text) => Math.round(Number(text) * 100))
    expect(places([`Decay from a cut <= ${most / 100}`], result)).toEqual([hundredths.flatMap((value, at) => (Math.min(...[-500, 2500, 4000].map((cut) => Math.abs(value - cut))) <= most ? [at] : []))])
  }), { numRuns: 60 })
})

test('labels and statuses are chosen from all that there could be, with how many have each', () => {
  const choices = (name: string) => highlightChoices(onDecays(), name, 10)?.values.map(({ text, records }) => [text, records])
  expect(choices('Label')).toEqual([['weak', 3], ['failing', 2], ['sound', 1], ['under', 1]])
  expect(choices('Status')).toEqual([['labelled', 7], ['held', 2], ['unplaced', 0], ['otherwise', 0], ['contested', 0]])
  expect(choices('Decay')).toBeUndefined()
})

test('an outcome whose name no condition can use has another', () => {
  const gate: Gate = { ...SCALE, outcomes: [{ ...SCALE.outcomes[0]!, name: 'Band (grade)' }] }
  const result = resultOf(gate, new Map([['Decay', columnOf('number', ['24', '41'])]]), 2)
  expect(highlightGate(result.ready, [], TODAY).inputs.map(({ name }) => name)).toEqual(['Decay', 'Label', 'Status', 'Decay from a cut'])
  expect(places(['Label = "failing"'], result)).toEqual([[1]])
})

const WARDS = columnOf('text', ['Harbour', 'Harbour', 'Hill', 'Hill', null, 'Harbour', 'Hill', 'Harbour', 'Hill'])
const HEIGHTS = columnOf('number', ['4', '5.5', '6', null, '8', { unreadable: 'tall' }, '12', '3', '9'])
const TABLE = [{ id: 1, name: 'Decay', type: 'percent', unit: '' }, { id: 2, name: 'Ward', type: 'text', unit: '' }, { id: 3, name: 'Height', type: 'number', unit: 'm' }] as const

function others(result = onDecays()): Others {
  return { columns: otherColumns(result.ready, TODAY, TABLE, [1]), columnOf: (id) => (id === 2 ? WARDS : HEIGHTS) }
}

test('what the table has beside what the gate looks at is looked at too, a blank and a text that cannot be read being nothing', () => {
  expect(places(['Ward = "Hill"', 'Height > 5 and Label = "weak"', 'Ward = "Harbour" or Height > 8'], onDecays(), others())).toEqual([[2, 3, 6, 8], [1, 4], [0, 1, 5, 6, 7, 8]])
  expect(places(['Height = null'], onDecays(), others())).toEqual([[3, 5]])
  expect(highlightChoices(onDecays(), 'Ward', 10, others())?.values.map(({ text, records }) => [text, records])).toEqual([['Harbour', 4], ['Hill', 4]])
})

test('only the columns that conditions name are asked for; another table has none of them', () => {
  const { ready } = onDecays()
  const asked = (...conditions: string[]) => othersAsked(ready, TODAY, conditions.map(told), others().columns).map(({ id }) => id)
  expect([asked('Ward = "Hill"', 'Decay > 3'), asked('Height > 3', 'Ward = "Hill"'), asked('Decay > 3'), asked('Nothing > 3')]).toEqual([[2], [2, 3], [], []])
  expect(places(['Ward = "Hill"', 'Decay > 79'])).toEqual([null, [8]])
})

test('a column is called as near to its name as conditions can', () => {
  const named = (...names: string[]) => otherColumns(onDecays().ready, TODAY, names.map((name, id) => ({ id, name, type: 'text' as const, unit: '' })), []).map(({ input }) => input.name)
  expect(named('Label', 'Status', 'Ward (old)', '2nd', 'not', 'Ward old', 'Decay')).toEqual(['Label 2', 'Status 2', 'Ward old', 'Column 2nd', 'not value', 'Ward old 2', 'Decay 2'])
})
