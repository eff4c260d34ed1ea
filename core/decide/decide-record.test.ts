import { parseDate } from '../value/temporal'
import { textOfValue, valueFromText } from '../value/value-text'
import type { Value, ValueKind } from '../value/value'
import { conditionOf, conditionText } from '../rule/condition'
import { parseExpression } from '../expression/parse'
import { decideRecord } from './decide-record'
import type { Gate, HitPolicy, Input, Library, RulesGate } from '../gate/document'
import { gateOrder } from '../gate/gate-order'
import { lower, lowered } from '../rule/lower'

const TODAY = parseDate('2026-03-02')!

const input = (name: string, type: ValueKind, change: Partial<Input> = {}): Input => ({
  name, type, isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: null, ...change,
})
const INPUTS = [input('Decay', 'number'), input('Lean', 'number'), input('Species', 'text'), input('Started', 'date'), input('Modules', 'number', { isSet: true })]

function rules(pairs: [condition: string, label: string][], change: Partial<RulesGate> = {}): RulesGate {
  return {
    schema: 1, form: 'rules', name: 'Felling decision', inputs: INPUTS, hitPolicy: 'first', otherwise: null, outcomes: [{ name: 'Label', type: 'text', labels: [] }],
    rules: pairs.map(([condition, label]) => ({ condition, entries: [{ is: label }], note: '' })), ...change,
  }
}

type Given = Record<string, string | string[] | null>
function decide(gate: Gate, given: Given, library?: Library) {
  const kinds = new Map(gate.inputs.map(({ name, type }) => [name, type]))
  const value = (name: string): Value => {
    const text = given[name] ?? null
    return Array.isArray(text) ? text.map((item) => valueFromText(item, 'number')) : text === null ? null : valueFromText(text, kinds.get(name)!)
  }
  const { status, outcomes, rule, missing } = decideRecord(lowered(gate, library), value, TODAY)
  return { said: outcomes.length > 0 ? outcomes.map(textOfValue).join(', ') : status, status, rule, missing }
}

describe('rules, the first true one', () => {
  const gate = rules([['Decay >= 60', 'fell'], ['Lean > 20 and Decay >= 25', 'fell'], ['not(Species in ("ash", "elm")) and Decay >= 25', 'prune'], ['Lean <= 20', 'leave']])
  test.each<[Given, string]>([
    [{ Decay: '60', Lean: '0', Species: 'ash' }, 'fell'],
    [{ Decay: '30', Lean: '21', Species: 'oak' }, 'fell'],
    [{ Decay: '30', Lean: '20', Species: 'oak' }, 'prune'],
    [{ Decay: '30', Lean: '20', Species: 'elm' }, 'leave'],
    [{ Decay: '3', Lean: '21', Species: 'elm' }, 'unplaced'],
  ])('%j: %s', (given, said) => expect(decide(gate, given).said).toBe(said))

  test('a blank that cannot change the label does not hold the record', () => {
    expect(decide(gate, { Decay: '70', Lean: null, Species: null }).said).toBe('fell')
    // Both ways of Lean lead to felling or to nothing else than that.
    expect(decide(rules([['Lean > 20', 'fell'], ['Decay > 5', 'fell']]), { Decay: '6', Lean: null })).toMatchObject({ said: 'fell', rule: 1 })
  })
  test('a blank that could change it holds the record, and is named', () => {
    expect(decide(gate, { Decay: '30', Lean: null, Species: 'ash' })).toEqual({ said: 'held', status: 'held', rule: -1, missing: ['Lean'] })
    expect(decide(gate, { Decay: null, Lean: '3', Species: 'ash' })).toMatchObject({ status: 'held', missing: ['Decay'] })
    expect(decide(rules([['Species = "oak"', 'a']]), { Species: null })).toMatchObject({ status: 'held', missing: ['Species'] })
  })
  test('where blanks pass, an unknown condition counts as not true', () => {
    const passing = { ...gate, inputs: INPUTS.map((it) => ({ ...it, blank: 'pass' as const })) }
    expect(decide(passing, { Decay: '30', Lean: null, Species: 'ash' }).said).toBe('unplaced')
    expect(decide(passing, { Decay: '30', Lean: null, Species: null }).said).toBe('prune')
    expect(decide({ ...passing, otherwise: [{ is: 'look' }] }, { Decay: null, Lean: null, Species: null })).toMatchObject({ said: 'look', status: 'otherwise' })
  })
  test('one blank passes while another holds', () => {
    const mixed = { ...rules([['Decay > 5 and Lean > 5', 'fell']]), inputs: INPUTS.map((it) => ({ ...it, blank: it.name === 'Lean' ? ('pass' as const) : null })) }
    expect(decide(mixed, { Decay: null, Lean: null }).said).toBe('unplaced')
    expect(decide(mixed, { Decay: null, Lean: '6' })).toMatchObject({ status: 'held', missing: ['Decay'] })
  })
  test('a rule may ask for blanks itself', () => {
    const asking = rules([['Lean = null', 'measure'], ['Lean > 20', 'fell'], ['-', 'leave']])
    expect([decide(asking, { Lean: null }).said, decide(asking, { Lean: '21' }).said, decide(asking, { Lean: '20' }).said]).toEqual(['measure', 'fell', 'leave'])
  })
  test('what cannot be computed holds, as a blank does', () => {
    const ratio = rules([['Decay / Lean = 3', 'a'], ['Decay > 0', 'b']])
    expect(decide(ratio, { Decay: '6', Lean: '0' })).toMatchObject({ status: 'held' })
    expect(decide(ratio, { Decay: '6', Lean: '2' }).said).toBe('a')
  })
})

