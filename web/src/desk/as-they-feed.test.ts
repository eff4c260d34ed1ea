import fc from 'fast-check'
import { asTheyFeed } from './as-they-feed'

const gate = (name: string, ...fedBy: string[]) => ({ name, fedBy })

test('each stands after those that feed it, and else where it came', () => {
  expect(asTheyFeed([gate('Felling', 'Decay', 'Stem'), gate('Award'), gate('Stem'), gate('Decay')]).map(({ name }) => name)).toEqual(['Decay', 'Stem', 'Felling', 'Award'])
  expect(asTheyFeed([gate('A', 'gone'), gate('B')]).map(({ name }) => name)).toEqual(['A', 'B'])
})

test('all are there, once, also where they feed each other round about', () => {
  const names = ['a', 'b', 'c', 'd', 'e', 'f']
  fc.assert(fc.property(fc.tuple(...names.map((name) => fc.subarray(names).map((fedBy) => gate(name, ...fedBy)))), (gates) => {
    expect(asTheyFeed(gates).map(({ name }) => name).toSorted()).toEqual(names)
  }))
  const downward = fc.tuple(...names.map((name, at) => fc.subarray(names.slice(0, at)).map((fedBy) => gate(name, ...fedBy)))).chain((gates) => fc.shuffledSubarray(gates, { minLength: gates.length }))
  fc.assert(fc.property(downward, (gates) => {
    const order = asTheyFeed(gates).map(({ name }) => name)
    for (const { name, fedBy } of gates) for (const feeder of fedBy) expect(order.indexOf(feeder)).toBeLessThan(order.indexOf(name))
  }))
})
