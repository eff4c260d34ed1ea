import { parseDate } from '../value/temporal'
import { textOfValue } from '../value/value-text'
import type { ValueKind } from '../value/value'
import type { Gate, Input, RulesGate, ScaleGate } from '../gate/document'
import { lowered } from '../rule/lower'
import { anInput, rulesGate } from '../testing/a-gate'
import type { FindingKind } from './finding'
import { findingsOf } from './findings'

const TODAY = parseDate('2026-03-02')!
const input = (name: string, type: ValueKind, change: Partial<Input> = {}): Input => ({
  name, type, isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: 'hold', ...change,
})
const look = { colour: '#7fa99a', mark: 'disc' as const }
const INPUTS = [input('Score', 'number'), input('Lean', 'number'), input('Species', 'text'), input('Due', 'date'), input('Dead', 'boolean')]

function rules(pairs: [condition: string, label: string][], change: Partial<RulesGate> = {}): RulesGate {
  return {
    schema: 1, form: 'rules', name: 'Marks', inputs: INPUTS, hitPolicy: 'first', otherwise: null, outcomes: [{ name: 'Label', type: 'text', labels: [] }],
    rules: pairs.map(([condition, label]) => ({ condition, entries: [{ is: label }], note: '' })), ...change,
  }
}

function found(gate: Gate, kind: FindingKind) {
  const { findings } = findingsOf(lowered(gate), TODAY)
  return findings.filter((finding) => finding.kind === kind).map(({ severity, rules, where, example, labels }) => ({
    severity, rules, where, labels, example: example && Object.fromEntries(Object.entries(example).filter(([name]) => name in where || Object.keys(where).length === 0).map(([name, value]) => [name, textOfValue(value)])),
  }))
}

test('a scale that is whole has nothing to tell', () => {
  const scale: ScaleGate = {
    schema: 1, form: 'scale', name: 'Decay band', inputs: [input('Score', 'number')], on: 'Score', floor: null, ceiling: null, otherwise: null,
    outcomes: [{ name: 'Label', type: 'text', labels: ['low', 'middle', 'high'].map((value, rank) => ({ value, ...look, rank })) }],
    cuts: [{ at: '12', owner: 'above' }, { at: '25', owner: 'below' }], bands: ['low', 'middle', 'high'].map((label) => ({ entries: [{ is: label }] })),
  }
  expect(findingsOf(lowered(scale), TODAY)).toEqual({ findings: [], more: {}, unproven: [], areGapsProven: true })
})

describe('what no rule takes', () => {
  test('a gap, with a value in it; where there is an otherwise, a note of what it swallows', () => {
    const pairs: [string, string][] = [['Score < 10', 'low'], ['Score in [12..20]', 'middle'], ['Score >= 30', 'high']]
    expect(found(rules(pairs), 'gap').map(({ severity, where }) => [severity, where.Score])).toEqual([['warning', '[10..12)'], ['warning', '(20..30)']])
    expect(found(rules(pairs, { otherwise: [{ is: 'rest' }] }), 'gap').map(({ severity }) => severity)).toEqual(['note', 'note'])
  })
  test('an edge hole: exactly the cut is taken by nobody', () => {
    expect(found(rules([['Score < 50', 'fail'], ['Score > 50', 'pass']]), 'edge hole')).toEqual([{ severity: 'error', rules: [], where: { Score: '50' }, labels: [], example: { Score: '50' } }])
    expect(found(rules([['Score < 50', 'fail'], ['Score > 50', 'pass']], { otherwise: [{ is: 'x' }] }), 'edge hole')).toMatchObject([{ severity: 'warning' }])
  })
  test('a step hole: whole numbers leave what lies between them', () => {
    expect(found(rules([['Score <= 49', 'c'], ['Score in [50..64]', 'b'], ['Score >= 65', 'a']]), 'step hole').map(({ where, example }) => [where.Score, example!.Score])).toEqual([['(49..50)', '49.5'], ['(64..65)', '64.5']])
  })
  test('a precision closes it', () => {
    const whole = rules([['Score <= 49', 'c'], ['Score in [50..64]', 'b'], ['Score >= 65', 'a']], { inputs: [input('Score', 'number', { precision: { kind: 'truncated', places: 0 } })] })
    expect(findingsOf(lowered(whole), TODAY).findings).toEqual([])
  })
  test('days have none between them, and what is not expected is no gap', () => {
    expect(found(rules([['Due <= @"2026-03-01"', 'late'], ['Due >= @"2026-03-02"', 'in time']]), 'gap')).toEqual([])
    const expected = [input('Score', 'number', { expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '100', included: true } } })]
    expect(found(rules([['Score in [0..50)', 'a'], ['Score in [50..100]', 'b']], { inputs: expected }), 'gap')).toEqual([])
    expect(found(rules([['Score in [0..50)', 'a'], ['Score in [50..99]', 'b']], { inputs: expected }), 'gap')).toMatchObject([{ where: { Score: '(99..100]' } }])
  })
  test('over two inputs, where one rule forgot a corner', () => {
    const gaps = found(rules([['Score >= 50 and Species = "oak"', 'a'], ['Score < 50', 'b'], ['Species != "oak" and Score > 60', 'c']]), 'gap')
    expect(gaps).toMatchObject([{ where: { Score: '[50..60]', Species: 'not("oak")' } }])
  })
  test('yes and no are all there is', () => {
    expect(found(rules([['Dead', 'fell'], ['not(Dead)', 'leave']]), 'gap')).toEqual([])
    expect(found(rules([['Dead', 'fell'], ['not(Dead) and Score > 3', 'leave']]), 'gap')).toMatchObject([{ where: { Dead: 'false', Score: '<= 3' } }])
  })
})

