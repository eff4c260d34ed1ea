import type { Counts } from '@dime-gate/core/result/counts'
import { aloneWords, branchesByFill, orderByBreadth, type Placed, stopFor, stopsOf, streamOf } from './course'

const COUNTS: Counts = { records: 1000, caught: [300, 0, 1], otherwise: 599, unplaced: 0, held: 100, contested: 0, inputs: [], edges: [] }
const placed = (counts = COUNTS): Placed[] => stopsOf(counts, 'first').map((stop, at) => ({ ...stop, top: at * 50, height: 50 }))
/** The x of every point of a path at one height. */
const xsAt = (path: string, y: number) =>
  [...path.matchAll(/[ML]([\d.]+) ([\d.]+)/g)].filter(([, , at]) => Number(at) === y).map(([, x]) => Number(x))

test('what is undecided leaves first and what no rule takes last; each stop tells what comes to it', () => {
  expect(stopsOf(COUNTS, 'first').map(({ at, arrives, takes }) => [at, arrives, takes])).toEqual([
    ['held', 1000, 100],
    [0, 900, 300],
    [1, 600, 0],
    [2, 600, 1],
    ['rest', 599, 599],
  ])
  expect(stopsOf({ ...COUNTS, contested: 5 }, 'unique')[1]).toEqual({ at: 'contested', arrives: 900, takes: 5 })
  expect(stopsOf({ ...COUNTS, contested: 5 }, 'unique').slice(2, 5).map(({ arrives }) => arrives)).toEqual([895, 595, 595])
  // What is gathered from several rules is asked of all of them.
  expect(stopsOf(COUNTS, 'collect').slice(1, 4).map(({ arrives }) => arrives)).toEqual([1000, 1000, 1000])
})

test('the stream is as wide as what is left of it, to scale', () => {
  const { body } = streamOf(placed(), 1000, 100, 120)
  expect(xsAt(body, 0)).toEqual([0, 100])
  // Each stop takes away as many pixels as it takes records.
  expect([3, 53, 103, 153].map((y) => xsAt(body, y))).toEqual([
    [100, 90],
    [90, 60],
    [60, 60],
    [60, 59.9],
  ])
})

test('one record of very many is seen, and takes no more of the stream than is its own', () => {
  const { body, branches } = streamOf(placed(), 1000, 100, 120)
  const ends = xsAt(branches[3]!.path, 174.25)
  expect(ends).toContain(120)
  expect(xsAt(body, 153)).toEqual([60, 59.9])
})

test('a stop that takes nothing is a line, and one that takes nearly all stays within its row', () => {
  const all = streamOf(placed({ ...COUNTS, caught: [900, 0, 0], otherwise: 0 }), 1000, 100, 120)
  const heights = [...all.branches[1]!.path.matchAll(/[ML][\d.]+ ([\d.]+)/g)].map(([, y]) => Number(y))
  expect([Math.min(...heights) >= 50, Math.max(...heights) <= 100]).toEqual([true, true])
  expect(all.branches[2]!.path).toMatch(/^M10|^M0/)
  expect(all.branches[2]!.path).not.toContain('Z')
})

test('branches that look alike are drawn as one, and none of them is lost', () => {
  const { branches } = streamOf(placed(), 1000, 100, 120)
  const { closed, open } = branchesByFill(branches, (at) => (at === 0 || at === 'rest' ? 'red' : 'grey'))
  const [held, first, idle, third, rest] = branches.map(({ path }) => path)
  expect(closed).toBe(idle)
  expect([...open]).toEqual([['grey', `${held} ${third}`], ['red', `${first} ${rest}`]])
})

test('of no records there is nothing to draw', () => {
  expect(streamOf(placed({ ...COUNTS, records: 0 }), 0, 100, 120)).toEqual({ body: '', branches: [] })
})

test('rules are ordered by what they would take alone', () => {
  expect(orderByBreadth({ alone: [5, 90, 5, 40] }, 'narrow')).toEqual([0, 2, 3, 1])
  expect(orderByBreadth({ alone: [5, 90, 5, 40] }, 'broad')).toEqual([1, 3, 0, 2])
  expect([aloneWords(5, 5), aloneWords(5, 9), aloneWords(5, null)]).toEqual(['alone the same', 'alone 9', 'alone …'])
})

test('a record leaves at the rule that labels it, and otherwise by what became of it', () => {
  const at = (status: Parameters<typeof stopFor>[0]['status'], rule = -1) => stopFor({ status, rule })
  expect([at('labelled', 2), at('held'), at('contested'), at('otherwise'), at('unplaced')]).toEqual([2, 'held', 'contested', 'rest', 'rest'])
})
