import type { Gate, Library } from '@dime-gate/core/gate/document'
import { anInput, rulesGate, TODAY } from '@dime-gate/core/testing/a-gate'
import { DECAY_SCALE } from '../testing/decay-scale'
import { refusal } from '../testing/refusal'
import { gateToFormula } from './gate-to-formula'

const alone = (gate: Gate): Library => ({ conditions: [], gates: [gate] })
const write = (gate: Gate, wanted?: string) => gateToFormula(alone(gate), gate.name, wanted, TODAY)
/** What a test that passes on blanks becomes, as the only rule. */
const tested = (condition: string, ...inputs: ReturnType<typeof anInput>[]) => write(rulesGate(inputs.map((input) => ({ ...input, blank: 'pass' as const })), [[condition, 'x']]))
const number = (name: string, change: object = {}) => anInput(name, 'number', change)

test('a scale asks once whether there is a number', () => {
  expect(write(DECAY_SCALE)).toBe('=IF(NOT(ISNUMBER(Decay)); ""; IF(AND(Decay >= 0; Decay < 12); "Sound"; IF(AND(Decay >= 12; Decay < 25); "Watch"; IF(AND(Decay >= 25; Decay <= 40); "Weak"; IF(Decay > 40; "Failing"; "")))))')
  expect(write(DECAY_SCALE, 'gate status')).toMatch(/^=IF\(NOT\(ISNUMBER\(Decay\)\); "held"; .*"unplaced"\)+$/)
  expect(write(DECAY_SCALE, 'gate rule')).toMatch(/; 4; ""\)+$/)
})

describe('names of cells', () => {
  test.each([
    ['Decay', 'Decay'], ['Stands by', "$$'Stands by'"], ['M1', "$$'M1'"], ['ABC12', "$$'ABC12'"], ["Owner's share", "$$'Owner''s share'"], ['Höhe', 'Höhe'], ['R1C1', "$$'R1C1'"], ['Module_1', 'Module_1'], ['a-b', "$$'a-b'"],
  ])('%s', (name, written) => expect(tested(`${name} > 3`, number(name))).toBe(`=IF(IF(ISNUMBER(${written}); ${written} > 3; FALSE()); "x"; "")`))
})

describe('tests', () => {
  test.each<[string, ReturnType<typeof anInput>[], string]>([
    ['Species = "oak"', [anInput('Species', 'text')], 'IF(LEN(Species) > 0; EXACT(Species; "oak"); FALSE())'],
    ['Species in ("oak", "say ""ash""")'.replaceAll('""', '\\"'), [anInput('Species', 'text')], 'IF(LEN(Species) > 0; OR(EXACT(Species; "oak"); EXACT(Species; "say ""ash""")); FALSE())'],
    // FEEL says that null is different from oak.
    ['Species != "oak"', [anInput('Species', 'text')], 'IF(LEN(Species) > 0; NOT(EXACT(Species; "oak")); TRUE())'],
    ['Dead', [anInput('Dead', 'boolean')], 'IF(ISLOGICAL(Dead); Dead; FALSE())'],
    ['Due < @"2026-03-02"', [anInput('Due', 'date')], 'IF(ISNUMBER(Due); Due < DATE(2026; 3; 2); FALSE())'],
    ['(today() - Due).days > 30', [anInput('Due', 'date')], 'IF(ISNUMBER(Due); DATE(2026; 3; 2) - Due > 30; FALSE())'],
    ['years and months duration(Due, today()).years >= 7', [anInput('Due', 'date')], 'IF(ISNUMBER(Due); DATEDIF(Due; DATE(2026; 3; 2); "y") >= 7; FALSE())'],
    ['Height / Trunk > 0.8', [number('Height'), number('Trunk')], 'IF(AND(ISNUMBER(Height); ISNUMBER(Trunk)); IFERROR(Height / Trunk > 0.8; FALSE()); FALSE())'],
    ['Height - (Trunk - 1) > -2 * (Height + 1)', [number('Height'), number('Trunk')], 'IF(AND(ISNUMBER(Height); ISNUMBER(Trunk)); Height - (Trunk - 1) > -2 * (Height + 1); FALSE())'],
    ['Height = null', [number('Height')], 'NOT(ISNUMBER(Height))'],
    ['Height != null and Height in [3..5)', [number('Height')], 'AND(ISNUMBER(Height); IF(ISNUMBER(Height); AND(Height >= 3; Height < 5); FALSE()))'],
    ['mean(Modules) >= 3', [number('Modules', { isSet: true })], 'IFERROR(AVERAGE(Modules) >= 3; FALSE())'],
    ['contains(Species, "oak")', [anInput('Species', 'text')], 'IF(LEN(Species) > 0; ISNUMBER(FIND("oak"; Species)); FALSE())'],
    ['round half up(Height, 1) > 3', [number('Height')], 'IF(ISNUMBER(Height); ROUND(Height; 1) > 3; FALSE())'],
    ['floor(Height) > 3 or ceiling(Height) < 1', [number('Height')], 'OR(IF(ISNUMBER(Height); INT(Height) > 3; FALSE()); IF(ISNUMBER(Height); -INT(-Height) < 1; FALSE()))'],
    ['not(Height > 3)', [number('Height')], 'IF(ISNUMBER(Height); NOT(Height > 3); FALSE())'],
  ])('%s', (condition, inputs, formula) => expect(tested(condition, ...inputs)).toBe(`=IF(${formula}; "x"; "")`))
})

