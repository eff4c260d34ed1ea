/** Apache Arrow: the IPC stream format, and the file format. */
import type { FileHandle } from 'node:fs/promises'
import { type DataType, type Field, RecordBatchReader, Type, type Vector } from 'apache-arrow'
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
    for await (const batch of reader) {
      const columns = fields.map((field, at) => ({ place: places[at]!, vector: batch.getChildAt(at)!, ...writerOf(field) }))
      for (let row = 0; row < batch.numRows; row++) {
        for (const { place, vector, kind, text } of columns) {
          const value: unknown = vector.get(row)
          if (value !== null && value !== undefined) rows.text(place, text(value), kind)
        }
        rows.endRecord(NO_BYTES)
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

const NO_BYTES = new Uint8Array()

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

/** How a value of a type is written. */
function writerOf({ type }: Field): { kind: KeyedKind; text: (value: unknown) => string } {
  switch (type.typeId) {
    case Type.Decimal:
      return { kind: 'number', text: (value) => decimalText(value as Uint32Array, (type as unknown as { scale: number }).scale) }
    case Type.Float:
      // A float of 32 bits has seven digits of its own.
      return {
        kind: 'number',
        text:
          (type as unknown as { precision: number }).precision === 1 ? (value) => String(Number((value as number).toPrecision(7))) : String,
      }
    case Type.Int:
      return { kind: 'number', text: String }
    case Type.Bool:
      return { kind: 'truth', text: String }
    case Type.Date:
      return { kind: 'text', text: (value) => new Date(Number(value)).toISOString().slice(0, 10) }
    case Type.Timestamp:
      return { kind: 'text', text: (value) => momentText(Number(value)) }
    default:
      return { kind: 'text', text: LIST_TEXT.has(type.typeId) ? jsonText : String }
  }
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
  if (scale <= 0) return String(number * 10n ** BigInt(-scale))
  const isNegative = number < 0n
  const digits = String(isNegative ? -number : number).padStart(scale + 1, '0')
  const fraction = digits.slice(-scale).replace(/0+$/, '')
  return `${isNegative ? '-' : ''}${digits.slice(0, -scale)}${fraction && `.${fraction}`}`
}

function jsonText(value: unknown): string {
  return JSON.stringify((value as Vector).toJSON?.() ?? value, (_, part: unknown) => (typeof part === 'bigint' ? String(part) : part))
}
