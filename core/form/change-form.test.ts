import fc from 'fast-check'
import { decideRecord } from '../decide/decide-record'
import type { Gate, GridGate, MatchGate, RulesGate, ScaleGate } from '../gate/document'
import { lower } from '../rule/lower'
import { anInput, givenBy, rulesGate, TODAY } from '../testing/a-gate'
import { crowded } from '../testing/arbitrary-gate'
import { textOfValue } from '../value/value-text'
import { changeForm } from './change-form'
import { changeWords, refusalWords } from './form-words'
import type { FormName } from './form-change'

const OUTCOMES = [{ name: 'Label', type: 'text' as const, labels: [] }]
const gives = (label: string) => [{ is: label }]
const scale: ScaleGate = {
  schema: 1, form: 'scale', name: 'Decay band', inputs: [anInput('Decay', 'number')], on: 'Decay', cuts: [{ at: '12', owner: 'above' }, { at: '25', owner: 'below' }], floor: { at: '0', included: true }, ceiling: { at: '100', included: true },
  bands: ['low', 'middle', 'middle'].map((label) => ({ entries: gives(label) })), outcomes: OUTCOMES, otherwise: null,
}
const match: MatchGate = {
  schema: 1, form: 'match', name: 'Leaf group', inputs: [anInput('Species', 'text')], on: 'Species', folds: false, outcomes: OUTCOMES, otherwise: gives('other'),
  lines: [{ values: ['Sycamore', 'Common lime'], entries: gives('large') }, { values: [], entries: gives('empty') }, { values: ['Ginkgo'], entries: gives('fan') }],
}
const grid: GridGate = {
  schema: 1, form: 'grid', name: 'Hazard', inputs: [anInput('Decay', 'number'), anInput('Stands by', 'text')], outcomes: OUTCOMES, otherwise: null,
  down: { kind: 'scale', on: 'Decay', cuts: [{ at: '12', owner: 'above' }], floor: { at: '0', included: true }, ceiling: null },
  across: { kind: 'list', on: 'Stands by', folds: false, lines: [['verge'], ['road', 'footway'], ['school']] },
  cells: [[gives('a'), gives('a'), gives('a')], [gives('b'), null, gives('b')]],
}

const changed = (gate: Gate, form: FormName) => {
  const made = changeForm(gate, form)
  if ('refusal' in made) throw new Error(refusalWords(made.refusal, form))
  return made
}

test.each<[string, Gate]>([['a scale', scale], ['a match list', match], ['a grid', grid]])('%s told as rules and back is the same gate', (_, gate) => {
  const rules = changed(gate, 'rules')
  expect(rules.losses).toEqual([])
  const back = changed(rules.gate, gate.form)
  expect(back).toEqual({ gate, losses: [] })
})

test('what each becomes reads as people would write it', () => {
  const written = (gate: Gate) => (changed(gate, 'rules').gate as RulesGate).rules.map(({ condition }) => condition)
  expect(written(scale)).toEqual(['Decay in [0..12)', 'Decay in [12..25]', 'Decay in (25..100]'])
  expect(written(match)).toEqual(['Species in ("Sycamore", "Common lime")', '', 'Species in ("Ginkgo")'])
  expect(written(grid)).toHaveLength(5)
})

test('what a gate knows of its labels, inputs and examples goes along', () => {
  const examples = [{ values: { Decay: '5' }, label: 'low' }]
  const meant = [{ finding: 'x', key: 'y' }]
  const { gate } = changed({ ...scale, examples, meant, inputs: [anInput('Decay', 'number', { unit: '%', tolerance: '1' })] }, 'rules')
  expect(gate).toMatchObject({ examples, meant, name: 'Decay band', inputs: [{ unit: '%', tolerance: '1' }] })
})

test('a grid of one line is a scale or a list', () => {
  const one: GridGate = { ...grid, across: { kind: 'list', on: 'Stands by', folds: false, lines: [['verge']] }, cells: [[gives('a')], [gives('b')]] }
  expect(changeForm(one, 'scale')).toMatchObject({ refusal: { kind: 'inputs', most: 1, found: ['Decay', 'Stands by'] } })
  const rules = rulesGate([anInput('Stands by', 'text')], [['"verge" = Stands by', 'a'], ['Stands by in ("road", "footway")', 'b']])
  expect(changed(rules, 'match').gate).toMatchObject({ on: 'Stands by', lines: [{ values: ['verge'] }, { values: ['road', 'footway'] }] })
})

