import fc from 'fast-check'
import { COLUMN_TYPES, readCell } from '../value/read-cell'
import { readHeader, suggestDateOrder, suggestDecimalMark, suggestReading } from './suggest-column'

/** Long enough that whatever looks again at all it has seen would not be done before the tests are given up. */
const LONG = 200_000
const signs = fc.constantFrom('0', '1', ' ', '.', ',', '%', '-', "'", 'e', '(', '\u00a0', '1,', '1 ', '-1')

test('no text takes long to read, however it goes on', () => {
  const hostile = fc
    .tuple(fc.constantFrom('', '1', '-', '0.', 'a', '12-'), signs, fc.constantFrom('', '1', 'x', '%', '('))
    .map(([start, again, end]) => start + again.repeat(LONG / again.length) + end)
  fc.assert(
    fc.property(hostile, (text) => {
      for (const type of COLUMN_TYPES)
        for (const decimalMark of ['point', 'comma'] as const)
          expect(readCell(text, { type, decimalMark, dateOrder: 'day', fraction: true }).state).toMatch(/readable|blank/)
      expect([suggestDecimalMark([text]), suggestDateOrder([text]), suggestReading([text], '', 'point', 'day').type].every(Boolean)).toBe(
        true,
      )
      expect(readHeader(text).name.length).toBeLessThanOrEqual(text.length)
    }),
    { numRuns: 120 },
  )
}, 30_000)
