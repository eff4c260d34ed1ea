import fc from 'fast-check'
import { bitmapOf, countBits, emptyBitmap, fullBitmap, hasBit, placesBetween, placesOf, setBit, unionOf } from './bitmap'

const sets = fc.integer({ min: 0, max: 130 }).chain((length) => fc.tuple(fc.constant(length), fc.uniqueArray(fc.nat({ max: Math.max(0, length - 1) }), { maxLength: length })))

test('a bitmap holds what was put in it, and nothing else', () => {
  fc.assert(fc.property(sets, ([length, places]) => {
    const bitmap = bitmapOf(places, length)
    expect([...placesOf(bitmap)]).toEqual(places.toSorted((a, b) => a - b))
    expect(countBits(bitmap)).toBe(places.length)
    for (let at = 0; at < length; at++) expect(hasBit(bitmap, at)).toBe(places.includes(at))
  }))
})

test('some of the places are found as they would be among all of them', () => {
  fc.assert(fc.property(sets, fc.nat(140), fc.nat(140), ([length, places], from, to) => {
    const bitmap = bitmapOf(places, length)
    expect(placesBetween(bitmap, from, to)).toEqual([...placesOf(bitmap).subarray(from, Math.max(from, to))])
  }))
})

test.each([0, 1, 31, 32, 33, 64, 65])('a full bitmap of %i has exactly so many bits', (length) => {
  expect(countBits(fullBitmap(length))).toBe(length)
  expect(placesOf(fullBitmap(length))).toHaveLength(length)
})

test('the last bit of a word is a place like any other', () => {
  const bitmap = emptyBitmap(40)
  setBit(bitmap, 31)
  setBit(bitmap, 32)
  expect([...placesOf(bitmap)]).toEqual([31, 32])
})

test('a union holds what any of its parts holds, and leaves them alone', () => {
  const [a, b] = [bitmapOf([1, 40], 50), bitmapOf([2, 40], 50)]
  expect([...placesOf(unionOf([a, b], 50))]).toEqual([1, 2, 40])
  expect([...placesOf(a)]).toEqual([1, 40])
  expect(countBits(unionOf([], 50))).toBe(0)
})
