import type { Exception } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import { anInput } from '@dime-gate/core/testing/a-gate'
import { holdsUntil, markWords, toleranceWords, whatChanged, whyHere } from './exception-words'

const run = (...inputs: string[]) => ({ gate: { inputs: inputs.map((name) => anInput(name, 'number')) } }) as unknown as Run
const BASIS = { landed: '=Weak', rule: '[25..40)', values: { Decay: '39.5' } }
const seen = (change: Partial<Exception>): Exception => ({ reasons: [], landing: { kind: 'label', label: 'Weak' }, basis: BASIS, mark: null, state: 'open', keys: [], ...change }) as Exception
const mark = (change: object): Exception['mark'] => ({ id: 1, act: 1, kind: 'settled', note: '', by: '', at: '2026-03-02', outcomes: null, keys: [], basis: BASIS, ...change }) as Exception['mark']

test.each<[string, Partial<Exception>, string[], string]>([
  ['a value just short of a cut says both', { reasons: [{ kind: 'edge', of: 'Decay', at: '40', side: 'short' }] }, ['Decay'], '39.5, just short of 40'],
  ['a value on a cut is said once', { reasons: [{ kind: 'edge', of: 'Decay', at: '39.5', side: 'on' }] }, ['Decay'], 'exactly 39.5'],
  ['off the scale', { reasons: [{ kind: 'off the scale', input: 'Decay', end: 'ceiling', at: '30' }], landing: { kind: 'unplaced' } }, ['Decay'], '39.5, beyond the ceiling of 30'],
  ['several reasons follow each other', { reasons: [{ kind: 'held', inputs: ['Lean', 'Decay'] }, { kind: 'changed', from: 'Sound' }] }, ['Decay', 'Lean'], 'held for Lean and Decay; was Sound'],
  ['a highlight by its name', { reasons: [{ kind: 'highlighted', name: 'Near the school' }] }, ['Decay'], 'Near the school'],
  ['without a reason it was overridden', {}, ['Decay'], 'given another label by hand'],
])('%s', (_, change, inputs, wanted) => {
  expect(whyHere(seen(change), run(...inputs))).toBe(wanted)
})

test('what changed is told value by value, then the label, then the rule', () => {
  expect(whatChanged(BASIS, { landed: '=Failing', rule: '>= 40', values: { Decay: '41' } })).toEqual(['Decay 39.5 → 41', 'Weak → Failing', 'the rule: [25..40) → >= 40'])
  expect(whatChanged({ ...BASIS, values: { Decay: null } }, { ...BASIS, landed: 'held', rule: null })).toEqual(['Decay blank → 39.5', 'Weak → held', 'the rule: [25..40) → none'])
  expect(whatChanged(BASIS, { ...BASIS, values: { ...BASIS.values, Lean: '4' } })).toEqual([])
})

test('a mark says who did what and why; one that lapsed says by what', () => {
  expect(markWords(seen({ state: 'settled', mark: mark({ note: 'measured twice', by: 'Ilo' }) }))).toBe('settled by Ilo: measured twice')
  expect(markWords(seen({ state: 'overridden', mark: mark({ kind: 'overridden', outcomes: { Label: 'Failing', Points: null }, note: 'leans' }) }))).toBe('overridden to Failing, nothing: leans')
  expect(markWords(seen({ state: 'lapsed', mark: mark({ basis: { ...BASIS, values: { Decay: '38' } } }) }))).toBe('was settled · Decay 38 → 39.5')
  expect(markWords(seen({ state: 'lapsed', keys: ['b'], mark: mark({ keys: ['a'] }) }))).toBe('was settled · there is another reason now')
  expect(markWords(seen({}))).toBe('')
})

test('it is told when it stops to hold', () => {
  expect([holdsUntil(['Decay']), holdsUntil(['Decay', 'Lean']), holdsUntil([]), holdsUntil(['a', 'b', 'c', 'd'])].map((words) => words.split(',')[0])).toEqual(['holds until Decay', 'holds until Decay and Lean', 'holds until a value', 'holds until one of its values'])
})

test('how near is near is told of each input that says so, once', () => {
  const of = (...inputs: [string, string | null, string][]) => ({ gate: { inputs: inputs.map(([name, tolerance, unit]) => anInput(name, 'number', { tolerance, unit })) } }) as unknown as Run
  expect(toleranceWords([of(['Decay', '0.5', '%'], ['Lean', null, '°']), of(['Decay', '0.5', '%'], ['Mean', '5%', 'points'])])).toBe('Decay within 0.5 %, Mean within 5 % of it')
  expect(toleranceWords([of(['Lean', null, '°'])])).toBe('')
})