describe('what would be lost is said', () => {
  const inputs = [anInput('Decay', 'number')]
  test('notes, rules that are off or unwritten, names, and what never takes a record', () => {
    const gate = rulesGate(inputs, [['Decay < 12', 'low'], ['Decay < 5', 'lower'], ['Decay >= 12', 'high'], ['', 'later'], ['is rotten', 'rotten']], { conditions: [{ id: '1', name: 'is rotten', feel: 'Decay >= 40' }] })
    const rules = gate.rules.map((rule, at) => (at === 0 ? { ...rule, note: 'as always' } : rule))
    const made = changed({ ...gate, rules: rules.with(2, { ...rules[2]!, condition: 'Decay in [12..40)' }) }, 'scale')
    expect(made.losses).toEqual([{ kind: 'notes', rules: [0] }, { kind: 'idle', rules: [3] }, { kind: 'names' }, { kind: 'unreached', rules: [1] }])
    expect(changeWords(made.losses)).toEqual([
      'What is noted at rule 1 goes.', 'Rule 4 goes: it is switched off, or not written yet.', 'Conditions that are used by name are written out.', 'Rule 2 goes: it never takes a record.',
    ])
  })
  test('the last rule that takes all becomes otherwise', () => {
    const made = changed(rulesGate([anInput('Species', 'text')], [['Species = "oak"', 'a'], ['-', 'b']]), 'match')
    expect(made).toMatchObject({ gate: { otherwise: gives('b'), lines: [{ values: ['oak'] }] }, losses: [{ kind: 'otherwise', rule: 1 }] })
  })
  test('folding values stand as they are folded', () => {
    const made = changed({ ...match, folds: true }, 'rules')
    expect(made.losses).toEqual([{ kind: 'spelling' }])
    expect(changed(made.gate, 'match').gate).toMatchObject({ folds: true, lines: [{ values: ['sycamore', 'common lime'] }, { values: [] }, { values: ['ginkgo'] }] })
  })
})

test.each<[string, Gate, FormName, string]>([
  ['a scale as a list', scale, 'match', 'The rules ask for stretches of Decay, and a match list looks up single values.'],
  ['a list as a scale', match, 'scale', 'Species has no order that could be cut.'],
  ['a scale as a grid', scale, 'grid', 'A grid needs two inputs, and this gate looks at Decay alone.'],
  ['three inputs as a grid', rulesGate([anInput('A', 'number'), anInput('B', 'number'), anInput('C', 'number')], [['A > 1 and B > 1 and C > 1', 'x']]), 'grid', 'A grid looks at two inputs, and these rules look at A, B and C.'],
  ['whatever is not named', rulesGate([anInput('Species', 'text')], [['Species != "oak"', 'x']]), 'match', 'A rule takes every value of Species that is not named. Give that by otherwise.'],
  ['rules that gather', rulesGate([anInput('A', 'number')], [['A > 1', 'x']], { hitPolicy: 'rule order' }), 'scale', 'Here a record can get what several rules give (rule order), and elsewhere one decides.'],
  ['a test of another kind', rulesGate([anInput('A', 'number')], [['A < 1', 'x'], ['A * 2 > 4', 'y']]), 'scale', 'Rule 2 asks “A * 2 > 4”, which is more than where one input lies.'],
  ['a hole', rulesGate([anInput('A', 'number')], [['A < 1', 'x'], ['A > 4', 'y']]), 'scale', 'Between the bands lies a stretch that gets nothing, as where A is 1.'],
  ['one value by itself', rulesGate([anInput('A', 'number')], [['A < 1', 'x'], ['A > 1', 'y'], ['A = 1', 'z']]), 'scale', '1 by itself gets something else than what is beside it.'],
  ['contested records', rulesGate([anInput('A', 'text'), anInput('B', 'text')], [['A = "x"', 'l'], ['B = "y"', 'm'], ['A = "z" and B = "z"', 'n']], { hitPolicy: 'unique' }), 'grid', 'A rule takes every value of A that is not named. Give that by otherwise.'],
])('%s: it is said why not', (_, gate, form, words) => {
  const made = changeForm(gate, form)
  expect('refusal' in made ? refusalWords(made.refusal, form) : made.gate).toBe(words)
})

