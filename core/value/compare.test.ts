import fc from 'fast-check'
import { areEqual, compareValues, isInRange } from './compare'
import { Decimal } from './number'
import { parseTemporal } from './temporal'
import type { RangeValue, Value } from './value'

const number = (text: string) => new Decimal(text)
const at = (text: string) => parseTemporal(text)!
const range = (low: Value, high: Value, lowIncluded = true, highIncluded = false): RangeValue => ({ kind: 'range', low, high, lowIncluded, highIncluded })

test.each<[string, Value, Value, boolean | null]>([
  ['numbers, however they are written', number('1.0'), number('1'), true],
  ['null and null', null, null, true],
  ['null and anything else', null, number('0'), false],
  ['texts, letter by letter', 'Oak', 'oak', false],
  ['a number and its text', number('5'), '5', null],
  ['a date and a date and time', at('2026-03-02'), at('2026-03-02T00:00:00'), null],
  ['the same moment in two zones', at('2026-03-02T10:00:00Z'), at('2026-03-02T11:00:00+01:00'), true],
  ['a moment with a zone and one without', at('2026-03-02T10:00:00Z'), at('2026-03-02T10:00:00'), null],
  ['durations of one length', at('P1D'), at('PT24H'), true],
  ['a year and its days', at('P1Y'), at('P365D'), null],
  ['lists, in order', [number('1'), 'a'], [number('1.0'), 'a'], true],
  ['lists of other lengths', [number('1')], [number('1'), number('1')], false],
  ['lists that differ where both are known', [number('1'), 'a'], [number('2'), number('3')], false],
  ['lists that cannot be told apart elsewhere', ['a', number('1')], ['a', 'b'], null],
  ['ranges', range(number('1'), number('5')), range(number('1'), number('5')), true],
  ['ranges that end otherwise', range(number('1'), number('5')), range(number('1'), number('5'), true, true), false],
])('equality: %s', (_, a, b, expected) => expect(areEqual(a, b)).toBe(expected))

test.each<[string, Value, Value, number | null]>([
  ['numbers', number('2'), number('10'), -1],
  ['texts by code point, also beyond the first plane', '\u{1f333}', '\uffee', 1],
  ['a text and what it begins with', 'oak tree', 'oak', 1],
  ['yes and no have no order', true, false, null],
  ['times in zones, over midnight', at('23:30:00-01:00'), at('00:15:00Z'), 1],
  ['null with anything', null, number('1'), null],
  ['lists have no order', [], [], null],
])('order: %s', (_, a, b, expected) => {
  const order = compareValues(a, b)
  expect(order === null ? null : Math.sign(order)).toBe(expected)
})

test.each<[string, Value, RangeValue, boolean | null]>([
  ['on an end that is included', number('1'), range(number('1'), number('5')), true],
  ['on an end that is not', number('5'), range(number('1'), number('5')), false],
  ['without an end on one side', number('-9'), range(null, number('5')), true],
  ['beyond one end, whatever the other is', number('9'), range('a', number('5')), false],
  ['of another kind', 'a', range(number('1'), number('5')), null],
  ['null', null, range(number('1'), number('5')), null],
])('in a range: %s', (_, value, piece, expected) => expect(isInRange(value, piece)).toBe(expected))

test('values of one kind stand in one row', () => {
  const decimal = fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: 0, max: 20 })).map(([digits, places]) => new Decimal(digits).div(new Decimal(10).pow(places)))
  const kind = fc.constantFrom<fc.Arbitrary<Value>>(decimal, fc.string({ unit: 'grapheme', maxLength: 3 }), fc.integer({ min: -9, max: 9 }).map((day) => ({ kind: 'date' as const, day })))
  fc.assert(fc.property(kind.chain((one) => fc.tuple(one, one, one)), ([a, b, c]) => {
    expect(Math.sign(compareValues(a, b)!) + Math.sign(compareValues(b, a)!)).toBe(0)
    expect(areEqual(a, b)).toBe(compareValues(a, b) === 0)
    if (compareValues(a, b)! <= 0 && compareValues(b, c)! <= 0) expect(compareValues(a, c)!).toBeLessThanOrEqual(0)
  }), { numRuns: 500 })
})
