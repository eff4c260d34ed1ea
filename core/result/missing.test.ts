import { lowered } from '../rule/lower'
import { numberColumn } from '../table/number-column'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { resultMaker } from './make-results'
import { missingOf } from './missing'

const GATE = rulesGate([anInput('Decay', 'number'), anInput('Lean', 'number'), anInput('Height', 'number')], [['Decay > 40', 'fell'], ['Lean > 15', 'prop'], ['Height > 9 and Decay < 0', 'never']])
const missing = (columns: Record<string, (string | null)[]>) => {
  const all = new Map(Object.entries(columns).map(([name, values]) => [name, numberColumn(values)]))
  return missingOf(resultMaker(() => ({ length: columns.Decay!.length, columns: all }), TODAY)([{ gate: GATE, lowered: lowered(GATE) }]))
}

test('what held records wait for, the most wanted first; a blank that changes nothing is not told', () => {
  // The second is felled whatever its lean; of the last, height matters only where decay is below nothing.
  expect(missing({ Decay: [null, '50', '10', '10', '10'], Lean: ['3', null, null, null, '3'], Height: ['5', '5', '5', '5', null] })).toEqual(['Lean', 'Decay'])
})

test('of very many some are asked, from the first to the last', () => {
  const many = 100_000
  const half = (from: number) => Array.from({ length: many }, (_, at) => (at < many / 2 === (from === 0) ? null : '10'))
  expect(missing({ Decay: half(0), Lean: half(1), Height: Array<string>(many).fill('1') }).toSorted()).toEqual(['Decay', 'Lean'])
})

test('where nothing is held nothing is wanted', () => expect(missing({ Decay: ['1'], Lean: ['1'], Height: ['1'] })).toEqual([]))