test.each<[HitPolicy, string]>([
  ['unique', 'contested'], ['any', 'contested'], ['priority', 'high'], ['rule order', '["low", "high", "low"]'], ['output order', '["high", "low", "low"]'], ['collect', '["low", "high", "low"]'], ['collect count', '3'],
])('hit policy %s gives %s', (hitPolicy, said) => {
  const look = { colour: '#112233', mark: 'disc' as const, rank: null }
  const gate = rules([['Decay > 1', 'low'], ['Decay > 2', 'high'], ['Decay > 0', 'low']], { hitPolicy, outcomes: [{ name: 'Label', type: 'text', labels: [{ value: 'high', ...look }, { value: 'low', ...look }] }] })
  expect(decide(gate, { Decay: '5' }).said).toBe(said)
  expect(decide(gate, { Decay: '2' }).said).not.toBe('contested')
})

test.each<[HitPolicy, string]>([['collect sum', '6'], ['collect min', '1'], ['collect max', '3']])('%s gives %s', (hitPolicy, said) => {
  const gate = rules([['Decay > 1', '1'], ['Decay > 2', '2'], ['Decay > 3', '3'], ['Decay > 9', '9']], { hitPolicy, outcomes: [{ name: 'Points', type: 'number', labels: [] }] })
  expect(decide(gate, { Decay: '5' }).said).toBe(said)
  expect(decide(gate, { Decay: null }).status).toBe('held')
})

test('precision comes before any test', () => {
  const gate = (kind: 'half up' | 'half even' | 'truncated') => ({ ...rules([['Decay >= 25', 'weak'], ['-', 'sound']]), inputs: [input('Decay', 'number', { precision: { kind, places: 0 } })] })
  expect((['half up', 'half even', 'truncated'] as const).map((kind) => decide(gate(kind), { Decay: '24.5' }).said)).toEqual(['weak', 'sound', 'sound'])
  expect((['half up', 'half even', 'truncated'] as const).map((kind) => decide(gate(kind), { Decay: '25.99' }).said)).toEqual(['weak', 'weak', 'weak'])
})

