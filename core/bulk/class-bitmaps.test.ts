import fc from 'fast-check'
import { placesOf } from '../table/bitmap'
import { dictionaryColumn } from '../table/dictionary-column'
import { classesOfCodes, classesOfDoubles, recordsInClasses } from './class-bitmaps'

const value = fc.integer({ min: -5, max: 60 })

test('the records between two thresholds are those whose values are, few thresholds or many', () => {
  fc.assert(fc.property(fc.array(value, { maxLength: 100 }), fc.uniqueArray(value, { minLength: 1, maxLength: 39 }), fc.nat(40), fc.nat(40), (values, cuts, a, b) => {
    const thresholds = cuts.toSorted((x, y) => x - y)
    const [from, to] = [Math.min(a, b), Math.max(a, b)]
    const isWanted = (place: number) => place >= from && place < to
    const expected = values.flatMap((one, at) => (isWanted(thresholds.filter((threshold) => threshold <= one).length) ? [at] : []))
    expect([...placesOf(recordsInClasses(classesOfDoubles(Float64Array.from(values), thresholds), isWanted, values.length))]).toEqual(expected)
  }))
})

test('codes have the classes of their values, blanks their own', () => {
  const column = dictionaryColumn('text', ['oak', null, 'ash', 'oak', 'elm'])
  const classes = classesOfCodes(column, Uint8Array.from([1, 0, 2, 3]), 4)
  const inClasses = (...wanted: number[]) => [...placesOf(recordsInClasses(classes, (place) => wanted.includes(place), 5))]
  expect([inClasses(1), inClasses(0, 2), inClasses(3), inClasses()]).toEqual([[0, 3], [2, 4], [1], []])
})
