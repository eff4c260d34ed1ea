import fc from 'fast-check'
import { inFeedingOrder } from './feeding-order'

const order = (feeding: Record<string, string[]>, keys = Object.keys(feeding)) => inFeedingOrder(keys, (key) => feeding[key] ?? [])

test('each stands after those that feed it, and else where it came', () => {
  expect(order({ Felling: ['Decay', 'Stem'], Award: [], Stem: [], Decay: [] })).toEqual(['Decay', 'Stem', 'Felling', 'Award'])
  expect(order({ A: ['gone'], B: [] })).toEqual(['A', 'B'])
  expect(order({ D: ['B', 'C'], B: ['A'], C: ['A'], A: [] })).toEqual(['A', 'B', 'C', 'D'])
})

const NAMES = ['a', 'b', 'c', 'd', 'e', 'f']
const feedingOf = (allowed: (at: number) => string[]) => fc.tuple(...NAMES.map((_, at) => fc.subarray(allowed(at)))).map((all) => Object.fromEntries(NAMES.map((name, at) => [name, all[at]!])))

test('all are there, once, also where they feed each other round about', () => {
  fc.assert(fc.property(feedingOf(() => NAMES), (feeding) => expect(order(feeding).toSorted()).toEqual(NAMES)))
})

test('whatever the order in which they came, nobody stands before what feeds them', () => {
  fc.assert(fc.property(feedingOf((at) => NAMES.slice(0, at)), fc.shuffledSubarray(NAMES, { minLength: NAMES.length }), (feeding, came) => {
    const ordered = order(feeding, came)
    for (const name of NAMES) for (const feeder of feeding[name]!) expect(ordered.indexOf(feeder)).toBeLessThan(ordered.indexOf(name))
  }))
})