test('whatever the form, every record gets what it got, blanks included', () => {
  const inputs = fc.tuple(...(['Height', 'Lean'] as const).map((name) => fc.constantFrom('hold', 'pass', null).map((blank) => anInput(name, 'number', { blank }))), fc.constantFrom('hold', 'pass', null).map((blank) => anInput('Species', 'text', { blank })))
  const small = fc.integer({ min: 0, max: 3 })
  const stretch = (name: string) => fc.oneof(fc.tuple(fc.constantFrom('<', '<=', '>', '>=', '='), small).map(([sign, at]) => `${name} ${sign} ${at}`), small.map((at) => `${name} in [${at}..${at + 1})`))
  const value = fc.oneof(fc.constantFrom('oak', 'ash', 'Oak').map((text) => `Species = "${text}"`), fc.constant('Species in ("oak", "ash")'))
  const blankTest = fc.constantFrom('Height = null', 'Species = null')
  const condition = fc.oneof({ weight: 4, arbitrary: stretch('Height') }, { weight: 2, arbitrary: value }, { weight: 4, arbitrary: fc.tuple(stretch('Height'), value).map((both) => both.join(' and ')) }, { weight: 1, arbitrary: stretch('Lean') }, { weight: 1, arbitrary: blankTest }, { weight: 1, arbitrary: fc.constant('-') })
  const gates = fc.record({ inputs, pairs: fc.array(fc.tuple(condition, fc.constantFrom('a', 'b', 'c')), { minLength: 1, maxLength: 5 }), otherwise: fc.option(fc.constantFrom('a', 'd')), hitPolicy: fc.constantFrom('first', 'first', 'unique', 'any', 'collect' as const) })
    .map(({ inputs, pairs, otherwise, hitPolicy }) => rulesGate(inputs, pairs, { hitPolicy, otherwise: otherwise === null ? null : [{ is: otherwise }] }))
  const records = [null, '-1', '0', '0.5', '1', '2', '3', '4'].flatMap((Height) => [null, 'oak', 'ash', 'Oak', 'elm'].map((Species) => ({ Height, Species, Lean: Height })))
  const made: Record<FormName, number> = { scale: 0, match: 0, grid: 0, rules: 0 }
  const resultOf = (gate: Gate, record: Record<string, string | null>) => {
    const lowering = lower(gate)
    if ('problems' in lowering) throw new Error(JSON.stringify(lowering.problems))
    const { status, outcomes } = decideRecord(lowering.lowered, givenBy(gate.inputs, record), TODAY)
    return outcomes.length > 0 ? textOfValue(outcomes[0]!) : status
  }
  fc.assert(fc.property(gates, (gate) => {
    for (const form of ['scale', 'match', 'grid'] as const) {
      const change = changeForm(gate, form)
      if ('refusal' in change) continue
      made[form]++
      const back = changed(change.gate, 'rules').gate
      for (const record of records) expect({ form, record, got: resultOf(change.gate, record), back: resultOf(back, record) }).toEqual({ form, record, got: resultOf(gate, record), back: resultOf(gate, record) })
    }
  }), { numRuns: 600 })
  for (const form of ['scale', 'match', 'grid'] as const) expect([form, made[form] > 8]).toEqual([form, true])
})

test('numbers that crowd are cut where they were', () => {
  fc.assert(fc.property(fc.uniqueArray(crowded, { minLength: 1, maxLength: 5 }), fc.constantFrom('half up', 'truncated', 'as measured'), crowded, (cuts, kind, at) => {
    const input = anInput('Height', 'number', { precision: kind === 'as measured' ? { kind } : { kind, places: 1 } } as never)
    const rules = rulesGate([input], cuts.map((cut, place) => [`Height ${place % 2 ? '>=' : '<'} ${cut}`, String(place)]), { otherwise: gives('rest') })
    const change = changeForm(rules, 'scale')
    if ('refusal' in change) return
    const labels = [rules, change.gate].map((gate) => {
      const lowering = lower(gate)
      return 'lowered' in lowering ? textOfValue(decideRecord(lowering.lowered, givenBy([input], { Height: at }), TODAY).outcomes[0] ?? null) : lowering.problems
    })
    expect(labels[1]).toEqual(labels[0])
  }), { numRuns: 300 })
})
