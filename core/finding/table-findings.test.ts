import { tableDecider } from '../bulk/decide-table'
import type { Gate } from '../gate/document'
import { lowered } from '../rule/lower'
import { dictionaryColumn } from '../table/dictionary-column'
import { numberColumn } from '../table/number-column'
import type { Table } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { tableFindings } from './table-findings'

const INPUTS = [anInput('Decay', 'number'), anInput('Species', 'text')]
function found(gate: Gate, decay: string[], species: string[] = []) {
  const table: Table = { length: decay.length, columns: new Map<string, never>([['Decay', numberColumn(decay)], ['Species', dictionaryColumn('text', decay.map((_, at) => species[at] ?? null))]] as never) }
  const ready = lowered(gate)
  return tableFindings(ready, table, tableDecider(table, TODAY).decide(ready), TODAY).map(({ kind, axis, where, labels }) => [kind, axis, Object.values(where)[0] ?? '', labels])
}
const cuts = rulesGate(INPUTS, [['Decay < 25', 'sound'], ['Decay < 65', 'weak'], ['-', 'failing']])

test('cuts of 25 and 65 on values of 0.1 to 0.9, or on whole per mille', () => {
  expect(found(cuts, ['0.1', '0.3', '0.7', '0.9'])).toEqual([['scale mismatch', 'Decay', '× 100', []], ['all in one band', null, '', ['sound']]])
  expect(found(cuts, ['20', '30', '70'])).toEqual([])
})

test('all records in one band, where the values are of the right size', () => expect(found(cuts, ['26', '30', '31'])).toEqual([['all in one band', null, '', ['weak']]]))

test('a value that no record has but for its case or spaces', () => {
  const gate = rulesGate(INPUTS, [['Species = "Silver birch"', 'a'], ['Species = "Oak"', 'b'], ['-', 'c']])
  expect(found(gate, ['1', '2', '3'], ['silver  birch', 'Oak', 'Elm'])).toEqual([['near-miss values', 'Species', '', ['Silver birch', 'silver  birch']]])
})

test('values finer than whole-number ranges', () => {
  const gate = rulesGate(INPUTS, [['Decay <= 24', 'a'], ['Decay in [25..64]', 'b'], ['Decay >= 65', 'c']])
  expect(found(gate, ['24.5', '30', '70'])).toEqual([['finer than cuts', 'Decay', '1 places, cuts have 0', []]])
  expect(found(gate, ['24', '30', '70'])).toEqual([])
})
