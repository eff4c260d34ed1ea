import fc from 'fast-check'
import { recordsOfText } from '../table/read-records'
import { KeyedRows } from './keyed-rows'
import { readJson } from './read-json'

const NAMES = ['Tree', 'Näme', 'a,b', 'Due', 'q\\"', 'Alive']

/** How a value may stand in the file, and its text. */
type Written = [json: string, text: string]
const asText = (text: string): Written => [JSON.stringify(text), text]
const value = fc.oneof(
  fc.constantFrom<Written[]>(
    ['null', ''],
    ['true', 'true'],
    ['false', 'false'],
    ['0', '0'],
    ['-0.50', '-0.50'],
    ['1e3', '1e3'],
    ['12345678901234567890.10', '12345678901234567890.10'],
    ['[1, "a"]', '[1, "a"]'],
    ['"\\u00e9\\n"', 'é\n'],
    ['"a\u0001b"', 'a\u0001b'],
  ),
  fc.constantFrom('', ' ', 'a, b', ' a', 'b ', 'Fälldatum', '2026-03-02', '}', '{"x":1}', '🌳').map(asText),
  fc.string({ unit: 'grapheme', maxLength: 12 }).map(asText),
)
/** Records that have some of the names, mostly in one order, with blanks of all kinds between them. */
const record = fc.record({
  values: fc.array(fc.option(value, { freq: 4 }), { minLength: NAMES.length, maxLength: NAMES.length }),
  isTurned: fc.boolean(),
  blank: fc.constantFrom('', '', ' ', '\n  ', '\t'),
})

async function read(bytes: Uint8Array, size: number) {
  async function* pieces() {
    for (let at = 0; at < bytes.length; at += size) yield bytes.slice(at, at + size)
  }
  const written: string[] = []
  const rows = new KeyedRows((piece) => void written.push(new TextDecoder('utf-8', { ignoreBOM: true }).decode(piece)), () => undefined)
  await readJson(pieces(), 'array', rows)
  const { head, width, declared } = rows.finish()
  const names = recordsOfText(new TextDecoder().decode(head), ',').records[0]!
  return { names, declared, records: recordsOfText(written.join(''), ',', true, { width, isPadded: true }).records }
}

test('records are read the same, however much alike they are, however they are spaced, and wherever the file is cut', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(record, { minLength: 1, maxLength: 12 }), fc.integer({ min: 1, max: 60 }), async (records, size) => {
      const members = records.map(({ values, isTurned }) => {
        const all = values.flatMap((one, at) => (one ? [{ name: NAMES[at]!, json: one[0], text: one[1] }] : []))
        return isTurned && all.length % 3 === 0 ? all.reverse() : all
      })
      const text = `[${members.map((all, at) => `{${records[at]!.blank}${all.map(({ name, json }) => `"${name}":${records[at]!.blank}${json}`).join(`${records[at]!.blank},`)}}`).join(',\n')}]`
      const met = [...new Set(members.flat().map(({ name }) => name))]
      if (met.length === 0) return
      const found = await read(new TextEncoder().encode(text), size)
      const columns = found.names.map((name) => met.find((one) => JSON.parse(`"${one}"`) === name)!)
      expect([...columns].sort()).toEqual([...met].sort())
      expect(found.records).toEqual(members.map((all) => columns.map((column) => all.find(({ name }) => name === column)?.text ?? '')))
    }),
    { numRuns: 2000 },
  )
})

test('a column is of texts only where nothing else was in it, and a date is no text for that', async () => {
  const lines = ['{"a":"x","b":"2026-03-02","c":"7","d":"x"}', '{"a":"y","b":"2026-03-03","c":8,"d":"2026-03-02"}', '{"a":null,"b":"2026-03-04","c":"9","d":true}']
  const { declared } = await read(new TextEncoder().encode(`[${lines.join(',')}]`), 1000)
  expect(declared).toEqual([{ type: 'text' }, null, null, null])
})

test('what lay in its place before says nothing of a value that has not come yet', async () => {
  const lines = Array.from({ length: 60 }, (_, at) => `{"Code":"00${at}","Size":${at * 7},"Alive":${at % 2 === 0},"Note":"${'x'.repeat(at % 5)}"}`)
  const text = new TextEncoder().encode(`[${lines.join(',')}]`)
  for (let size = 1; size < 200; size++) expect([size, (await read(text, size)).declared]).toEqual([size, [{ type: 'text' }, null, null, { type: 'text' }]])
})

test('a wrong record among those alike is told with its line', async () => {
  const lines = Array.from({ length: 20 }, (_, at) => `{"a": ${at === 17 ? '01' : at},\n "b": "x"}`)
  await expect(read(new TextEncoder().encode(`[${lines.join(',\n')}]`), 100)).rejects.toMatchObject({ problem: { code: 'not-records', line: 35 } })
})
