import type { Gate, Library } from '@dime-gate/core/gate/document'
import { anInput, rulesGate, TODAY } from '@dime-gate/core/testing/a-gate'
import { DECAY_SCALE } from '../testing/decay-scale'
import { refusal } from '../testing/refusal'
import { gateToSql } from './gate-to-sql'

const alone = (gate: Gate): Library => ({ conditions: [], gates: [gate] })
const write = (gate: Gate, wanted?: string, columns?: [string, string[]][]) => gateToSql(alone(gate), gate.name, wanted, { today: TODAY, ...(columns ? { columns: new Map(columns) } : {}) })
const decay = (change: object = {}) => anInput('Decay', 'number', change)

test('a scale is a row of ranges; a blank is caught before them', () => {
  expect(write(DECAY_SCALE)).toBe([
    'CASE', '  WHEN "Decay" IS NULL THEN NULL', `  WHEN "Decay" >= 0 AND "Decay" < 12 THEN 'Sound'`, `  WHEN "Decay" >= 12 AND "Decay" < 25 THEN 'Watch'`,
    `  WHEN "Decay" >= 25 AND "Decay" <= 40 THEN 'Weak'`, `  WHEN "Decay" > 40 THEN 'Failing'`, 'END'].join('\n'))
})

test('where blanks pass nothing is asked of them', () => {
  expect(write({ ...DECAY_SCALE, inputs: [decay({ blank: 'pass' })] }).split('\n')[1]).toBe(`  WHEN "Decay" >= 0 AND "Decay" < 12 THEN 'Sound'`)
})

test('the number of the rule, and the status', () => {
  const gate = rulesGate([decay({ blank: 'pass' })], [['Decay > 40', 'bad'], ['Decay > 12', 'so so']], { otherwise: [{ is: 'fine' }] })
  expect(write(gate, 'gate rule')).toBe('CASE\n  WHEN "Decay" > 40 THEN 1\n  WHEN "Decay" > 12 THEN 2\nEND')
  expect(write(gate, 'gate status')).toBe(`CASE\n  WHEN "Decay" > 40 THEN 'labelled'\n  WHEN "Decay" > 12 THEN 'labelled'\n  ELSE 'otherwise'\nEND`)
})

test('a record is only held where a blank could change its label', () => {
  const gate = rulesGate([decay(), anInput('Lean', 'number')], [['Decay > 40', 'bad'], ['Lean > 10', 'bad'], ['Decay <= 40', 'fine']])
  const text = write(gate)
  expect(text).toContain('("Decay" > 40) IS NOT FALSE')
  // Of the first two rules it does not matter which is true: one chain tells of both.
  expect(text.match(/WHEN \d THEN CASE/g)).toHaveLength(2)
})

test('rules that all give the same hold nobody', () => {
  const gate = rulesGate([decay()], [['Decay > 40', 'same'], ['Decay <= 40', 'same']], { otherwise: [{ is: 'same' }] })
  expect(write(gate)).not.toContain('IS NULL THEN NULL')
})

test('an always true rule ends the expression', () => {
  const gate = rulesGate([decay({ blank: 'pass' })], [['Decay > 40', 'bad'], ['-', 'rest'], ['Decay > 3', 'never']])
  expect(write(gate)).toBe(`CASE\n  WHEN "Decay" > 40 THEN 'bad'\n  ELSE 'rest'\nEND`)
})

test('columns by other names; members of a set', () => {
  expect(write(DECAY_SCALE, undefined, [['Decay', ['decay_percent']]])).toContain('"decay_percent" >= 0')
  const course = rulesGate([anInput('Modules', 'number', { isSet: true })], [['max(Modules) > 4', 'good']])
  expect(write(course, undefined, [['Modules', ['m1', 'm2']]])).toContain('(SELECT max(value) FROM (VALUES ("m1"), ("m2")) AS member (value)) > 4')
  expect(refusal(() => write(DECAY_SCALE, undefined, [['Decay', ['a', 'b']]]))).toMatch(/“Decay” takes one column, not 2/)
})

