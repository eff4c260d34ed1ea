import fc from 'fast-check'
import { CAUSES, causesIn, type CauseSet, explained, setOf } from './causes'

/** A record that lands by what it is told of: the words of the sets that lead elsewhere. */
const lands = (table: Record<string, string>, rest: string) => (set: CauseSet) => [table[causesIn(set).join(' ')] ?? rest]
const told = (active: CauseSet, table: Record<string, string>, after: string) =>
  explained(active, ['old'], [after], lands(table, 'old'))[0]!.map(causesIn)

test('one cause by itself is told alone, whatever else has changed', () => {
  expect(told(setOf(['gate', 'value']), { gate: 'new', 'gate value': 'new' }, 'new')).toEqual([['gate']])
})

test('two of which each alone would do are told beside each other', () => {
  expect(told(setOf(['gate', 'value']), { gate: 'new', value: 'new', 'gate value': 'new' }, 'new')).toEqual([['gate'], ['value']])
})

test('what it takes both for is told as met', () => {
  expect(told(setOf(['gate', 'date', 'value']), { 'gate value': 'new', 'gate date value': 'new' }, 'new')).toEqual([['gate', 'value']])
})

test('a cause that leads elsewhere by itself, and only with another to where it is now, is not told alone', () => {
  expect(told(setOf(['gate', 'value']), { gate: 'between', 'gate value': 'new' }, 'new')).toEqual([['gate', 'value']])
})

test('what cannot be told again is not explained', () => {
  expect(explained(setOf(['gate']), ['old'], ['new'], () => ['other'])).toEqual([[]])
  expect(explained(0, ['old'], ['new'], () => ['old'])).toEqual([[]])
})

test('the sets told are those that the definition names, on any record', () => {
  const landing = fc.constantFrom('a', 'b', 'c')
  fc.assert(fc.property(fc.integer({ min: 0, max: 2 ** CAUSES.length - 1 }), fc.array(fc.array(landing, { minLength: 128, maxLength: 128 }), { minLength: 1, maxLength: 5 }), (active, tables) => {
    const at = (set: CauseSet) => tables.map((table) => table[set]!)
    const [before, after] = [at(0), at(active)]
    const all = Array.from({ length: 128 }, (_, set) => set).filter((set) => set !== 0 && (set & active) === set)
    const found = explained(active, before, after, at)
    tables.forEach((table, record) => {
      const sufficient = all.filter((set) => table[set] === after[record])
      const least = Math.min(...sufficient.map((set) => causesIn(set).length))
      expect(found[record]!.toSorted((a, b) => a - b)).toEqual(sufficient.filter((set) => causesIn(set).length === least).toSorted((a, b) => a - b))
    })
  }), { numRuns: 300 })
})
