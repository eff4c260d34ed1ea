import type { ColumnType } from '@dime-gate/core/value/read-cell'
import { COLUMN_TYPES, readCell } from '@dime-gate/core/value/read-cell'
import fc from 'fast-check'
import { readWhole } from '../testing/read-whole'
import type { OutCell, OutColumn, OutRow } from './out'
import { OUT_FORMATS, type TypedFormat } from './out-formats'
import { writeTable } from './write-table'

const TYPED = OUT_FORMATS.filter((format): format is TypedFormat => format !== 'csv')

const signs = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 12 }),
  fc.constantFrom(
    '=1+1',
    '+49',
    '-5',
    '@now',
    '"',
    "'",
    '<b>&amp;',
    '_x000D_',
    ' a  b ',
    'a\tb',
    'a\nb',
    'a\r\nb',
    '007',
    '12',
    '2026-03-02',
    'true',
    'null',
    '#N/A',
    '\ud83c\udf33',
  ),
)
const text = signs
  .map((one) =>
    one
      .normalize('NFC')
      .replace(/[\x00-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff\ufeff]/g, '')
      .trim(),
  )
  .filter((one) => readCell(one, { type: 'text', decimalMark: 'point', dateOrder: 'year', fraction: false }).state === 'readable')
  // One that is guarded is read without its guard, and another text then.
  .filter((one) => !one.startsWith("'"))
const digits = (most: number) => fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: most }).map((all) => all.join(''))
const number = fc.tuple(fc.boolean(), digits(18), fc.option(digits(12))).map(([isNegative, whole, fraction]) => {
  const behind = fraction?.replace(/0+$/, '')
  const plain = `${whole.replace(/^0+(?=\d)/, '')}${behind ? `.${behind}` : ''}`
  return isNegative && /[1-9]/.test(plain) ? `-${plain}` : plain
})
const date = fc
  .date({ min: new Date('1500-01-01T00:00:00Z'), max: new Date('9999-12-31T00:00:00Z'), noInvalidDate: true })
  .map((one) => one.toISOString().slice(0, 10))
const VALUES: Record<ColumnType, fc.Arbitrary<string>> = { number, percent: number, date, text, boolean: fc.constantFrom('true', 'false') }
const isUnreadable = (type: ColumnType) => (one: string) =>
  readCell(one, { type, decimalMark: 'point', dateOrder: 'year', fraction: false }).state === 'unreadable'

const column = fc
  .record({
    name: text.filter((one) => one.length > 0),
    unit: fc.constantFrom('', 'cm', '%', 'kg/m²', 'a(b'),
    type: fc.constantFrom(...COLUMN_TYPES),
    fullMarks: fc.constantFrom(null, null, '5', '12.5'),
    isIdentity: fc.boolean(),
  })
  .map((one): OutColumn => ({ ...one, fullMarks: one.type === 'number' ? one.fullMarks : null }))

const cellOf = (type: ColumnType): fc.Arbitrary<OutCell> =>
  fc.oneof(
    { weight: 6, arbitrary: VALUES[type].map((value) => ({ value, unreadable: null })) },
    { weight: 1, arbitrary: fc.constant({ value: null, unreadable: null }) },
    {
      weight: 1,
      arbitrary:
        type === 'text'
          ? fc.constant({ value: null, unreadable: null })
          : text.filter(isUnreadable(type)).map((unreadable) => ({ value: null, unreadable })),
    },
  )
const table = fc.uniqueArray(column, { minLength: 1, maxLength: 5, selector: ({ name }) => name }).chain((columns) =>
  fc.record({
    columns: fc.constant(columns),
    rows: fc.array(fc.tuple(...columns.map(({ type }) => cellOf(type))) as fc.Arbitrary<OutRow>, { minLength: 1, maxLength: 8 }),
  }),
)

/** With what a first look at a table finds out about its numbers. */
function known(columns: readonly OutColumn[], rows: readonly OutRow[]): OutColumn[] {
  return columns.map((one, at) => {
    const values = rows.flatMap((row) => row[at]!.value ?? [])
    const parts = values.map((value) => value.replace('-', '').split('.'))
    return {
      ...one,
      hasUnreadable: rows.some((row) => row[at]!.unreadable !== null),
      digits: {
        whole: Math.max(1, ...parts.map(([whole]) => whole!.length)),
        fraction: Math.max(0, ...parts.map(([, fraction]) => fraction?.length ?? 0)),
      },
    }
  })
}

