import fc from 'fast-check'
import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { lowered } from '@dime-gate/core/rule/lower'
import { anInput, rulesGate, TODAY } from '@dime-gate/core/testing/a-gate'
import { Decimal } from '@dime-gate/core/value/number'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { scaleFromRules } from './scale-from-rules'

const decay = (blank: 'hold' | 'pass' | null = 'pass') => anInput('Decay', 'number', { blank })
const scaleOf = (...pairs: [string, string][]) => scaleFromRules(rulesGate([decay()], pairs))

describe('rules that make a scale', () => {
  test('both sides of a cut say who owns it', () => {
    expect(scaleOf(['Decay < 12', 'low'], ['Decay >= 12', 'high'])).toMatchObject({ cuts: [{ at: '12', owner: 'above' }], floor: null, ceiling: null })
    expect(scaleOf(['Decay <= 12', 'low'], ['Decay > 12', 'high'])).toMatchObject({ cuts: [{ at: '12', owner: 'below' }] })
  })
  test('ends are its floor and ceiling', () => {
    expect(scaleOf(['Decay in (0..12]', 'low'], ['Decay in (12..30)', 'high'])).toMatchObject({ floor: { at: '0', included: false }, ceiling: { at: '30', included: false } })
  })
  test('rules that give the same are one band', () => {
    expect(scaleOf(['Decay < 5', 'low'], ['Decay < 12', 'low'], ['Decay >= 12', 'high'])!.bands).toHaveLength(2)
  })
  test('a rule for blanks becomes what blanks get', () => {
    const held = scaleFromRules({ ...rulesGate([decay()], [['Decay = null', 'x'], ['Decay < 12', 'low'], ['Decay >= 12', 'high']]), rules: [{ condition: 'Decay = null', entries: [null], note: '' }, { condition: 'Decay < 12', entries: [{ is: 'low' }], note: '' }, { condition: 'Decay >= 12', entries: [{ is: 'high' }], note: '' }] })
    expect(held).toMatchObject({ inputs: [{ blank: 'hold' }], otherwise: null })
    expect(scaleOf(['Decay = null', 'no value'], ['Decay < 12', 'low'], ['Decay >= 12', 'high'])).toMatchObject({ inputs: [{ blank: 'pass' }], otherwise: [{ is: 'no value' }] })
  })
})

test.each<[string, [string, string][]]>([
  ['a value by itself', [['Decay = 12', 'edge'], ['Decay < 12', 'low'], ['Decay > 12', 'high']]],
  ['a hole', [['Decay < 12', 'low'], ['Decay > 30', 'high']]],
  ['a rule that is never reached', [['Decay > 12', 'high'], ['Decay > 30', 'top'], ['Decay <= 12', 'low']]],
  ['one band alone', [['Decay > 12', 'high']]],
  ['a test that is no cut', [['Decay * 2 > 12', 'high'], ['Decay <= 6', 'low']]],
  ['nothing but otherwise', [['-', 'all']]],
])('%s makes none', (_, pairs) => expect(scaleOf(...pairs)).toBeNull())

test('nor do two inputs, or texts', () => {
  expect(scaleFromRules(rulesGate([decay(), anInput('Lean', 'number')], [['Decay < 12', 'low'], ['Decay >= 12', 'high']]))).toBeNull()
  expect(scaleFromRules(rulesGate([anInput('Species', 'text')], [['Species < "m"', 'low'], ['Species >= "m"', 'high']]))).toBeNull()
})

test('the scale gives every value, and a blank, what the rules give', () => {
  const cut = fc.integer({ min: -2, max: 6 })
  const condition = fc.oneof(fc.tuple(fc.constantFrom('<', '<=', '>', '>='), cut).map(([operator, at]) => `Decay ${operator} ${at}`), fc.tuple(cut, cut).map(([a, b]) => `Decay in [${Math.min(a, b)}..${Math.max(a, b)})`), fc.constant('Decay = null'))
  const gate = fc.record({ pairs: fc.array(fc.tuple(condition, fc.constantFrom('a', 'b', 'c')), { minLength: 1, maxLength: 4 }), otherwise: fc.option(fc.constantFrom('a', 'd')), blank: fc.constantFrom('hold', 'pass', null) })
    .map(({ pairs, otherwise, blank }) => rulesGate([decay(blank)], pairs, { otherwise: otherwise === null ? null : [{ is: otherwise }] }))
  let made = 0
  fc.assert(fc.property(gate, (rules) => {
    const scale = scaleFromRules(rules)
    if (!scale) return
    made++
    const [before, after] = [lowered(rules), lowered(scale)]
    for (const text of [null, ...Array.from({ length: 37 }, (_, at) => String(at / 4 - 2.5))]) {
      const value = text === null ? null : new Decimal(text)
      const labels = [before, after].map((one) => textOfValue(decideRecord(one, () => value, TODAY).outcomes[0] ?? null))
      expect({ text, label: labels[1] }).toEqual({ text, label: labels[0] })
    }
  }), { numRuns: 500 })
  expect(made).toBeGreaterThan(15)
})
