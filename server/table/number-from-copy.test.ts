import fc from 'fast-check'
import { isExactAsDouble } from '@dime-gate/core/value/number'
import { shortDecimal } from './number-from-copy'

const read = (text: string) => shortDecimal(Buffer.from(`x${text}y`), 1, text.length + 1)

const digits = (most: number) => fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: most }).map((all) => all.join(''))

test('a short decimal is the double nearest to it, as reading its text is', () => fc.assert(fc.property(fc.boolean(), digits(9), fc.option(digits(6), { nil: null }), (isNegative, whole, part) => {
  const text = `${isNegative ? '-' : ''}${whole}${part === null ? '' : `.${part}`}`
  expect([text, read(text)]).toEqual([text, Number(text) + 0])
  expect(isExactAsDouble(text)).toBe(true)
}), { numRuns: 2000 }))

test.each(['', '-', '.', 'NaN', 'Infinity', '1e5', '1.2.3', '12,5', ' 12', '1234567890123456', '0.1234567890123456'])('%j is left to others', (text) => expect(read(text)).toBe(NaN))

test.each([['0', 0], ['-0.0', 0], ['12.50', 12.5], ['-0.1', -0.1], ['.5', 0.5], ['123456789012345', 123456789012345], ['0.00000000000001', 1e-14]])('%s', (text, double) => {
  expect(Object.is(read(text), double)).toBe(true)
})