test('figures are inputs: a mean over a column set, completed years on the as-of date', () => {
  const award = rules([['Mean >= 4', 'crown'], ['Mean >= 3', 'climb'], ['-', 'ground']], { inputs: [...INPUTS, input('Mean', 'number', { source: { kind: 'figure', feel: 'mean(Modules)' } })] })
  expect(decide(award, { Modules: ['3.5', '4.5', '4'] }).said).toBe('crown')
  expect(decide(award, { Modules: [] })).toMatchObject({ status: 'held', missing: ['Mean'] })
  const grade = rules([['Years >= 8', 'foreman'], ['Years >= 3', 'climber'], ['-', 'groundsman']], { inputs: [input('Started', 'date'), input('Years', 'number', { source: { kind: 'figure', feel: 'years and months duration(Started, today()).years' } })] })
  expect(decide(grade, { Started: '2018-03-12' }).said).toBe('climber')
  expect(decide(grade, { Started: '2018-03-02' }).said).toBe('foreman')
})

test('several outcomes, literal and computed', () => {
  const gate = rules([], {
    outcomes: [{ name: 'Label', type: 'text', labels: [] }, { name: 'Points', type: 'number', labels: [] }, { name: 'By', type: 'date', labels: [] }],
    rules: [{ condition: 'Decay > 5', entries: [{ is: 'weak' }, { feel: 'Decay * 2' }, { feel: 'today() + @"P7D"' }], note: '' }],
  })
  expect(decide(gate, { Decay: '5.25' }).said).toBe('weak, 10.5, 2026-03-09')
})

describe('forms', () => {
  const head = { schema: 1 as const, name: 'Form', inputs: INPUTS, outcomes: [{ name: 'Label', type: 'text' as const, labels: [] }] }
  const gives = (label: string) => ({ entries: [{ is: label }] })
  test('a scale on dates', () => {
    const gate: Gate = { ...head, form: 'scale', on: 'Started', cuts: [{ at: '2020-02-29', owner: 'below' }], floor: null, ceiling: { at: '2026-03-02', included: true }, bands: [gives('old hand'), gives('newer')], otherwise: null }
    expect(['2020-02-29', '2020-03-01', '2026-03-03'].map((Started) => decide(gate, { Started }).said)).toEqual(['old hand', 'newer', 'unplaced'])
  })
  test('a match list, folding case and spaces or not', () => {
    const gate = (folds: boolean): Gate => ({ ...head, form: 'match', on: 'Species', folds, otherwise: [{ is: 'unknown' }], lines: [{ values: ['Silver birch', 'Oak'], ...gives('broad') }] })
    expect(['Silver birch', ' silver  BIRCH', 'oak'].map((Species) => decide(gate(true), { Species }).said)).toEqual(['broad', 'broad', 'broad'])
    expect(['Silver birch', 'silver birch', 'oak'].map((Species) => decide(gate(false), { Species }).said)).toEqual(['broad', 'unknown', 'unknown'])
    expect(decide(gate(true), { Species: null }).status).toBe('held')
  })
  test('a grid, with a crossing that gives nothing', () => {
    const gate: Gate = {
      ...head, form: 'grid', otherwise: null, down: { kind: 'list', on: 'Species', folds: false, lines: [['oak'], ['ash']] },
      across: { kind: 'scale', on: 'Decay', cuts: [{ at: '25', owner: 'above' }], floor: null, ceiling: null },
      cells: [[[{ is: 'a' }], [{ is: 'b' }]], [[{ is: 'c' }], null]],
    }
    const at = (Species: string, Decay: string | null) => decide(gate, { Species, Decay }).said
    expect([at('oak', '24'), at('oak', '25'), at('ash', '24'), at('ash', '25'), at('oak', null), at('elm', null)]).toEqual(['a', 'b', 'c', 'unplaced', 'held', 'unplaced'])
  })
})

