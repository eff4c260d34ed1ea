import type { Gate, ScaleGate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { anInput, band, rulesGate } from '@dime-gate/core/testing/a-gate'
import { givenInputs } from '@dime-gate/contract/question'
import { checkExamples, keptExample, proposals, tryOut, typedExample, typedRecord, typedText } from './trial'

const SCALE: ScaleGate = plainScale('Decay band', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }, { at: '25', owner: 'above' }], ['Sound', 'Watch', 'Weak'].map(band))
const RULES = rulesGate([anInput('Due', 'date'), anInput('Dead', 'boolean'), anInput('Modules', 'number', { isSet: true }), anInput('Band', 'text', { source: { kind: 'gate', gate: 'Decay band', outcome: null } })],
  [['Dead', 'fell'], ['Due < today()', 'late'], ['mean(Modules) >= 4', 'crown'], ['Band = "Weak"', 'weak']])
const FED = [{ gate: SCALE as Gate, inputs: {} }]
const tried = (gate: Gate, typed: Record<string, string>, feeding = [] as typeof FED) => tryOut({ gate, feeding }, typed, '2026-03-02')!

test('a value gets its label, with the cut that is nearest', () => {
  expect(tried(SCALE, { Decay: '26.5' })).toMatchObject({ label: 'Weak', reasons: [], nearest: { at: '25', distance: '1.5' } })
  expect(tried(SCALE, { Decay: '11.9' })).toMatchObject({ label: 'Sound', nearest: { at: '12', distance: '-0.1' } })
  expect(tried(SCALE, { Decay: '12' })).toMatchObject({ label: 'Watch', reasons: [{ kind: 'edge', at: '12', side: 'on' }], nearest: null })
})

test('what is blank holds, and what cannot be read says so', () => {
  expect(tried(SCALE, {})).toMatchObject({ label: null, reasons: [{ kind: 'held', inputs: ['Decay'] }], nearest: null })
  expect(tried(SCALE, { Decay: 'many' })).toMatchObject({ label: null, reasons: [{ kind: 'unreadable', input: 'Decay', text: 'many' }] })
})

test('values of every kind are read as they are typed', () => {
  expect(tried(RULES, { Dead: 'yes' }, FED).label).toBe('fell')
  expect(tried(RULES, { Dead: 'no', Due: '1.3.2026' }, FED).label).toBe('late')
  expect(tried(RULES, { Dead: 'no', Due: '2026-03-09', Modules: '4; 4,5; ;3.9' }, FED).why.inputs.find(({ name }) => name === 'Modules')).toMatchObject({ unreadable: '4,5' })
  expect(tried(RULES, { Dead: 'no', Due: '2026-03-09', Modules: '4; ;4.5' }, FED).label).toBe('crown')
})

test('the inputs of the gates that feed are asked for as well, each name once', () => {
  expect(givenInputs({ gate: RULES, feeding: FED }).map(({ name }) => name)).toEqual(['Decay', 'Due', 'Dead', 'Modules'])
  expect(tried(RULES, { Dead: 'no', Due: '2026-03-09', Modules: '1', Decay: '30' }, FED).label).toBe('weak')
})

test('a gate that cannot decide is not tried', () => expect(tryOut({ gate: RULES, feeding: [] }, {}, '2026-03-02')).toBeNull())

test('an example is kept as it was typed, and told when it gets something else', () => {
  const question = { gate: RULES, feeding: FED }
  const kept = keptExample(question, { Dead: 'no', Due: '9.3.2026', Modules: '4; ;4.5', Decay: '' }, 'crown')
  expect(kept).toEqual({ values: { Dead: 'false', Due: '2026-03-09', Modules: '4;;4.5' }, label: 'crown' })
  const gate = { ...RULES, examples: [kept, { ...kept, label: 'fell' }, { values: {}, label: null }] }
  expect(checkExamples({ gate, feeding: FED }, '2026-03-02').map(({ gets, isMet, rule }) => [gets, isMet, rule])).toEqual([['crown', true, 2], ['crown', false, 2], [null, true, -1]])
  // On another day it is overdue.
  expect(checkExamples({ gate, feeding: FED }, '2026-03-10').map(({ gets, isMet }) => [gets, isMet])).toEqual([['late', false], ['late', false], [null, true]])
  expect(checkExamples({ gate, feeding: [] }, '2026-03-02')).toEqual([])
})

test('a value that was kept can be typed again', () => {
  expect(tried(SCALE, { Decay: typedText(SCALE.inputs[0]!, '-3.5') }).why.inputs[0]!.value).toMatchObject({})
  expect(typedText(RULES.inputs[2]!, '4;;4.5')).toBe('4; ; 4.5')
  expect(typedText(RULES.inputs[0]!, '2026-03-09')).toBe('2026-03-09')
})

test('values at every cut are proposed, and those beside it', () => {
  const cuts = [{ of: 'Decay', at: '12' }, { of: 'Decay', at: '25.5' }, { of: 'Due', at: '2026-03-01' }, { of: 'Decay * 2', at: '3' }]
  expect(proposals({ gate: SCALE, feeding: [] }, cuts)).toEqual([{ input: 'Decay', values: ['11.9', '12', '12.1'] }, { input: 'Decay', values: ['25.4', '25.5', '25.6'] }])
  expect(proposals({ gate: RULES, feeding: [] }, cuts)).toEqual([{ input: 'Due', values: ['2026-02-28', '2026-03-01', '2026-03-02'] }])
})

test('a record is typed as its columns stand for the inputs, those of gates that feed too; what could not be read stays as it was written', () => {
  const inner = rulesGate([anInput('Decay', 'number')], [['Decay > 40', 'Failing']], { name: 'Band' })
  const outer = rulesGate([anInput('Level', 'text', { source: { kind: 'gate', gate: 'Band', outcome: null } }), anInput('Modules', 'number', { isSet: true }), anInput('Lean', 'number')], [])
  const question = { gate: outer, inputs: { Modules: { columns: [3, 1] } }, feeding: [{ gate: inner, inputs: { Decay: { column: 2 } } }] }
  const cells: [string | null, string | null][] = [['4.5', null], [null, 'n/a'], ['3', '3.0']]
  expect(typedRecord(question, [{ id: 1 }, { id: 2 }, { id: 3 }], cells)).toEqual({ Decay: 'n/a', Modules: '3; 4.5', Lean: '' })
  expect(typedExample(question, { values: { Modules: '1;2' } })).toEqual({ Decay: '', Modules: '1; 2', Lean: '' })
})
