import fc from 'fast-check'
import { areNear, nearestOf } from './near-values'

test.each<[string, string, boolean]>([
  ['Common ash', 'common  ash ', true],
  ['Common lime', 'Comon lime', true],
  ['Common lime', 'Common limes', true],
  ['Common lime', 'Commno lime', true],
  ['Norway-maple', 'Norway maple', true],
  ['Band 1', 'Band 2', false],
  ['Oak', 'Yak', false],
  ['Silver birch', 'Silver beech', false],
])('“%s” and “%s”', (a, b, expected) => expect([areNear(a, b), areNear(b, a)]).toEqual([expected, expected]))

const word = fc.string({ unit: fc.constantFrom(...'abcdE1 '), minLength: 3, maxLength: 9 })

test('what is looked up is what comparing with each would find', () => {
  fc.assert(fc.property(fc.uniqueArray(word, { maxLength: 25 }), word, (known, value) => {
    const others = known.filter((one) => one !== value)
    const found = nearestOf(known)(value)
    expect(found === null).toBe(!others.some((one) => areNear(one, value)))
    if (found !== null) expect(areNear(found, value)).toBe(true)
  }), { numRuns: 3000 })
})
