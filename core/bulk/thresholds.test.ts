import fc from 'fast-check'
import { crowded } from '../testing/arbitrary-gate'
import { Decimal } from '../value/number'
import { isInRange } from '../value/compare'
import type { RangeValue } from '../value/value'
import { placesBetween, rangeOf, stretchIndex } from './stretch-index'
import { intervalAdder, intervalOf, stretchOf, thresholdsOf } from './thresholds'

const end = fc.option(crowded.map((text) => new Decimal(text)), { nil: null })
const piece = fc.record({ low: end, high: end, lowIncluded: fc.boolean(), highIncluded: fc.boolean() }).map((parts): RangeValue => ({ kind: 'range', ...parts }))

test('a double lies in the stretch of a piece where its decimal lies in the piece', () => {
  fc.assert(fc.property(piece, crowded, (one, text) => {
    const double = Number(text)
    // Of decimals that share a double only the shortest is asked here.
    const [from, to] = stretchOf(one)
    expect(double >= from && double < to).toBe(isInRange(new Decimal(String(double)), one))
  }), { numRuns: 2000 })
})

const some = fc.array(fc.oneof(fc.double({ noNaN: true, min: -1e3, max: 1e3 }), fc.constantFrom(0, -0, 5, 5.5, 1e300, -1e300, Infinity, -Infinity, NaN, 1e-320)), { maxLength: 60 })
/** Each cut may come with the double right behind it, as where a value is met exactly. */
const besides = (cut: number) => [cut, cut + Math.abs(cut) * Number.EPSILON]
const cuts = fc.array(fc.oneof(fc.double({ noNaN: true, min: -1e3, max: 1e3 }), fc.constantFrom(0, 5, 5.5, 5.500001, 1e200)), { maxLength: 30 }).chain((all) => fc.boolean().map((isMet) => Float64Array.from(new Set(isMet ? all.flatMap(besides) : all)).sort()))

test('numbers get the class of the interval that their doubles lie in, whatever the doubles are', () => {
  // Among the doubles are the cuts themselves.
  const asked = cuts.chain((thresholds) => some.map((others) => ({ thresholds, values: [...others, ...thresholds] })))
  fc.assert(fc.property(asked, ({ thresholds, values }) => {
    const classOf = Uint32Array.from({ length: thresholds.length + 1 }, (_, passed) => (passed * 7) % 5)
    const numbers = Uint32Array.from(values, (_, at) => at)
    intervalAdder(Float64Array.from(values), thresholds, classOf)(numbers, 5, 0)
    expect([...numbers]).toEqual(values.map((value, at) => at * 5 + classOf[thresholds.filter((threshold) => threshold <= value).length]!))
    for (const value of values) expect(intervalOf(value, thresholds)).toBe(thresholds.filter((threshold) => threshold <= value).length)
  }), { numRuns: 1000 })
})

test('thresholds are the ends of all pieces, each once, ascending', () => {
  const at = (low: string | null, high: string | null, included = true): RangeValue => ({ kind: 'range', low: low === null ? null : new Decimal(low), high: high === null ? null : new Decimal(high), lowIncluded: included, highIncluded: !included })
  expect([...thresholdsOf([at('12', null), at('5', '12'), at(null, '5')])]).toEqual([5, 12])
})

test('an index gives at least the records between two values, and few beside', () => {
  const values = Float64Array.from({ length: 20_000 }, (_, at) => ((at * 7919) % 20_000) / 10)
  const index = stretchIndex(values)!
  const between = placesBetween(index, 500, 501)
  const found = new Set(between.places)
  expect([...between.values]).toEqual([...between.places].map((at) => values[at]))
  const wanted = [...values.keys()].filter((at) => values[at]! >= 500 && values[at]! <= 501)
  expect(wanted.every((at) => found.has(at))).toBe(true)
  expect(found.size).toBeLessThan(wanted.length + 30)
})

test('where nearly all values are in one place, or one is no number, there is no index', () => {
  expect(stretchIndex(Float64Array.from({ length: 1000 }, (_, at) => (at === 0 ? 1e9 : at / 1000)))).toBeNull()
  expect(stretchIndex(Float64Array.of(1, NaN, 3))).toBeNull()
  expect(rangeOf(Float64Array.of(1, NaN, 3))).toEqual([-Infinity, Infinity])
  expect(rangeOf(Float64Array.of(4, -1, 3))).toEqual([-1, 4])
})
