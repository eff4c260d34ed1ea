import { testDatabase } from '../testing/test-database'
import { copyRows } from './copy-rows'
import { fromCopyText, toCopyText } from './copy-text'
import { whileReading } from './database'

const database = testDatabase()

/** By batch and field the texts of its rows. */
async function batchesOf(sql: string, fields: number, size: number): Promise<(string | null)[][][]> {
  const found: (string | null)[][][] = []
  await whileReading(database(), async (connection) => {
    for await (const batch of copyRows(connection, sql, fields, size)) found.push(Array.from({ length: fields }, (_, field) => Array.from({ length: batch.length }, (__, row) => batch.text(row, field))))
  })
  return found
}

test.each([[0, [0]], [3, [3]], [4, [4]], [9, [4, 4, 1]]])('%i rows come in batches of %j', async (rows, sizes) => {
  const found = await batchesOf(`select n, 'x' || n from generate_series(1, ${rows}) n order by n`, 2, 4)
  expect(found.map(([first, second]) => [first!.length, second!.length])).toEqual(sizes.map((size) => [size, size]))
  expect(found.flatMap(([first, second]) => first!.map((text, at) => [text, second![at]]))).toEqual(Array.from({ length: rows }, (_, at) => [String(at + 1), `x${at + 1}`]))
})

const TEXTS = ['', ' ', '\\N', '\\', 'a\tb', 'two\nlines\r\n', 'back\\slash\\t', '\b\f\v', 'ä ñ 漢字 🌳', '"quoted", too', 'null']

test('every text comes as it is, and nothing as null', async () => {
  await database().query('create table texts (n integer, text text)')
  for (const [n, text] of [...TEXTS, null].entries()) await database().query('insert into texts values ($1, $2)', [n, text])
  expect((await batchesOf('select text from texts order by n', 1, 100)).flat(2)).toEqual([...TEXTS, null])
  expect(TEXTS.map(toCopyText).map(fromCopyText)).toEqual(TEXTS)
})

test('whole numbers come as such, with what is not there', async () => {
  await whileReading(database(), async (connection) => {
    for await (const rows of copyRows(connection, "select * from (values (1, -1, null), (2147483647, 0, 'x')) as t", 3, 10)) {
      expect([[rows.whole(0, 0), rows.whole(0, 1), rows.isNull(0, 2)], [rows.whole(1, 0), rows.whole(1, 1), rows.isNull(1, 2)]]).toEqual([[1, -1, true], [2147483647, 0, false]])
    }
  })
})

test('letters that fall on the border of two pieces stay whole', async () => {
  const rows = (await batchesOf("select repeat('🌳漢ä', 5000 + n) from generate_series(1, 60) n order by n", 1, 100)).flat(2)
  expect(rows.map((text) => text!.length)).toEqual(Array.from({ length: 60 }, (_, at) => 4 * (5001 + at)))
  expect(rows.every((text) => text === '🌳漢ä'.repeat(text!.length / 4))).toBe(true)
})

test('a reader that stops early leaves the other connections as they were', async () => {
  const stopped = whileReading(database(), async (connection) => {
    for await (const { length } of copyRows(connection, 'select n from generate_series(1, 1000000) n', 1, 10)) if (length > 0) throw new Error('enough')
  })
  await expect(stopped).rejects.toThrow('enough')
  expect((await batchesOf('select 1', 1, 10)).flat(2)).toEqual(['1'])
})