describe('rules and each other', () => {
  test('an overlap is a note where order decides, an error where a rule must be alone', () => {
    const pairs: [string, string][] = [['Score > 40', 'a'], ['Score > 30 and Dead', 'b'], ['Score in [35..38]', 'a']]
    expect(found(rules(pairs), 'overlap').map(({ severity, rules }) => [severity, rules])).toEqual([['note', [1, 0]], ['note', [2, 1]]])
    expect(found(rules(pairs, { hitPolicy: 'unique' }), 'overlap').map(({ severity }) => severity)).toEqual(['error', 'error'])
  })
  test('a rule is never reached when earlier ones take everything, together too', () => {
    const never = found(rules([['Score < 50', 'a'], ['Score >= 50 and Dead', 'b'], ['Score >= 50 and not(Dead)', 'c'], ['Species = "oak"', 'd'], ['Score < 3 and Score > 5', 'e']]), 'never reached')
    expect(never.map(({ rules, labels }) => [rules, labels])).toEqual([[[3, 0, 1, 2], ['d']], [[4], ['e']]])
    expect(never[0]!.example).toMatchObject({ Species: 'oak' })
    expect(never[1]!.example).toBeNull()
  })
  test('a rule has no effect when what comes after gives the same', () => {
    expect(found(rules([['Score > 70', 'a'], ['Score > 50', 'a'], ['-', 'b']]), 'no effect').map(({ rules }) => rules)).toEqual([[0]])
    expect(found(rules([['Score > 70', 'a'], ['Score > 60', 'b'], ['Score > 50', 'a'], ['-', 'b']]), 'no effect')).toEqual([])
    expect(found(rules([['Score > 70', 'a'], ['Score > 60', 'b']], { otherwise: [{ is: 'b' }] }), 'no effect').map(({ rules }) => rules)).toEqual([[1]])
  })
})

describe('single values of what has an order', () => {
  const days = ['1990-01-03', '1990-01-09', '1990-02-11', '1990-03-05', '1990-04-01']
  const listed = (labels: string[]) => rulesGate([anInput('Planted', 'date')], labels.map((label, at): [string, string] => [`Planted = @"${days[at]!}"`, label]))
  test('all that lies between many of them is left out as one', () => {
    const gaps = found(listed(['a', 'b', 'c', 'd', 'e']), 'gap')
    expect(gaps).toHaveLength(1)
    expect(gaps[0]!.example).not.toBeNull()
    // Of a few, each stretch is told.
    expect(found(listed(['a', 'b']), 'gap')).toHaveLength(3)
  })
  test('whose label comes again was listed so', () => {
    expect(found(listed(['a', 'b', 'a', 'b', 'a']), 'split label')).toEqual([])
    expect(found(rulesGate([anInput('Planted', 'date')], [['Planted = @"1990-01-03"', 'a'], ['Planted < @"1991-01-01"', 'b'], ['-', 'a']]), 'split label').map(({ labels }) => labels)).toEqual([['b'], ['a']])
  })
})

