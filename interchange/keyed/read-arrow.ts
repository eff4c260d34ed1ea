/** Apache Arrow: the IPC stream format, and the file format. */
import type { FileHandle } from 'node:fs/promises'
import { type Data, type DataType, type DateDay, type Decimal, type Field, RecordBatchReader, Type, type Utf8, type Vector } from 'apache-arrow'
import { type ByteFile, piecesOf } from '../table/byte-file'
import { fileError, FileError } from '../table/problem'
import type { ColumnPlan } from '../table/settings'
import type { KeyedKind, KeyedRows } from './keyed-rows'

/** Where a field's metadata says what the column is here. */
export const COLUMN_NOTE = 'dime-gate:column'

const MARK = new TextEncoder().encode('ARROW1')
/** Of the smallest stream. */
const LEAST = 8
const LIST_TEXT = new Set([Type.List, Type.FixedSizeList, Type.Struct, Type.Map, Type.Union])
const MILLISECONDS_A_DAY = 86_400_000
/** Different days whose texts are kept. */
const MOST_DAYS = 100_000
const ZERO = 0x30

export function isArrowFile(start: Uint8Array): boolean {
  return MARK.every((byte, at) => start[at] === byte)
}

/** A stream begins with a continuation mark and the length of its schema. */
export function isArrowStream(start: Uint8Array): boolean {
  return start.length >= LEAST && start[0] === 0xff && start[1] === 0xff && start[2] === 0xff && start[3] === 0xff
}

/** @returns by column what its field says of it. @throws FileError where it cannot be read */
export async function readArrow(file: ByteFile, rows: KeyedRows): Promise<(Partial<ColumnPlan> | null)[]> {
  try {
    const reader = await (isArrowFile(await file.read(0, MARK.length))
      ? RecordBatchReader.from(handleOf(file))
      : RecordBatchReader.from(piecesOf(file)))
    await reader.open()
    const fields = reader.schema.fields
    const places = fields.map(({ name }) => rows.place(name))
    const days = new Days()
    for await (const batch of reader) {
      const writers = fields.map((_, at) => valueWriter(batch.getChildAt(at)!, places[at]!, rows, days))
      for (let row = 0; row < batch.numRows; row++) {
        for (const write of writers) write(row)
        rows.endRecord()
      }
    }
    return fields.map((field) => noted(field) ?? typed(field.type))
  } catch (error) {
    if (error instanceof FileError) throw error
    throw fileError(
      'damaged',
      `The file is no Arrow table that can be read: ${(error as Error).message}. Compressed ones cannot be read yet; write it without compression.`,
    )
  }
}

/** What the reader takes for an open file: of the file format it reads the end first, and batches where that says they are. */
function handleOf(file: ByteFile): FileHandle {
  const handle: Pick<FileHandle, 'fd' | 'close'> & Record<'stat' | 'read', unknown> = {
    fd: 0,
    stat: async () => ({ size: file.size }),
    async read(buffer: Uint8Array, offset: number, length: number, position: number) {
      const bytes = await file.read(position, length)
      buffer.set(bytes, offset)
      return { bytesRead: bytes.length, buffer }
    },
    close: async () => undefined,
  }
  return handle as unknown as FileHandle
}

function noted({ metadata }: Field): Partial<ColumnPlan> | null {
  try {
    const note = JSON.parse(metadata.get(COLUMN_NOTE) ?? 'null') as Partial<ColumnPlan> | null
    return note && typeof note === 'object' ? note : null
  } catch {
    return null
  }
}

function typed(type: DataType): Partial<ColumnPlan> | null {
  switch (type.typeId) {
    case Type.Utf8:
    case Type.LargeUtf8:
      return { type: 'text' }
    case Type.Dictionary:
      return typed((type as unknown as { dictionary: DataType }).dictionary)
    case Type.Bool:
      return { type: 'boolean' }
    case Type.Date:
      return { type: 'date' }
    case Type.Int:
    case Type.Float:
    case Type.Decimal:
      return { type: 'number' }
    default:
      return null
  }
}

/** Writes the value that a row of a batch has in one column. */
type ValueWriter = (row: number) => void

function valueWriter(vector: Vector, place: number, rows: KeyedRows, days: Days): ValueWriter {
  const [data] = vector.data
  // Texts, decimals and days are most of what there is, and lie in their buffers as they are wanted.
  if (data && vector.data.length === 1) {
    if (data.typeId === Type.Utf8) return textWriter(data as Data<Utf8>, place, rows)
    if (data.typeId === Type.Decimal && (data as Data<Decimal>).type.bitWidth >= 64) return decimalWriter(data as Data<Decimal>, place, rows)
    if (data.typeId === Type.Date && data.values instanceof Int32Array) return dayWriter(data as Data<DateDay>, place, rows, days)
  }
  const { kind, text } = plainWriter(vector.type)
  return (row) => {
    const value: unknown = vector.get(row)
    if (value !== null && value !== undefined) rows.text(place, text(value), kind)
  }
}

