import fc from 'fast-check'
import type { Gate, Label, RulesGate } from '../gate/document'
import { givenNumber, plainScale } from '../gate/scale-gate'
import { isInside } from '../gate/interval'
import { lower } from '../rule/lower'
import { decideRecord } from '../decide/decide-record'
import { anInput, band, rulesGate, TODAY } from '../testing/a-gate'
import { Decimal } from '../value/number'
import type { Value } from '../value/value'
import { valueFromText } from '../value/value-text'
import { nextFinder } from './next-label'

const ranked = (...values: string[]): Label[] => values.map((value, rank) => ({ value, colour: '#7fa99a', mark: 'disc', rank }))
const withRanks = <Form extends Gate>(gate: Form, ...values: string[]): Form => ({ ...gate, outcomes: [{ name: 'Award', type: 'text', labels: ranked(...values) }] })
const number = (text: string) => new Decimal(text)
const award = withRanks(plainScale('Award', givenNumber('Mean', '%'), [{ at: '50', owner: 'above' }, { at: '70', owner: 'below' }], [band('Fail'), band('Pass'), band('Merit')]), 'Fail', 'Pass', 'Merit')

test('of a scale it is the next cut, from the side that owns it', () => {
  const { next } = nextFinder(award, TODAY)!
  expect(next('Fail', new Map([['Mean', number('41.5')]]))).toEqual({ label: 'Pass', ways: [{ input: 'Mean', kind: 'stretch', stretch: { low: { at: '50', included: true }, high: null }, isRise: true, past: '8.5' }] })
  expect(next('Pass', new Map([['Mean', number('70')]]))).toEqual({ label: 'Merit', ways: [{ input: 'Mean', kind: 'stretch', stretch: { low: { at: '70', included: false }, high: null }, isRise: true, past: '0' }] })
  expect(next('Merit', new Map([['Mean', number('71')]]))).toBeNull()
  expect(next(null, new Map())).toBeNull()
})

test('without ranks nothing is above anything', () => {
  const plain = plainScale('Award', givenNumber('Mean', '%'), [{ at: '50', owner: 'above' }], [band('Fail'), band('Pass')])
  expect(nextFinder({ ...plain, outcomes: plain.outcomes.map((one) => ({ ...one, labels: one.labels.map((label) => ({ ...label, rank: null })) })) }, TODAY)).toBeNull()
})

test('of rules each input is tried by itself, down as well as up, and values that are listed', () => {
  const gate = withRanks(rulesGate([anInput('Decay', 'number'), anInput('Stands by', 'text')], [['Decay < 20', 'sound'], ['Decay < 40 and `Stands by` = "verge"'.replaceAll('`', ''), 'watched']], { otherwise: [{ is: 'felled' }] }), 'felled', 'watched', 'sound')
  const { next } = nextFinder(gate, TODAY)!
  expect(next('felled', new Map<string, Value>([['Decay', number('30')], ['Stands by', 'school']]))).toEqual({ label: 'watched', ways: [{ input: 'Stands by', kind: 'values', values: ['verge'] }] })
  expect(next('watched', new Map<string, Value>([['Decay', number('30')], ['Stands by', 'verge']]))).toEqual({ label: 'sound', ways: [{ input: 'Decay', kind: 'stretch', stretch: { low: null, high: { at: '20', included: false } }, isRise: false, past: '10' }] })
})

test('where no input alone would do, that is said by no way', () => {
  const gate = withRanks(rulesGate([anInput('A', 'number'), anInput('B', 'number')], [['A > 1 and B > 1', 'good']], { otherwise: [{ is: 'bad' }] }), 'bad', 'good')
  expect(nextFinder(gate, TODAY)!.next('bad', new Map([['A', number('0')], ['B', number('0')]]))).toEqual({ label: 'good', ways: [] })
})

test('an input that is also looked at in an expression is not promised anything', () => {
  const gate = withRanks(rulesGate([anInput('A', 'number'), anInput('B', 'number')], [['A > 10 and A + B > 100', 'good'], ['A > 10', 'fair']], { otherwise: [{ is: 'bad' }] }), 'bad', 'fair', 'good')
  expect(nextFinder(gate, TODAY)!.next('bad', new Map([['A', number('0')], ['B', number('0')]]))).toEqual({ label: 'fair', ways: [] })
})