describe('along one input', () => {
  test('a label on two stretches, and ranks that turn back', () => {
    const pairs: [string, string][] = [['Score < 10', 'low'], ['Score < 20', 'high'], ['Score < 30', 'low'], ['-', 'top']]
    expect(found(rules(pairs), 'split label')).toMatchObject([{ labels: ['low'], where: { Score: '< 10, [20..30)' }, example: { Score: '20' } }])
    const ranked = rules(pairs.with(2, ['Score < 30', 'middle']), { outcomes: [{ name: 'Label', type: 'text', labels: ['low', 'middle', 'high', 'top'].map((value, rank) => ({ value, ...look, rank })) }] })
    expect(found(ranked, 'rank break')).toMatchObject([{ labels: ['high', 'middle'], where: { Score: '[20..30)' } }])
    expect(found(ranked, 'split label')).toEqual([])
  })
})

describe('inputs and labels', () => {
  test('tests beyond what is expected', () => {
    const inputs = [input('Score', 'number', { expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '5', included: true } } }), input('Species', 'text', { expected: { kind: 'list', values: ['oak', 'ash'] } })]
    expect(found(rules([['Score > 65', 'a'], ['Species = "elm"', 'b'], ['-', 'c']], { inputs }), 'outside range').map(({ where }) => where)).toEqual([{ Score: '65' }, { Species: '"elm"' }])
  })
  test('labels that are nearly the same', () => {
    const near = (a: string, b: string) => found(rules([['Score > 1', a], ['-', b]]), 'near-same labels').length
    expect([near('This week', 'this  week'), near('overdue', 'overdeu'), near('follow-up', 'follow up')]).toEqual([1, 1, 1])
    expect([near('Band 1', 'Band 2'), near('low', 'now'), near('climb', 'ground')]).toEqual([0, 0, 0])
  })
  test('a blank that nobody spoke of, unless it can hold no record', () => {
    const silent = INPUTS.map((one) => ({ ...one, blank: null }))
    expect(found(rules([['Score > 1', 'a'], ['-', 'b']], { inputs: silent }), 'blank unsaid')).toMatchObject([{ severity: 'note', example: { Score: '' } }])
    expect(found(rules([['Score > 1', 'a'], ['-', 'a']], { inputs: silent }), 'blank unsaid')).toEqual([])
    expect(found(rules([['Score > 1', 'a'], ['-', 'b']]), 'blank unsaid')).toEqual([])
  })
})

test('expressions over several inputs are told as not proven, with a record that shows it', () => {
  const { findings } = findingsOf(lowered(rules([['Score / Lean > 80', 'slender'], ['Score / Lean < 80', 'stout']])), TODAY)
  const [hole] = findings.filter(({ kind }) => kind === 'edge hole')
  expect(hole).toMatchObject({ axis: 'Score / Lean', isProven: false, where: { 'Score / Lean': '80' } })
  const { Score, Lean } = hole!.example!
  expect(textOfValue(Score!)).toBe(String(80 * Number(textOfValue(Lean!))))
})

test('hundreds of intricate rules end, and what was not proven is told', () => {
  const inputs = Array.from({ length: 10 }, (_, at) => input(`N${at}`, 'number'))
  const conditions = Array.from({ length: 300 }, (_, rule): [string, string] => {
    const parts = inputs.map(({ name }, at) => `${name} in [${(rule * 7 + at * 13) % 50}..${(rule * 7 + at * 13) % 50 + 60})`)
    return [rule % 10 === 0 ? `not(${parts.slice(0, 5).join(' and ')}) or (${parts.slice(5).join(' and ')})` : parts.join(' and '), `label ${rule % 9}`]
  })
  const { findings, unproven, areGapsProven, more } = findingsOf(lowered(rules(conditions, { inputs })), TODAY)
  expect(findings.length + unproven.length + Object.keys(more).length + Number(areGapsProven)).toBeGreaterThan(0)
  const intricate = [0, 2, 4, 6, 8].map((at) => `(N${at} < 1 or N${at} > 5 or N${at + 1} < 1 or N${at + 1} > 5)`).join(' and ')
  expect(findingsOf(lowered(rules([[intricate, 'a'], ['-', 'b']], { inputs })), TODAY).unproven).toEqual([0])
}, 20_000)
