import fc from 'fast-check'
import { decideRecord } from '../decide/decide-record'
import { lowered } from '../rule/lower'
import type { RulesGate } from '../gate/document'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { Decimal } from '../value/number'
import { textOfValue } from '../value/value-text'
import { scaleFromRules } from './scale-from-rules'

const decay = (blank: 'hold' | 'pass' | null = 'pass') => anInput('Decay', 'number', { blank })
const scaleMade = (gate: RulesGate) => {
  const made = scaleFromRules(gate)
  return 'gate' in made ? made.gate : null
}
const scaleOf = (...pairs: [string, string][]) => scaleMade(rulesGate([decay()], pairs))
const refusalOf = (...pairs: [string, string][]) => {
  const made = scaleFromRules(rulesGate([decay()], pairs))
  return 'refusal' in made ? made.refusal.kind : null
}

describe('rules that make a scale', () => {
  test('both sides of a cut say who owns it', () => {
    expect(scaleOf(['Decay < 12', 'low'], ['Decay >= 12', 'high'])).toMatchObject({ cuts: [{ at: '12', owner: 'above' }], floor: null, ceiling: null })
    expect(scaleOf(['Decay <= 12', 'low'], ['Decay > 12', 'high'])).toMatchObject({ cuts: [{ at: '12', owner: 'below' }] })
  })
  test('ends are its floor and ceiling', () => {
    expect(scaleOf(['Decay in (0..12]', 'low'], ['Decay in (12..30)', 'high'])).toMatchObject({ floor: { at: '0', included: false }, ceiling: { at: '30', included: false } })
  })
  test('rules that give the same keep their cut, where there is one between them', () => {
    expect(scaleOf(['Decay < 5', 'low'], ['Decay < 12', 'low'], ['Decay >= 12', 'high'])!.cuts.map(({ at }) => at)).toEqual(['5', '12'])
    expect(scaleOf(['Decay = 12', 'low'], ['Decay < 12', 'low'], ['Decay > 12', 'high'])).toMatchObject({ cuts: [{ at: '12', owner: 'below' }], bands: [{}, {}] })
  })
  test('a rule for blanks becomes what blanks get', () => {
    const pairs: [string, string][] = [['Decay = null', 'no value'], ['Decay < 12', 'low'], ['Decay >= 12', 'high']]
    expect(scaleOf(...pairs)).toMatchObject({ inputs: [{ blank: 'pass' }], otherwise: [{ is: 'no value' }] })
    const { rules, ...gate } = rulesGate([decay('hold')], pairs)
    const giving = { ...gate, rules: rules.with(0, { ...rules[0]!, entries: [null] }) }
    // Where blanks were held, they get nothing now: as they did.
    expect(scaleMade(giving)).toMatchObject({ inputs: [{ blank: 'pass' }], otherwise: null })
  })
  test('what is left over is a band at one end, and off the scale at both', () => {
    expect(scaleMade(rulesGate([decay('hold')], [['Decay >= 40', 'high'], ['Decay >= 12', 'middle'], ['-', 'low']]))).toMatchObject({ bands: [{ entries: [{ is: 'low' }] }, {}, {}], otherwise: null })
    expect(scaleOf(['Decay in [0..12)', 'low'], ['Decay in [12..40]', 'high'], ['-', 'off'])).toMatchObject({ bands: [{}, {}], floor: { at: '0' }, ceiling: { at: '40' }, otherwise: [{ is: 'off' }] })
  })
  test('days, months and lengths of time have bands too', () => {
    const due = anInput('Due', 'date')
    expect(scaleMade(rulesGate([due], [['Due < @"2026-01-01"', 'old'], ['Due in [@"2026-01-01"..@"2026-01-02")', 'that day'], ['Due >= @"2026-01-02"', 'new']]))).toMatchObject({ cuts: [{ at: '2026-01-01' }, { at: '2026-01-02' }], bands: [{}, {}, {}] })
    expect(scaleMade(rulesGate([anInput('Kept', 'years and months duration')], [['Kept <= @"P2Y"', 'short'], ['Kept > @"P2Y"', 'long']]))).toMatchObject({ cuts: [{ at: 'P2Y', owner: 'below' }] })
  })
  test('a rule that is never reached is told as lost', () => {
    expect(scaleFromRules(rulesGate([decay()], [['Decay > 12', 'high'], ['Decay > 30', 'top'], ['Decay <= 12', 'low']]))).toMatchObject({ losses: [{ kind: 'unreached', rules: [1] }] })
  })
})

test.each<[string, [string, string][], string]>([
  ['a value by itself', [['Decay = 12', 'edge'], ['Decay < 12', 'low'], ['Decay > 12', 'high']], 'alone'],
  ['a hole', [['Decay < 12', 'low'], ['Decay > 30', 'high']], 'hole'],
  ['a test that is no cut', [['Decay * 2 > 12', 'high'], ['Decay <= 6', 'low']], 'test'],
  ['nothing but otherwise', [['-', 'all']], 'nothing'],
])('%s makes none', (_, pairs, refusal) => expect(refusalOf(...pairs)).toBe(refusal))

test('nor do two inputs, texts, what is computed, or several at once', () => {
  const [low, high]: [string, string][] = [['Decay < 12', 'low'], ['Decay >= 12', 'high']]
  expect(scaleFromRules(rulesGate([decay(), anInput('Lean', 'number')], [low!, ['Lean > 3', 'high']]))).toMatchObject({ refusal: { kind: 'inputs', found: ['Decay', 'Lean'] } })
  expect(scaleFromRules(rulesGate([anInput('Species', 'text')], [['Species < "m"', 'low'], ['Species >= "m"', 'high']]))).toMatchObject({ refusal: { kind: 'values' } })
  expect(scaleFromRules(rulesGate([anInput('Due', 'date')], [['Due < today()', 'past'], ['Due >= today()', 'to come']]))).toMatchObject({ refusal: { kind: 'test', rule: 0 } })
  expect(scaleFromRules(rulesGate([decay()], [low!, high!], { hitPolicy: 'collect' }))).toMatchObject({ refusal: { kind: 'policy' } })
  const made = rulesGate([decay()], [low!, high!])
  expect(scaleFromRules({ ...made, rules: made.rules.with(0, { ...made.rules[0]!, entries: [{ feel: 'string(Decay)' }] }) })).toMatchObject({ refusal: { kind: 'computed' } })
})

test('the scale gives every value, and a blank, what the rules give', () => {
  const cut = fc.integer({ min: -2, max: 6 })
  const condition = fc.oneof(fc.tuple(fc.constantFrom('<', '<=', '>', '>='), cut).map(([operator, at]) => `Decay ${operator} ${at}`), fc.tuple(cut, cut).map(([a, b]) => `Decay in [${Math.min(a, b)}..${Math.max(a, b)})`), fc.constant('Decay = null'))
  const gate = fc.record({ pairs: fc.array(fc.tuple(condition, fc.constantFrom('a', 'b', 'c')), { minLength: 1, maxLength: 4 }), otherwise: fc.option(fc.constantFrom('a', 'd')), blank: fc.constantFrom('hold', 'pass', null) })
    .map(({ pairs, otherwise, blank }) => rulesGate([decay(blank)], pairs, { otherwise: otherwise === null ? null : [{ is: otherwise }] }))
  let made = 0
  fc.assert(fc.property(gate, (rules) => {
    const scale = scaleMade(rules)
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
