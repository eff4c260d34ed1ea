import {
  Bool,
  DateDay,
  Dictionary,
  Field,
  Float32,
  Float64,
  Int32,
  Int64,
  List,
  RecordBatch,
  RecordBatchFileWriter,
  RecordBatchStreamWriter,
  Schema,
  Struct,
  Table,
  TimestampMillisecond,
  Utf8,
  vectorFromArray,
  makeData,
  type Vector,
} from 'apache-arrow'
import { FileError } from '../table/problem'
import { readWhole } from '../testing/read-whole'

const vectors: Record<string, Vector> = {
  whole: vectorFromArray([1, null, -3], new Int32()),
  long: vectorFromArray([9007199254740993n, null, 1n], new Int64()),
  short: vectorFromArray([0.1, null, 2.5], new Float32()),
  double: vectorFromArray([0.1, null, 1e21], new Float64()),
  truth: vectorFromArray([true, null, false], new Bool()),
  word: vectorFromArray(['007', null, 'Eiche "ä"'], new Utf8()),
  ward: vectorFromArray(['North', null, 'North'], new Dictionary(new Utf8(), new Int32())),
  day: vectorFromArray([new Date('2026-03-02T00:00:00Z'), null, new Date('1969-12-31T00:00:00Z')], new DateDay()),
  moment: vectorFromArray([new Date('2026-03-02T14:05:00Z'), null, new Date('2026-03-02T00:00:00Z')], new TimestampMillisecond()),
  list: vectorFromArray([[1, 2], null, []], new List(new Field('item', new Int32()))),
}
const table = new Table(vectors)

const EXPECTED = [
  ['1', '9007199254740993', '0.1', '0.1', 'true', '007', 'North', '2026-03-02', '2026-03-02T14:05:00', '[1,2]'],
  Object.keys(vectors).map(() => ''),
  ['-3', '1', '2.5', '1e+21', 'false', 'Eiche "ä"', 'North', '1969-12-31', '2026-03-02', '[]'],
]

test.each([
  ['stream', () => RecordBatchStreamWriter.writeAll(table).toUint8Array()],
  ['file', () => RecordBatchFileWriter.writeAll(table).toUint8Array()],
])('values of every kind are read from the %s format, with the types that they have', async (_, write) => {
  const bytes = await write()
  const { kind, texts, settings } = await readWhole(bytes)
  expect([kind, texts]).toEqual(['Arrow', EXPECTED])
  expect(settings.columns.map(({ name, type }) => [name, type])).toEqual([
    ['whole', 'number'],
    ['long', 'number'],
    ['short', 'number'],
    ['double', 'number'],
    ['truth', 'boolean'],
    ['word', 'text'],
    ['ward', 'text'],
    ['day', 'date'],
    ['moment', 'date'],
    ['list', 'text'],
  ])
})

test('of many batches all are read, and columns without a record are columns', async () => {
  const schema = new Schema([new Field('n', new Int32(), true)])
  const batch = (numbers: number[]) =>
    new RecordBatch(
      schema,
      makeData({
        type: new Struct(schema.fields),
        length: numbers.length,
        nullCount: 0,
        children: [vectorFromArray(numbers, new Int32()).data[0]!],
      }),
    )
  const written = RecordBatchStreamWriter.writeAll(new Table(schema, [batch([1, 2]), batch([3])]))
  expect((await readWhole(await written.toUint8Array())).texts).toEqual([['1'], ['2'], ['3']])
  const none = RecordBatchStreamWriter.writeAll(new Table(schema, [batch([])]))
  const { texts, settings } = await readWhole(await none.toUint8Array())
  expect([texts, settings.columns.map(({ name }) => name)]).toEqual([[], ['n']])
})

test('what is cut short, or begins like Arrow and is none, is told', async () => {
  const bytes = await RecordBatchStreamWriter.writeAll(table).toUint8Array()
  for (const broken of [
    bytes.subarray(0, Math.floor(bytes.length / 2)),
    Buffer.concat([Buffer.from([0xff, 0xff, 0xff, 0xff]), Buffer.alloc(200, 7)]),
    Buffer.from('ARROW1\0\0 and no more'),
  ]) {
    const failure = await readWhole(broken).then(
      () => null,
      (error: unknown) => error,
    )
    expect(failure).toBeInstanceOf(FileError)
  }
})

test('what a file says of a column is looked at before it is believed', async () => {
  const note = (text: string) => new Field('n', new Utf8(), true, new Map([['dime-gate:column', text]]))
  const read = async (text: string) => {
    const schema = new Schema([note(text)])
    const data = makeData({
      type: new Struct(schema.fields),
      length: 1,
      nullCount: 0,
      children: [vectorFromArray(['5'], new Utf8()).data[0]!],
    })
    const { settings } = await readWhole(
      await RecordBatchStreamWriter.writeAll(new Table(schema, [new RecordBatch(schema, data)])).toUint8Array(),
    )
    return settings.columns[0]!
  }
  expect(await read('{"type":"number","unit":"cm","fullMarks":"9"}')).toMatchObject({ type: 'number', unit: 'cm', fullMarks: '9' })
  expect(await read('{"type":"function","unit":5,"fullMarks":"-1","name":"  ","isLeftOut":true}')).toMatchObject({
    name: 'n',
    unit: '',
    fullMarks: null,
    isLeftOut: false,
  })
  expect(await read('no JSON')).toMatchObject({ type: 'text' })
})
