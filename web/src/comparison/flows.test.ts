import type { KeptLanding, KeptMove } from '@dime-gate/contract/comparison'
import fc from 'fast-check'
import { flowsOf } from './flows'

const label = (text: string): KeptLanding => ({ kind: 'label', label: text })
const LABELS = ['Fell', 'Season', 'Leave']
const STAYED = [{ at: label('Fell'), records: 50 }, { at: label('Leave'), records: 600 }, { at: { kind: 'held' } as const, records: 30 }]
const MOVES: KeptMove[] = [
  { from: label('Leave'), to: label('Fell'), records: 12 }, { from: { kind: 'held' }, to: label('Fell'), records: 3 },
  { from: null, to: label('Leave'), records: 5 }, { from: label('Season'), to: null, records: 1 },
]

test('each side has its landings in label order, with all their records', () => {
  const { left, right } = flowsOf({ stayed: STAYED, moves: MOVES }, LABELS, 400)
  expect(left.map(({ key, records }) => [key, records])).toEqual([['label Fell', 50], ['label Season', 1], ['label Leave', 612], ['held', 33], ['none', 5]])
  expect(right.map(({ key, records }) => [key, records])).toEqual([['label Fell', 65], ['label Leave', 605], ['held', 30], ['none', 1]])
})

test('blocks do not overlap, are drawn to one scale, and have room for their names; many of them make the picture taller', () => {
  const landing = fc.oneof(fc.integer({ min: 0, max: 24 }).map((at) => label(`label ${at}`)), fc.constantFrom<KeptLanding>({ kind: 'held' }, { kind: 'unplaced' }))
  const moves = fc.uniqueArray(fc.record({ from: landing, to: landing, records: fc.integer({ min: 1, max: 5000 }) }), { minLength: 1, maxLength: 40, selector: ({ from, to }) => JSON.stringify([from, to]) })
  fc.assert(fc.property(moves, (some) => {
    const { left, right, bands, height, isNarrow } = flowsOf({ stayed: [], moves: some }, [], 300)
    for (const side of [left, right]) side.forEach((node, at) => {
      const next = side[at + 1]
      if (next) expect(next.top).toBeGreaterThanOrEqual(node.top + Math.max(isNarrow ? 18 : 40, node.height))
      expect(node.top + node.height).toBeLessThanOrEqual(height + 0.001)
    })
    expect(isNarrow).toBe(Math.max(left.length, right.length) > 10)
    const [first, other] = left.toSorted((a, b) => b.records - a.records)
    if (first && other && other.height > 2) expect(first.height / other.height).toBeCloseTo(first.records / other.records, 3)
    expect(bands.reduce((sum, { move }) => sum + move.records, 0)).toBe(some.reduce((sum, { records }) => sum + records, 0))
  }))
})

test('bands of a block lie beside each other, in the order of where they go', () => {
  const { bands, left } = flowsOf({ stayed: STAYED, moves: MOVES }, LABELS, 400)
  const leave = left.find(({ key }) => key === 'label Leave')!
  const own = bands.filter(({ key }) => key.startsWith('label Leave →'))
  expect(own.map(({ key }) => key)).toEqual(['label Leave → label Fell', 'label Leave → label Leave'])
  expect(own[0]!.from - own[0]!.thickness / 2).toBeCloseTo(leave.top)
  expect(own[1]!.from - own[1]!.thickness / 2).toBeCloseTo(leave.top + own[0]!.thickness)
})
