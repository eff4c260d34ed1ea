/** Apache Arrow: an IPC stream of record batches, typed, with what is said of a column in its field's metadata. */
import {
  Bool,
  type Data,
  type DataType,
  DateDay,
  Decimal as DecimalType,
  Field,
  makeData,
  RecordBatch,
  RecordBatchStreamWriter,
  Schema,
  Struct,
  Utf8,
} from 'apache-arrow'
import { headsOf, noteOf, type OutColumn, type OutRow, type OutTable } from '../table/out'
import { COLUMN_NOTE } from './read-arrow'

/** Digits that a decimal of 128 bits holds. */
const MOST_DIGITS = 38
const DAY = 86_400_000

export async function* writeArrow({ columns }: OutTable, rows: AsyncIterable<readonly OutRow[]>): AsyncGenerator<Uint8Array> {
  const types = columns.map(typeOf)
  const fields = headsOf(columns).map(
    (head, at) => new Field(head, types[at]!, true, new Map([[COLUMN_NOTE, JSON.stringify(noteOf(columns[at]!))]])),
  )
  const schema = new Schema(fields)
  const writer = new RecordBatchStreamWriter()
  writer.reset(undefined, schema)
  const pieces = writer[Symbol.asyncIterator]()
  const done = (async () => {
    for await (const some of rows) {
      const children = columns.map((column, at) => dataOf(types[at]!, column, some, at))
      writer.write(new RecordBatch(schema, makeData({ type: new Struct(fields), length: some.length, nullCount: 0, children })))
    }
    writer.close()
  })().catch((error: unknown) => writer.abort(error))
  for (let next = await pieces.next(); !next.done; next = await pieces.next()) yield next.value
  await done
}

/** Texts that are no value stand in columns of texts alone; what the column is meant to be is in its metadata. */
function typeOf({ type, digits, hasUnreadable }: OutColumn): DataType {
  if (hasUnreadable || type === 'text') return new Utf8()
  if (type === 'boolean') return new Bool()
  if (type === 'date') return new DateDay()
  const { whole, fraction } = digits ?? { whole: MOST_DIGITS, fraction: MOST_DIGITS }
  return whole + fraction <= MOST_DIGITS ? new DecimalType(fraction, Math.max(1, whole + fraction), 128) : new Utf8()
}

function dataOf(type: DataType, { type: columnType }: OutColumn, rows: readonly OutRow[], at: number): Data {
  const { length } = rows
  const nullBitmap = new Uint8Array(((length + 63) >> 6) << 3)
  let nullCount = 0
  const present = (row: number, isThere: boolean): void => {
    if (isThere) nullBitmap[row >> 3]! |= 1 << (row & 7)
    else nullCount++
  }
  if (type instanceof Utf8) {
    const texts = rows.map((row) => {
      const { value, unreadable } = row[at]!
      return value === null ? unreadable : columnType === 'percent' ? `${value}%` : value
    })
    const bytes = texts.map((text) => Buffer.from(text ?? ''))
    const valueOffsets = new Int32Array(length + 1)
    bytes.forEach((one, row) => {
      valueOffsets[row + 1] = valueOffsets[row]! + one.length
      present(row, texts[row] !== null)
    })
    return makeData({ type, length, nullCount, nullBitmap, valueOffsets, data: new Uint8Array(Buffer.concat(bytes)) })
  }
  const values = rows.map((row) => row[at]!.value)
  values.forEach((value, row) => present(row, value !== null))
  if (type instanceof Bool) {
    const data = new Uint8Array(nullBitmap.length)
    values.forEach((value, row) => value === 'true' && (data[row >> 3]! |= 1 << (row & 7)))
    return makeData({ type, length, nullCount, nullBitmap, data })
  }
  if (type instanceof DateDay)
    return makeData({
      type,
      length,
      nullCount,
      nullBitmap,
      data: Int32Array.from(values, (value) => (value === null ? 0 : Date.parse(value) / DAY)),
    })
  const data = new Uint32Array(4 * length)
  values.forEach((value, row) => value !== null && limbs(value, (type as DecimalType).scale, data, 4 * row))
  return makeData({ type: type as DecimalType, length, nullCount, nullBitmap, data })
}

/** A decimal as a two's complement of 128 bits, the lowest 32 first. */
function limbs(text: string, scale: number, into: Uint32Array, at: number): void {
  const [whole, fraction = ''] = text.split('.') as [string, string?]
  let number = BigInt.asUintN(128, BigInt(whole + fraction.padEnd(scale, '0')))
  for (let limb = 0; limb < 4; limb++) {
    into[at + limb] = Number(number & 0xffffffffn)
    number >>= 32n
  }
}
