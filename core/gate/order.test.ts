import fc from 'fast-check'
import { dependencyOrder } from './order'

const graph = fc.array(fc.tuple(fc.nat(7), fc.nat(7)), { maxLength: 14 }).map((pairs) => {
  const names = Array.from({ length: 8 }, (_, at) => `n${at}`)
  const needs = new Map(names.map((name) => [name, [] as string[]]))
  for (const [from, to] of pairs) needs.get(`n${from}`)!.push(`n${to}`)
  return { names, needs: (name: string) => needs.get(name)! }
})

test('each comes once and after all that it needs, or else a ring is named whose members need each other', () => {
  let rings = 0
  fc.assert(fc.property(graph, ({ names, needs }) => {
    const result = dependencyOrder(names, needs)
    if ('loop' in result) {
      rings++
      result.loop.forEach((name, at) => expect(needs(name)).toContain(result.loop[(at + 1) % result.loop.length]))
      return
    }
    expect(result.order.toSorted()).toEqual(names)
    result.order.forEach((name, at) => needs(name).forEach((need) => expect(result.order.indexOf(need)).toBeLessThan(at)))
  }), { numRuns: 300 })
  expect(rings).toBeGreaterThan(10)
})

test('needs that are not among the names do not count; thousands in a row are no trouble', () => {
  expect(dependencyOrder(['a'], () => ['elsewhere'])).toEqual({ order: ['a'] })
  const names = Array.from({ length: 20_000 }, (_, at) => String(at))
  expect(dependencyOrder(names, (name) => [String(Number(name) + 1)])).toEqual({ order: names.toReversed() })
})
