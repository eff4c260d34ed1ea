import fc from 'fast-check'
import { axesBeyond, type Box, difference, intersection, isIn, type Layout } from './box'
import { firstRuleAt, takenBy, visitLeft } from './coverage'

/** Three axes of 3, 40 and 2 regions. */
const SIZES = [3, 40, 2]
const LAYOUT: Layout = [0, 1, 3, 4]
const PLACES = Array.from({ length: SIZES[0]! }, (_, a) => Array.from({ length: SIZES[1]! }, (_, b) => Array.from({ length: SIZES[2]! }, (_, c) => [a, b, c]))).flat(2)

const mask = (size: number) => fc.uniqueArray(fc.nat(size - 1), { minLength: 1, maxLength: size })
const box: fc.Arbitrary<Box> = fc.tuple(...SIZES.map(mask) as [fc.Arbitrary<number[]>, fc.Arbitrary<number[]>, fc.Arbitrary<number[]>]).map((regions) => {
  const words = new Uint32Array(4)
  regions.forEach((some, axis) => some.forEach((region) => (words[LAYOUT[axis]! + (region >>> 5)]! |= 1 << (region & 31))))
  return words
})
const placesIn = (boxes: readonly Box[]) => PLACES.filter((place) => boxes.some((one) => isIn(one, place, LAYOUT)))

test('what boxes share, and what one leaves of another, are the places that say so', () => {
  fc.assert(fc.property(box, box, (a, b) => {
    const shared = intersection(a, b, LAYOUT)
    expect(placesIn(shared ? [shared] : [])).toEqual(PLACES.filter((place) => isIn(a, place, LAYOUT) && isIn(b, place, LAYOUT)))
    const beyond = axesBeyond(a, b, LAYOUT)
    expect(beyond < 0).toBe(shared === null)
    expect(beyond === 0).toBe(placesIn([a]).every((place) => isIn(b, place, LAYOUT)))
    if (!shared) return
    const pieces = difference(a, b, LAYOUT)
    expect(placesIn(pieces)).toEqual(PLACES.filter((place) => isIn(a, place, LAYOUT) && !isIn(b, place, LAYOUT)))
    // No place is told twice.
    expect(pieces.map((piece) => placesIn([piece]).length).reduce((sum, count) => sum + count, 0)).toBe(placesIn(pieces).length)
  }), { numRuns: 200 })
})

test('what is left of a box are its places that no other box takes', () => {
  fc.assert(fc.property(box, fc.array(box, { maxLength: 6 }), (from, out) => {
    const left: Box[] = []
    const ended = visitLeft(from, out, LAYOUT, { left: 1e6 }, (piece) => {
      left.push(piece)
      return false
    })
    expect(ended).toBe(false)
    expect(placesIn(left)).toEqual(placesIn([from]).filter((place) => !out.some((one) => isIn(one, place, LAYOUT))))
  }), { numRuns: 200 })
})

test('a search can be ended, and has a budget', () => {
  const whole = Uint32Array.from([7, 0xffffffff, 255, 3])
  expect(visitLeft(whole, [], LAYOUT, { left: 10 }, () => true)).toBe(true)
  expect(() => visitLeft(whole, [whole, whole], LAYOUT, { left: 2 }, () => false)).toThrow()
})

test('what a rule takes of a box, without overlaps; and which rule is first at a place', () => {
  fc.assert(fc.property(box, fc.array(box, { minLength: 1, maxLength: 4 }), (from, rule) => {
    const taken = takenBy(from, rule, LAYOUT)
    expect(placesIn(taken)).toEqual(placesIn([from]).filter((place) => rule.some((one) => isIn(one, place, LAYOUT))))
    expect(taken.map((piece) => placesIn([piece]).length).reduce((sum, count) => sum + count, 0)).toBe(placesIn(taken).length)
    const rules = rule.map((one) => [one])
    for (const place of PLACES.slice(0, 20)) expect(firstRuleAt(rules, 0, rules.length, place, LAYOUT)).toBe(rule.findIndex((one) => isIn(one, place, LAYOUT)))
  }), { numRuns: 100 })
})
