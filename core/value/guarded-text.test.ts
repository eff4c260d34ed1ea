import fc from 'fast-check'
import { readCell } from './read-cell'
import { guardText, unguardText } from './guarded-text'

test.each(['=1+1', '+cmd', '-x', '@sum(A1)', '\t=1', '\r=1', '=HYPERLINK("x")', '-2+3', '+1 2x', "'=1"])('%j is not run', (text) => {
  expect(guardText(text)).toBe(`'${text}`)
})

test.each(['', 'oak', '-5', '+3', '-1,240.5', '-5 %', '-1e-3', "'tis", '5-3', 'a=b'])('%j stays as it is', (text) => {
  expect([guardText(text), unguardText(text)]).toEqual([text, text])
})

test('what is written is read back unchanged', () => {
  const text = fc.array(fc.constantFrom("'", '=', '-', '+', '@', '\t', '1', '.', 'x', ' ', '%'), { maxLength: 8 }).map((parts) => parts.join(''))
  fc.assert(fc.property(text, (one) => {
    expect(unguardText(guardText(one))).toBe(one)
  }), { numRuns: 3000 })
})

test('a guarded text of a table is the text', () => {
  expect(readCell("'=1+1", { type: 'text', decimalMark: 'point', dateOrder: 'day', fraction: false })).toEqual({ state: 'readable', value: '=1+1' })
})
