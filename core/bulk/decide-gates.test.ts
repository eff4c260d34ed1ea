import { dictionaryColumn } from '../table/dictionary-column'
import { numberColumn } from '../table/number-column'
import { recordAt, type Table, valueAt } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { textOfValue } from '../value/value-text'
import { decideRecordByGates, decideTableByGates, readyGates } from './decide-gates'
import type { Gate } from '../gate/document'

const outcomes: Gate['outcomes'] = [{ name: 'Label', type: 'text', labels: [] }, { name: 'Points', type: 'number', labels: [] }]
const band: Gate = {
  ...rulesGate([anInput('Decay', 'number')], []), name: 'Decay band', outcomes,
  rules: [{ condition: 'Decay >= 40', entries: [{ is: 'failing' }, { is: '3' }], note: '' }, { condition: 'Decay >= 12', entries: [{ is: 'weak' }, { feel: 'Decay / 10' }], note: '' }, { condition: '-', entries: [{ is: 'sound' }, { is: '0' }], note: '' }],
}
const hazard: Gate = {
  ...rulesGate([
    anInput('Band', 'text', { source: { kind: 'gate', gate: 'Decay band', outcome: null } }), anInput('Points', 'number', { source: { kind: 'gate', gate: 'Decay band', outcome: 'Points' } }),
    anInput('Stands by', 'text'),
  ], [['Band = "failing" and Stands by = "school"', 'close'], ['Points >= 2', 'hurry'], ['-', 'later']]), name: 'Hazard',
}
const table: Table = {
  length: 5,
  columns: new Map<string, never>([['Decay', numberColumn(['45', '45', '20', '12', null])], ['Stands by', dictionaryColumn('text', ['school', 'road', 'road', 'school', 'road'])]] as never),
}

test('a gate that uses another comes after it, in whatever order they are told', () => {
  const result = readyGates({ conditions: [], gates: [hazard, band] })
  if ('problems' in result) throw new Error('not ready')
  expect(result.ready.map(({ gate }) => gate.name)).toEqual(['Decay band', 'Hazard'])
  const decided = decideTableByGates(result.ready, () => table, TODAY)
  const column = (gate: string, outcome: string) => Array.from({ length: 5 }, (_, at) => textOfValue(valueAt(decided.get(gate)!.columns.get(outcome)!, at)))
  expect(column('Decay band', 'Label')).toEqual(['failing', 'failing', 'weak', 'weak', ''])
  expect(column('Decay band', 'Points')).toEqual(['3', '3', '2', '1.2', ''])
  // A record held by the first gate is blank to the second, which holds it in turn.
  expect(column('Hazard', 'Label')).toEqual(['close', 'hurry', 'hurry', 'later', ''])
  const single = (at: number) => textOfValue(decideRecordByGates(result.ready, (_, input) => recordAt(table, at)(input), TODAY).get('Hazard')!.outcomes[0] ?? null)
  expect([0, 1, 2, 3, 4].map(single)).toEqual(column('Hazard', 'Label'))
})

test('gates that use each other in a ring are refused, each named', () => {
  const ring = (name: string, from: string) => ({ ...rulesGate([anInput('X', 'text', { source: { kind: 'gate', gate: from, outcome: null } })], [['-', 'a']]), name })
  const result = readyGates({ conditions: [], gates: [ring('One', 'Two'), ring('Two', 'One')] })
  expect('problems' in result && [...result.problems].map(([name, problems]) => [name, problems[0]!.code, problems[0]!.found])).toEqual([['One', 'gate-loop', ['One', 'Two']], ['Two', 'gate-loop', ['One', 'Two']]])
})

test('what a gate lacks is told by its name', () => {
  const result = readyGates({ conditions: [], gates: [{ ...hazard, inputs: hazard.inputs.slice(1) }, band] })
  expect('problems' in result && [...result.problems.keys()]).toEqual(['Hazard'])
})
