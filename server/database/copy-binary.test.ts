import fc from 'fast-check'
import { testDatabase } from '../testing/test-database'
import { BinaryRows } from './copy-binary'
import { copyIn } from './copy-in'
import { inTransaction, rowsOf } from './database'

const database = testDatabase((database) => database.query('create table written (place integer, n numeric, d date, b boolean, t text, j jsonb)'))

interface Written {
  n: string | null
  d: string | null
  b: boolean | null
  t: string | null
  j: Record<string, string> | null
}

const digits = (most: number) => fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: most }).map((all) => all.join(''))
const numbers = fc.tuple(fc.boolean(), digits(310), fc.option(digits(310))).map(([isNegative, whole, fraction]) => {
  const text = `${whole.replace(/^0+(?=\d)/, '')}${fraction === null ? '' : `.${fraction}`}`
  return isNegative && /[1-9]/.test(text) ? `-${text}` : text
})
const dates = fc.date({ min: new Date('0001-01-01T00:00:00Z'), max: new Date('9999-12-31T00:00:00Z'), noInvalidDate: true }).map((date) => date.toISOString().slice(0, 10))
// The database holds no zero bytes, and no halves of characters; the reading of files refuses both.
const texts = fc.oneof(fc.string({ unit: 'binary', maxLength: 80 }), fc.string({ unit: 'grapheme', maxLength: 80 })).map((text) => text.replaceAll('\0', ''))
const rows = fc.array(fc.record<Written>({
  n: fc.option(numbers), d: fc.option(dates), b: fc.option(fc.boolean()), t: fc.option(texts), j: fc.option(fc.dictionary(digits(5), texts, { maxKeys: 3 })),
}), { maxLength: 30 })

test('the database reads back every value as it was', () => fc.assert(fc.asyncProperty(rows, async (all) => {
  const writer = new BinaryRows()
  const pieces: Buffer[] = []
  all.forEach(({ n, d, b, t, j }, place) => {
    writer.row(6)
    writer.integer(place)
    const field = <Value>(value: Value | null, write: (value: Value) => void) => (value === null ? writer.null() : write(value))
    field(n, (value) => writer.numeric(value))
    field(d, (value) => writer.date(value))
    field(b, (value) => writer.boolean(value))
    field(t, (value) => writer.text(value))
    field(j, (value) => writer.json(value))
    if (place % 7 === 3) pieces.push(writer.take())
  })
  pieces.push(writer.end())
  await inTransaction(database(), async (connection) => {
    await connection.query('truncate written')
    await copyIn(connection, 'copy written from stdin with (format binary)', async (write) => {
      for (const piece of pieces) await write(piece)
    })
  })
  expect(await rowsOf(database(), 'select n, d, b, t, j from written order by place')).toEqual(all)
}), { numRuns: 60 }))