test('a figure of a set counts as it stands, whatever the set is', () => {
  const mean = anInput('Mean', 'number', { source: { kind: 'figure', feel: 'mean(Marks)' } })
  const gate = withRanks(rulesGate([anInput('Marks', 'number', { isSet: true }), mean], [['Mean >= 3', 'good']], { otherwise: [{ is: 'bad' }] }), 'bad', 'good')
  expect(nextFinder(gate, TODAY)!.next('bad', new Map<string, Value>([['Marks', [number('1'), number('4')]], ['Mean', number('2.5')]]))).toEqual({ label: 'good', ways: [{ input: 'Mean', kind: 'stretch', stretch: { low: { at: '3', included: true }, high: null }, isRise: true, past: '0.5' }] })
})

test('beyond what is expected nothing is promised, and days are counted from the date that counts as today', () => {
  const input = anInput('Mark', 'number', { expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '60', included: true } } })
  expect(nextFinder(withRanks(rulesGate([input], [['Mark >= 70', 'good']], { otherwise: [{ is: 'bad' }] }), 'bad', 'good'), TODAY)!.next('bad', new Map([['Mark', number('50')]]))).toEqual({ label: 'good', ways: [] })
  const due = withRanks(rulesGate([anInput('Due', 'date')], [['Due < today()', 'late']], { otherwise: [{ is: 'in time' }] }), 'late', 'in time')
  expect(nextFinder(due, TODAY)!.next('late', new Map([['Due', valueFromText('2026-03-01', 'date')]]))).toEqual({ label: 'in time', ways: [{ input: 'Due', kind: 'stretch', stretch: { low: { at: '2026-03-02', included: true }, high: null }, isRise: true, past: '1' }] })
})

test('what is told holds: every value of the stretch gets that label or a higher one, and none nearer gets that label', () => {
  const values = fc.integer({ min: 0, max: 12 }).map(String)
  const conditions = fc.oneof(
    fc.record({ on: fc.constantFrom('A', 'B'), sign: fc.constantFrom('<', '<=', '>', '>=', '='), at: values }).map(({ on, sign, at }) => `${on} ${sign} ${at}`),
    fc.record({ on: fc.constantFrom('A', 'B'), low: values, high: values }).map(({ on, low, high }) => `${on} in (${low}..${high}]`),
  )
  const rules = fc.array(fc.record({ parts: fc.array(conditions, { minLength: 1, maxLength: 3 }), join: fc.constantFrom(' and ', ' or '), label: fc.constantFrom('low', 'mid', 'high') }), { minLength: 1, maxLength: 5 })
  fc.assert(fc.property(rules, values, values, (some, a, b) => {
    const gate: RulesGate = withRanks(rulesGate([anInput('A', 'number'), anInput('B', 'number')], some.map(({ parts, join, label }) => [parts.join(join), label]), { otherwise: [{ is: 'low' }] }), 'low', 'mid', 'high')
    const lowering = lower(gate)
    if ('problems' in lowering) throw new Error(JSON.stringify(lowering.problems))
    const rankAt = (A: Decimal, B: Decimal) => ['low', 'mid', 'high'].indexOf(decideRecord(lowering.lowered, (name) => (name === 'A' ? A : B), TODAY).outcomes[0] as string)
    const own = { A: number(a), B: number(b) }
    const rank = rankAt(own.A, own.B)
    const found = nextFinder(gate, TODAY)!.next(['low', 'mid', 'high'][rank]!, new Map(Object.entries(own)))
    expect(found === null).toBe(rank === 2)
    if (!found) return
    const wanted = ['low', 'mid', 'high'].indexOf(found.label)
    for (const input of ['A', 'B'] as const) {
      const way = found.ways.find((one) => one.input === input)
      // Halves stand for what lies between whole numbers.
      for (let half = -2; half <= 26; half++) {
        const value = new Decimal(half).div(2)
        const got = rankAt(input === 'A' ? value : own.A, input === 'B' ? value : own.B)
        const isIn = way?.kind === 'stretch' && isInside(value.toFixed(), way.stretch)
        if (isIn) expect(got).toBeGreaterThanOrEqual(wanted)
        else if (got === wanted) expect(way?.kind === 'stretch' && value.minus(own[input]).abs().gte(way.past)).toBe(true)
      }
    }
  }), { numRuns: 300 })
})
