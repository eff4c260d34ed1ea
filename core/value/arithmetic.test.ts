import fc from 'fast-check'
import { type ArithmeticOperator, combine, negate } from './arithmetic'
import { compareValues } from './compare'
import { Decimal } from './number'
import { parseTemporal } from './temporal'
import type { Value } from './value'
import { textOfValue } from './value-text'

const valueOf = (text: string): Value => (/^[@]/.test(text) ? parseTemporal(text.slice(1)) : /^-?[\d.]+$/.test(text) ? new Decimal(text) : text)
const result = (a: string, operator: ArithmeticOperator, b: string) => {
  const outcome = combine(operator, valueOf(a), valueOf(b))
  return 'value' in outcome ? textOfValue(outcome.value) : outcome.shortfall
}

test.each<[string, ArithmeticOperator, string, string]>([
  ['oak', '+', ' tree', 'oak tree'],
  ['oak', '-', 'o', 'wrong-kind'],
  ['0', '**', '-1', 'division-by-zero'],
  ['-8', '**', '0.5', 'no-result'],
  ['@2026-03-31', '+', '@P1M', '2026-04-30'],
  ['@P1M', '+', '@2026-03-31', '2026-04-30'],
  ['@2026-03-31', '-', '@P13M', '2025-02-28'],
  ['@2024-02-29', '+', '@P12M', '2025-02-28'],
  ['@2024-02-29', '+', '@P48M', '2028-02-29'],
  ['@2026-03-02', '+', '@PT23H', '2026-03-02'],
  ['@2026-03-02', '-', '@PT1S', '2026-03-01'],
  ['@2026-03-02T23:00:00+02:00', '+', '@PT2H', '2026-03-03T01:00:00+02:00'],
  ['@2026-03-02T12:00:00Z', '-', '@2026-03-02T12:00:00+02:00', 'PT2H'],
  ['@2026-03-02T12:00:00Z', '-', '@2026-03-02', 'PT12H'],
  ['@2026-03-02T12:00:00', '-', '@2026-03-02T12:00:00Z', 'wrong-kind'],
  ['@2026-03-02', '-', '@2024-03-02', 'P730D'],
  ['@10:00:00', '-', '@12:30:00', '-PT2H30M'],
  ['@22:00:00', '+', '@PT4H', '02:00:00'],
  ['@10:00:00', '+', '@P1M', 'wrong-kind'],
  ['@2026-03-02', '+', '@2026-03-02', 'wrong-kind'],
  ['@2026-03-02', '+', '1', 'wrong-kind'],
  ['@P1D', '+', '@PT12H', 'P1DT12H'],
  ['@P1Y', '-', '@P18M', '-P6M'],
  ['@P1D', '+', '@P1M', 'wrong-kind'],
  ['@P3M', '*', '2.5', 'P7M'],
  ['2', '*', '@PT30M', 'PT1H'],
  ['@P1Y', '/', '5', 'P2M'],
  ['@P1Y', '/', '@P3M', '4'],
  ['@P1Y', '/', '@P0M', 'division-by-zero'],
  ['@P1D', '/', '@P1M', 'wrong-kind'],
  ['@P1D', '/', '0', 'division-by-zero'],
  ['@999999999-12-31', '+', '@P1M', 'out-of-range'],
])('%s %s %s is %s', (a, operator, b, expected) => expect(result(a, operator, b)).toBe(expected))

test('what has a size can be turned round', () => {
  const turned = ['5', '@P1D', '@P1M', '@2026-03-02'].map((text) => negate(valueOf(text)))
  expect(turned.map((outcome) => ('value' in outcome ? textOfValue(outcome.value) : outcome.shortfall))).toEqual(['-5', '-P1D', '-P1M', 'wrong-kind'])
})

const day = fc.integer({ min: -500_000, max: 500_000 }).map((number) => ({ kind: 'date' as const, day: number }))

test('adding the difference of two dates to the one gives the other', () => {
  fc.assert(fc.property(day, day, (a, b) => {
    const difference = combine('-', a, b) as { value: Value }
    expect(combine('+', b, difference.value)).toEqual({ value: a })
  }))
})

test('later by any months is never earlier by the calendar', () => {
  fc.assert(fc.property(day, fc.integer({ min: 0, max: 5000 }), (from, months) => {
    const later = combine('+', from, { kind: 'years and months duration', months }) as { value: Value }
    expect(compareValues(later.value, from)).toBeGreaterThanOrEqual(0)
  }))
})
