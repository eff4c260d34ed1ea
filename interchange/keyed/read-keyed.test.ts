import fc from 'fast-check'
import { readWhole } from '../testing/read-whole'
import { FileError } from '../table/problem'

const whole = (text: string) => readWhole(new TextEncoder().encode(text), { format: { dateOrder: 'year' } })
const names = async (text: string) => (await whole(text)).settings.columns.map(({ name }) => name)

test('objects in an array, in an object, or a line each, with missing values and nested ones', async () => {
  const records = [
    '{"Tree":"T1","Size":{"height":12.50,"trunk":null}}',
    '{"Tree":"T2","Due":"2026-03-02","Size":{"trunk":35}}',
    '{"Marks":[1, 2],"Tree":"T \\"3\\" \\u00e9","Alive":true}',
  ]
  const expected = [
    ['T1', '12.50', '', '', '', ''],
    ['T2', '', '35', '2026-03-02', '', ''],
    ['T "3" é', '', '', '', '[1, 2]', 'true'],
  ]
  for (const text of [
    `[${records.join(',\n')}]`,
    records.join('\n'),
    `\ufeff [\r\n${records.join(' , ')}\n]\n`,
    `{"page": 1, "note": "[x", "trees": [${records.join(',')}], "more": [1]}`,
  ]) {
    const { texts, settings } = await whole(text)
    expect(settings.columns.map(({ name }) => name)).toEqual(['Tree', 'Size.height', 'Size.trunk', 'Due', 'Marks', 'Alive'])
    expect(texts).toEqual(expected)
  }
  expect((await whole(records.join('\n'))).settings.columns.map(({ type }) => type)).toEqual([
    'text',
    'number',
    'number',
    'date',
    'text',
    'boolean',
  ])
})

test('numbers keep every digit, and texts that look like numbers stay texts', async () => {
  const { texts, settings } = await whole('[{"n":12345678901234567890.10,"t":"007","m":"12"},{"n":1e3,"t":"1","m":12}]')
  expect(texts).toEqual([
    ['12345678901234567890.10', '007', '12'],
    ['1e3', '1', '12'],
  ])
  expect(settings.columns.map(({ type }) => type)).toEqual(['number', 'text', 'number'])
})

test('whatever the texts and however the file is cut into pieces, a second reader reads the same', async () => {
  const value = fc.oneof(
    fc.string({ unit: 'grapheme' }),
    fc.integer(),
    fc.double({ noNaN: true, noDefaultInfinity: true }),
    fc.boolean(),
    fc.constant(null),
  )
  const records = fc.array(
    fc.dictionary(
      fc.string({ unit: 'grapheme', minLength: 1, maxLength: 6 }).filter((key) => key !== '__proto__'),
      value,
      { maxKeys: 4 },
    ),
    { minLength: 1, maxLength: 6 },
  )
  await fc.assert(
    fc.asyncProperty(records, fc.boolean(), async (all, isPretty) => {
      const keys = [...new Set(all.flatMap((record) => Object.keys(record)))]
      if (keys.length === 0) return
      const found = await whole(JSON.stringify(all, null, isPretty ? 2 : 0))
      expect(found.texts).toEqual(
        all.map((record) =>
          keys.map((key) =>
            record[key] === undefined || record[key] === null
              ? ''
              : typeof record[key] === 'number'
                ? JSON.stringify(record[key])
                : String(record[key]),
          ),
        ),
      )
    }),
    { numRuns: 300 },
  )
})

test.each([
  ['a list of numbers', '[1, 2]'],
  ['one that ends too early', '[{"a": 1}'],
  ['a record that ends too early', '[{"a": 1'],
  ['what is no value', '[{"a": nope}]'],
  ['a name without a value', '[{"a"}]'],
  ['two values without a comma', '[{"a": 1 "b": 2}]'],
  ['more behind the end', '[{"a": 1}] x'],
  ['a number with a zero before it', '[{"a": 01}]'],
  ['a list that is empty', '[]'],
])('%s is told with its line', async (_, text) => {
  const failure = await whole(text).catch((error: unknown) => error)
  // What is no JSON at all is looked at as delimited text.
  if (text === '[1, 2]') return expect((failure as { kind: string }).kind).toBe('delimited text')
  expect(failure).toBeInstanceOf(FileError)
  expect((failure as FileError).problem.line).toBe(1)
})

test('more names than a table can have columns are refused', async () => {
  const record = Object.fromEntries(Array.from({ length: 1300 }, (_, at) => [`k${at}`, at]))
  await expect(names(JSON.stringify([record]))).rejects.toMatchObject({ problem: { code: 'too-many-columns' } })
})

test('objects within objects without an end are refused', async () => {
  await expect(whole(`[${'{"a":'.repeat(200)}1${'}'.repeat(200)}]`)).rejects.toMatchObject({ problem: { code: 'not-records' } })
})