describe('named conditions and gates that feed gates', () => {
  const library: Library = {
    conditions: [{ name: 'Rotten', feel: 'Decay >= 40' }, { name: 'Leaning badly', feel: 'Lean > 20 and not(Rotten)' }],
    gates: [],
  }
  test('a named condition is used by its name, also within another', () => {
    const gate = rules([['Leaning badly', 'prop'], ['Rotten or Lean > 30', 'fell'], ['-', 'leave']])
    expect([['39', '21'], ['40', '21'], ['3', '3']].map(([Decay, Lean]) => decide(gate, { Decay: Decay!, Lean: Lean! }, library).said)).toEqual(['prop', 'fell', 'leave'])
  })
  test('conditions that use each other in a ring are refused by naming them', () => {
    const ring = { conditions: [{ name: 'One', feel: 'not(Two)' }, { name: 'Two', feel: 'One' }], gates: [] }
    expect(lower(rules([['One', 'x']]), ring)).toMatchObject({ problems: [{ code: 'condition-loop', found: ['One', 'Two'] }] })
  })
  test('gates come in the order of what they use; a ring is refused by naming it', () => {
    const from = (name: string, ...used: string[]) => ({ ...rules([]), name, inputs: used.map((gate) => input(gate, 'text', { source: { kind: 'gate', gate, outcome: null } })) })
    expect(gateOrder([from('c', 'b', 'a'), from('a'), from('b', 'a')])).toEqual({ order: ['a', 'b', 'c'] })
    expect(gateOrder([from('a', 'c'), from('b', 'a'), from('c', 'b'), from('d', 'a')])).toEqual({ loop: ['a', 'c', 'b'] })
  })
})

test.each<[string, Partial<RulesGate>, object]>([
  ['an unknown name', { rules: [{ condition: 'Decai > 3', entries: [{ is: 'x' }], note: '' }] }, { code: 'expression', path: 'rules.0.condition', problem: { code: 'unknown-name', from: 0, to: 5, hint: ['Decay'] } }],
  ['a value of another kind', { outcomes: [{ name: 'Points', type: 'number', labels: [] }], rules: [{ condition: '-', entries: [{ is: 'many' }], note: '' }] }, { code: 'bad-value', path: 'rules.0.entries.0' }],
  ['an expression of another kind', { rules: [{ condition: '-', entries: [{ feel: 'Decay' }], note: '' }] }, { code: 'wrong-outcome-kind', path: 'rules.0.entries.0' }],
  ['a result too many', { otherwise: [{ is: 'a' }, { is: 'b' }] }, { code: 'entry-count', path: 'otherwise' }],
  ['no outcome', { outcomes: [] }, { code: 'no-outcome' }],
  ['two inputs of one name', { inputs: [input('A', 'number'), input('A', 'text')] }, { code: 'repeated-name', path: 'inputs.1.name' }],
  ['a name that conditions cannot hold', { inputs: [input('Decay (%)', 'number')] }, { code: 'unusable-name', found: ['Decay (%)', 'sign'] }],
  ['figures that need each other', { inputs: [input('A', 'number', { source: { kind: 'figure', feel: 'B + 1' } }), input('B', 'number', { source: { kind: 'figure', feel: 'A' } })] }, { code: 'figure-loop', found: ['A', 'B'] }],
  ['a gate that is not there', { inputs: [input('A', 'text', { source: { kind: 'gate', gate: 'Gone', outcome: null } })] }, { code: 'unknown-gate', found: ['Gone'] }],
  ['texts rounded', { inputs: [input('A', 'text', { precision: { kind: 'truncated', places: 0 } })] }, { code: 'nothing-to-round' }],
  ['a sum of texts', { hitPolicy: 'collect sum' }, { code: 'not-a-number', path: 'outcomes.0' }],
])('%s keeps a gate from deciding, and is told by its place', (_, change, found) => {
  const lowering = lower(rules([], change))
  const problems = 'problems' in lowering ? lowering.problems : []
  expect(problems).toMatchObject([found])
})

test.each(['Decay > 5 and (Lean < 3 or not(Species = "oak"))', 'true', 'not(Decay in [1..5) and Lean > 2)', 'some x in Modules satisfies x < 3'])('%s comes back from the tree of a condition', (text) => {
  const parsed = parseExpression(text, INPUTS.map(({ name }) => name))
  expect('tree' in parsed && conditionText(conditionOf(parsed.tree))).toBe(text)
})