test('what a blank leaves open is asked for twice', () => {
  const gate = rulesGate([number('Decay'), number('Lean')], [['Decay > 40', 'bad'], ['Lean > 10', 'so so']])
  const text = write(gate)
  expect(text).toContain('IF(ISNUMBER(Decay); Decay > 40; TRUE())')
  expect(text).toContain('IF(ISNUMBER(Decay); Decay > 40; FALSE())')
  expect(text).toMatch(/^=CHOOSE\(/)
})

test('precision, figures and other gates are written where they are used', () => {
  const fed = rulesGate([{ ...anInput('Band', 'text'), source: { kind: 'gate', gate: 'Decay band', outcome: null }, blank: 'pass' }], [['Band = "Failing"', 'fell']], { name: 'Felling' })
  expect(gateToFormula({ conditions: [], gates: [DECAY_SCALE, fed] }, 'Felling')).toContain('IF(Decay > 40; "Failing"; "")')
  const rounded = rulesGate([number('Decay', { precision: { kind: 'truncated', places: 1 }, blank: 'pass' })], [['Decay > 40', 'bad']])
  expect(write(rounded)).toContain('ROUNDDOWN(Decay; 1) > 40')
})

test.each<[string, () => unknown, RegExp]>([
  ['a policy that gathers', () => write(rulesGate([number('Decay')], [['Decay > 3', 'x']], { hitPolicy: 'unique' })), /“unique” cannot be written as a formula/],
  ['the order of texts', () => tested('Species < "oak"', anInput('Species', 'text')), /The order of texts/],
  ['a pattern', () => tested('matches(Species, "o+")', anInput('Species', 'text')), /“matches”/],
  ['a time', () => tested('At < @"10:00:00"', anInput('At', 'time')), /cannot be written/],
  ['a day that nobody said', () => gateToFormula(alone(rulesGate([anInput('Due', 'date')], [['Due < today()', 'x']])), 'Gate'), /Say which day/],
  ['inputs that hold among others that pass', () => write(rulesGate([number('a'), number('b', { blank: 'pass' })], [['a > b', 'x']])), /inputs that hold and others that pass/],
  ['a gate that there is not', () => gateToFormula(alone(DECAY_SCALE), 'Other'), /no gate “Other”/],
])('%s is refused by name', (_, work, message) => expect(refusal(work)).toMatch(message))

test('an input that nothing looks at troubles nobody', () => {
  const gate = rulesGate([number('Decay', { blank: 'pass' }), { ...anInput('Odd', 'boolean'), source: { kind: 'figure', feel: 'matches(string(Decay), "7$")' } }], [['Decay > 40', 'bad']])
  expect(refusal(() => gateToFormula(alone(gate), 'Gate'))).toBeNull()
})

test('gates within gates within gates are refused before they grow without end', () => {
  const from = (gate: string) => ({ ...anInput('Before', 'text'), source: { kind: 'gate' as const, gate, outcome: null } })
  const chain = Array.from({ length: 12 }, (_, at) => rulesGate([at === 0 ? anInput('Before', 'text') : from(`Gate ${at - 1}`)], ['a', 'b', 'c', 'd'].map((text) => [`Before = "${text}"`, text]), { name: `Gate ${at}` }))
  expect(refusal(() => gateToFormula({ conditions: [], gates: chain }, 'Gate 11'))).toMatch(/too many to stand inside another gate/)
})

test('a text that looks like asking for the day does not ask', () => {
  const gate = rulesGate([anInput('Species', 'text')], [['Species = "today()"', 'x']])
  expect(refusal(() => gateToFormula(alone(gate), 'Gate'))).toBeNull()
})
