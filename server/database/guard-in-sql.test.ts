import fc from 'fast-check'
import { guardText } from '@dime-gate/core/value/guarded-text'
import { testDatabase } from '../testing/test-database'
import { rowsOf } from './database'
import { guardInSql } from './guard-in-sql'

const database = testDatabase()

test('the database guards what core guards', () => {
  const text = fc
    .array(fc.constantFrom("'", '=', '-', '+', '@', '\t', '\r', '\n', '1', '.', 'e', 'x', ' ', '%', '\u00a0', '\u20ac'), { maxLength: 8 })
    .map((parts) => parts.join(''))
  return fc.assert(
    fc.asyncProperty(fc.array(text, { minLength: 50, maxLength: 50 }), async (texts) => {
      const rows = await rowsOf<{ guarded: string }>(
        database(),
        `select ${guardInSql('t')} as guarded from unnest($1::text[]) with ordinality as all_ (t, at) order by at`,
        [texts],
      )
      expect(rows.map(({ guarded }) => guarded)).toEqual(texts.map(guardText))
    }),
    { numRuns: 60 },
  )
})