test('precision and figures are written where they are used', () => {
  const gate = rulesGate([decay({ precision: { kind: 'half even', places: 0 }, blank: 'pass' })], [['Decay > 40', 'bad']])
  expect(write(gate)).toContain('round("Decay", 0)')
  const truncated = rulesGate([decay({ precision: { kind: 'truncated', places: 1 }, blank: 'pass' })], [['Decay > 40', 'bad']])
  expect(write(truncated)).toContain('trunc("Decay", 1) > 40')
})

test('a gate that another uses stands inside it; only the wanted one is written', () => {
  const fed = rulesGate([{ ...anInput('Band', 'text'), source: { kind: 'gate', gate: 'Decay band', outcome: null } }], [['Band = "Failing"', 'fell']], { name: 'Felling' })
  const text = gateToSql({ conditions: [], gates: [DECAY_SCALE, fed] }, 'Felling')
  expect(text).toContain(`WHEN "Decay" > 40 THEN 'Failing'`)
  expect(text).toContain(`THEN 'fell'`)
})

test.each<[string, () => unknown, RegExp]>([
  ['a gate that there is not', () => gateToSql(alone(DECAY_SCALE), 'Other'), /no gate “Other”/],
  ['an outcome that there is not', () => write(DECAY_SCALE, 'Points'), /no outcome “Points”. There are: Label, gate status, gate rule/],
  ['a gate that cannot decide', () => write(rulesGate([decay()], [['Decai > 3', 'x']])), /cannot decide yet: Nothing is named “Decai”/],
  ['a policy of lists', () => write(rulesGate([decay()], [['Decay > 3', 'x']], { hitPolicy: 'output order' })), /“output order” gives a list/],
  ['a day that nobody said', () => gateToSql(alone(rulesGate([anInput('Due', 'date')], [['Due < today()', 'x']])), 'Gate'), /Say which day counts as today/],
  ['results that are computed, of rules that must agree', () => write(rulesGate([decay()], [['Decay > 3', 'x']], { hitPolicy: 'unique', rules: [{ condition: 'Decay > 3', entries: [{ feel: '"a" + "b"' }], note: '' }] })), /results that are computed cannot be written/],
  ['a pattern', () => write(rulesGate([anInput('Species', 'text')], [['matches(Species, "o+")', 'x']])), /“matches” cannot be written in SQL/],
])('%s is refused by name', (_, work, message) => expect(refusal(work)).toMatch(message))

test('an input that nothing looks at troubles nobody', () => {
  const gate = rulesGate([decay({ blank: 'pass' }), { ...anInput('Odd', 'boolean'), source: { kind: 'figure', feel: 'matches(string(Decay), "7$")' } }], [['Decay > 40', 'bad']])
  expect(refusal(() => gateToSql(alone(gate), 'Gate'))).toBeNull()
})

test('gates within gates within gates are refused before they grow without end', () => {
  const from = (gate: string) => ({ ...anInput('Before', 'text'), source: { kind: 'gate' as const, gate, outcome: null } })
  const chain = Array.from({ length: 12 }, (_, at) => rulesGate([at === 0 ? anInput('Before', 'text') : from(`Gate ${at - 1}`)], ['a', 'b', 'c', 'd'].map((text) => [`Before = "${text}"`, text]), { name: `Gate ${at}` }))
  expect(refusal(() => gateToSql({ conditions: [], gates: chain }, 'Gate 11'))).toMatch(/too many to stand inside another gate/)
})

test('a text that looks like asking for the day does not ask', () => {
  const gate = rulesGate([anInput('Species', 'text')], [['Species = "today()"', 'x']])
  expect(refusal(() => gateToSql(alone(gate), 'Gate'))).toBeNull()
})
