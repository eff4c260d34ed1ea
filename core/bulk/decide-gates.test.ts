import fc from 'fast-check'
import { dictionaryColumn } from '../table/dictionary-column'
import { numberColumn } from '../table/number-column'
import { recordAt, type Table, valueAt } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { formGates, tables, wideGates } from '../testing/arbitrary-gate'
import { textOfValue } from '../value/value-text'
import { decideRecordByGates, decideTableByGates, readyGates } from './decide-gates'
import type { Entry, Gate, Input } from '../gate/document'

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
  const column = (gate: string, outcome: string) => Array.from({ length: 5 }, (_, at) => textOfValue(valueAt(decided.get(gate)!.columns().get(outcome)!, at)))
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

const outer: fc.Arbitrary<Gate> = fc.record({
  blanks: fc.tuple(fc.constantFrom<Input['blank']>('hold', 'pass'), fc.constantFrom<Input['blank']>('hold', 'pass')),
  precision: fc.constantFrom<Input['precision']>({ kind: 'as measured' }, { kind: 'half up', places: 0 }, { kind: 'truncated', places: 1 }),
  rules: fc.array(fc.tuple(fc.constantFrom('Band = "a"', 'Band != "b"', 'Band in ("a", "c")', 'Points > 1', 'Points * 3 <= Height', 'Points in [0.3..1]', 'Points = null', 'not(Band = "a") and Points >= 2', 'Height > 12', 'Points - Height > 0'), fc.constantFrom('x', 'y', 'z')), { maxLength: 4 }),
  otherwise: fc.option(fc.constant<Entry[]>([{ is: 'rest' }]), { nil: null }),
}).map(({ blanks, precision, rules, otherwise }) => ({
  ...rulesGate([
    anInput('Band', 'text', { blank: blanks[0], source: { kind: 'gate', gate: 'Random', outcome: null } }), anInput('Points', 'number', { blank: blanks[1], precision, source: { kind: 'gate', gate: 'Random', outcome: 'Points' } }), anInput('Height', 'number'),
  ], rules, { otherwise }), name: 'Outer',
}))

test('gates that use others decide a table as its records', () => {
  const inner = fc.oneof(wideGates(fc.constantFrom('first', 'unique', 'any', 'priority')), formGates)
  fc.assert(fc.property(inner, outer, tables, (used, user, table) => {
    const result = readyGates({ conditions: [], gates: [user, used] })
    if ('problems' in result) throw new Error('not ready')
    const decided = decideTableByGates(result.ready, () => table, TODAY)
    for (let at = 0; at < table.length; at++) {
      const given = recordAt(table, at)
      const single = decideRecordByGates(result.ready, (_, input) => given(input), TODAY)
      for (const name of ['Random', 'Outer']) {
        const { status, rule, outcomes } = single.get(name)!
        const columns = [...decided.get(name)!.columns().values()].map((column) => textOfValue(valueAt(column, at)))
        expect({ at, name, ...decided.get(name)!.decisions.at(at), columns }).toEqual({ at, name, status, rule, columns: columns.map((_, place) => textOfValue(outcomes[place] ?? null)) })
      }
    }
  }), { numRuns: 200 })
})