async function bytesOf(format: TypedFormat, columns: readonly OutColumn[], rows: readonly OutRow[]): Promise<Uint8Array> {
  async function* inPieces() {
    for (let at = 0; at < rows.length; at += 3) yield rows.slice(at, at + 3)
  }
  const pieces: Uint8Array[] = []
  for await (const piece of writeTable(format, { name: 'Trees', columns: known(columns, rows) }, inPieces())) pieces.push(piece)
  return Buffer.concat(pieces)
}

const KINDS: Record<TypedFormat, string> = { xlsx: 'XLSX', ods: 'ODS', json: 'JSON', jsonl: 'JSON Lines', arrow: 'Arrow' }

test.each(TYPED)(
  '%s: what goes out and comes in again has the same values, blanks and unreadable texts, under the same names',
  async (format) => {
    await fc.assert(
      fc.asyncProperty(table, async ({ columns, rows }) => {
        // Sheets have no row for a record of blanks alone, and lines of objects are told from one object by the next.
        const kept =
          format === 'xlsx' || format === 'ods'
            ? rows.filter((row) => row.some(({ value, unreadable }) => value !== null || unreadable !== null))
            : rows
        if (kept.length < 2) return
        // JSON says what a value is, and not what its column is meant to be: that is told as it was.
        const edits = Object.fromEntries(
          columns.map(({ type, name, unit, fullMarks, isIdentity }, at) => [at, { type, name, unit, fullMarks, isIdentity }]),
        )
        const isTold = format === 'json' || format === 'jsonl'
        const found = await readWhole(await bytesOf(format, columns, rows), {
          format: { dateOrder: 'year', hasHeader: true, skip: 0, hasFullMarks: false },
          ...(isTold ? { columns: edits } : {}),
        })
        expect(found.kind).toBe(KINDS[format])
        expect(
          found.settings.columns.map(({ name, unit, type, fullMarks, isIdentity }) => ({ name, unit, type, fullMarks, isIdentity })),
        ).toEqual(
          columns.some(({ isIdentity }) => isIdentity) || isTold
            ? columns
            : columns.map((one, at) => ({ ...one, isIdentity: found.settings.columns[at]!.isIdentity })),
        )
        expect(found.values).toEqual(
          kept.map((row) => row.map(({ value, unreadable }) => value ?? (unreadable === null ? null : { unreadable }))),
        )
      }),
      { numRuns: 300 },
    )
  },
  120_000,
)

test('labels are coloured where the format can show it, in writing that can be read on them', async () => {
  const columns: OutColumn[] = [
    {
      name: 'Label',
      unit: '',
      type: 'text',
      fullMarks: null,
      isIdentity: false,
      colours: new Map([
        ['Failing', '#8e3424'],
        ['Sound', '#d3c48a'],
      ]),
    },
  ]
  const rows: OutRow[] = ['Failing', 'Sound'].map((value) => [{ value, unreadable: null }])
  const { openArchive } = await import('../sheet/zip')
  const { fileOf } = await import('../testing/read-whole')
  const part = async (format: TypedFormat, name: string) => {
    const archive = await openArchive(fileOf(await bytesOf(format, columns, rows)))
    let all = ''
    for await (const piece of archive.pieces(name, 1e6)) all += Buffer.from(piece).toString()
    return all
  }
  expect(await part('xlsx', 'xl/styles.xml')).toMatch(/FF8E3424.*fontId="2" fillId="2".*fontId="0" fillId="3"/s)
  expect(await part('xlsx', 'xl/worksheets/sheet1.xml')).toMatch(/r="A2" t="inlineStr" s="5".*r="A3" t="inlineStr" s="6"/s)
  expect(await part('ods', 'content.xml')).toMatch(
    /background-color="#8e3424".*color="#ffffff".*background-color="#d3c48a".*color="#000000"/s,
  )
})