/** Whether a row has a value (Arrow columnar format, validity bitmaps). */
function validIn({ nullCount, nullBitmap, offset }: Data): (row: number) => boolean {
  if (nullCount === 0 || !nullBitmap || nullBitmap.length === 0) return () => true
  return (row) => ((nullBitmap[(row + offset) >> 3]! >> ((row + offset) & 7)) & 1) === 1
}

function textWriter(data: Data<Utf8>, place: number, rows: KeyedRows): ValueWriter {
  const { values, valueOffsets } = data
  const isValid = validIn(data)
  const utf8 = new TextDecoder()
  return (row) => {
    if (!isValid(row)) return
    const [start, end] = [valueOffsets[row]!, valueOffsets[row + 1]!]
    let high = 0
    for (let at = start; at < end; at++) high |= values[at]!
    if (high < 0x80) rows.span(place, values, start, end, 'text')
    else rows.text(place, utf8.decode(values.subarray(start, end)), 'text')
  }
}

function decimalWriter(data: Data<Decimal>, place: number, rows: KeyedRows): ValueWriter {
  const { values, type: { scale, bitWidth } } = data
  const isValid = validIn(data)
  const limbs = bitWidth / 32
  return (row) => {
    if (!isValid(row)) return
    const short = shortNumber(values, row * limbs, limbs)
    rows.text(place, short === null ? decimalText(values.subarray(row * limbs, (row + 1) * limbs), scale) : pointed(short < 0, String(Math.abs(short)), scale), 'number')
  }
}

function dayWriter(data: Data<DateDay>, place: number, rows: KeyedRows, days: Days): ValueWriter {
  const { values } = data
  const isValid = validIn(data)
  return (row) => {
    if (isValid(row)) rows.text(place, days.text(values[row]!), 'text')
  }
}

/** Days that come again are written once. */
class Days {
  private readonly known = new Map<number, string>()

  text(day: number): string {
    let text = this.known.get(day)
    if (text !== undefined) return text
    if (this.known.size >= MOST_DAYS) this.known.clear()
    this.known.set(day, (text = dayText(day * MILLISECONDS_A_DAY)))
    return text
  }
}

/** How a value of a type is written. */
function plainWriter(type: DataType): { kind: KeyedKind; text: (value: unknown) => string } {
  switch (type.typeId) {
    case Type.Float:
      // A float of 32 bits has seven digits of its own.
      return {
        kind: 'number',
        text:
          (type as unknown as { precision: number }).precision === 1 ? (value) => String(Number((value as number).toPrecision(7))) : String,
      }
    case Type.Int:
      return { kind: 'number', text: String }
    case Type.Decimal:
      return { kind: 'number', text: (value) => decimalText(value as Uint32Array, (type as unknown as { scale: number }).scale) }
    case Type.Bool:
      return { kind: 'truth', text: String }
    case Type.Date:
      return { kind: 'text', text: (value) => dayText(Number(value)) }
    case Type.Timestamp:
      return { kind: 'text', text: (value) => momentText(Number(value)) }
    default:
      return { kind: 'text', text: LIST_TEXT.has(type.typeId) ? jsonText : String }
  }
}

function dayText(milliseconds: number): string {
  return new Date(milliseconds).toISOString().slice(0, 10)
}

function momentText(milliseconds: number): string {
  const text = new Date(milliseconds).toISOString()
  return milliseconds % MILLISECONDS_A_DAY === 0 ? text.slice(0, 10) : text.replace(/(\.000)?Z$/, '')
}

/** @param value a two's complement of 128 or 256 bits, the lowest 32 first */
function decimalText(value: Uint32Array, scale: number): string {
  let number = 0n
  for (let at = value.length - 1; at >= 0; at--) number = (number << 32n) | BigInt(value[at]!)
  number = BigInt.asIntN(32 * value.length, number)
  return pointed(number < 0n, String(number < 0n ? -number : number), scale)
}

/** The number that limbs from `from` on make, where a double holds it; null for a longer one. */
function shortNumber(values: Uint32Array, from: number, limbs: number): number | null {
  const next = values[from + 1]! | 0
  if (next >= 2 ** 20 || next < -(2 ** 20)) return null
  const sign = next < 0 ? 0xffffffff : 0
  for (let at = from + 2; at < from + limbs; at++) if (values[at] !== sign) return null
  return next * 2 ** 32 + values[from]!
}

/** @param digits of a number of so many parts of one, ten to the power of `scale` of them */
function pointed(isNegative: boolean, digits: string, scale: number): string {
  const sign = isNegative ? '-' : ''
  if (scale <= 0) return digits === '0' ? digits : `${sign}${digits}${'0'.repeat(-scale)}`
  const long = digits.padStart(scale + 1, '0')
  const point = long.length - scale
  let end = long.length
  while (end > point && long.charCodeAt(end - 1) === ZERO) end--
  return end === point ? sign + long.slice(0, point) : `${sign}${long.slice(0, point)}.${long.slice(point, end)}`
}

function jsonText(value: unknown): string {
  return JSON.stringify((value as Vector).toJSON?.() ?? value, (_, part: unknown) => (typeof part === 'bigint' ? String(part) : part))
}
