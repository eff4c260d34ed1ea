/**
 * A number column on the wire: an Arrow IPC stream of record batches (Apache Arrow Columnar Format, "IPC Streaming Format").
 * Its doubles and validity bits are laid out as core's `NumberColumn` wants them.
 */
import { type Data, Field, Float64, Int16, Int32, makeData, RecordBatch, Schema, Struct, type Table, Uint8, Utf8 } from 'apache-arrow'
import { emptyBitmap } from '@dime-gate/core/table/bitmap'
import type { NumberColumn } from '@dime-gate/core/table/number-column'

/** Records in a batch: a multiple of 32, so that batches join on whole words of their bitmaps. */
export const BATCH_RECORDS = 65_536

export interface ColumnBatch {
  /** Which record of the table each place holds. */
  records: Int32Array
  column: NumberColumn
}

/** What a run decided, by place; places in the gate's bands and cuts, or -1. */
export interface RunBatch extends ColumnBatch {
  status: Uint8Array
  band: Int16Array
  cut: Int16Array
}

const COLUMN_FIELDS = [
  new Field('record', new Int32()),
  new Field('value', new Float64(), true),
  new Field('exact', new Utf8(), true),
  new Field('unreadable', new Utf8(), true),
]
const RUN_FIELDS = [new Field('status', new Uint8()), new Field('band', new Int16()), new Field('cut', new Int16())]

export const columnWireSchema = new Schema(COLUMN_FIELDS)
export const runWireSchema = new Schema([...COLUMN_FIELDS, ...RUN_FIELDS])

export function columnToBatch(batch: ColumnBatch): RecordBatch {
  return toBatch(columnWireSchema, batch.records.length, columnChildren(batch))
}

export function runToBatch(batch: RunBatch): RecordBatch {
  const { status, band, cut } = batch
  return toBatch(runWireSchema, batch.records.length, [
    ...columnChildren(batch),
    makeData({ type: new Uint8(), data: status }),
    makeData({ type: new Int16(), data: band }),
    makeData({ type: new Int16(), data: cut }),
  ])
}

function toBatch(schema: Schema, length: number, children: Data[]): RecordBatch {
  return new RecordBatch(schema, makeData({ type: new Struct(schema.fields), length, nullCount: 0, children }))
}

function columnChildren({ records, column }: ColumnBatch): Data[] {
  const nullBitmap = new Uint8Array(column.valid.words.buffer, column.valid.words.byteOffset, column.valid.words.byteLength)
  return [
    makeData({ type: new Int32(), data: records }),
    makeData({ type: new Float64(), data: column.doubles, length: column.length, nullBitmap }),
    sparseTexts(column.length, column.exact),
    sparseTexts(column.length, column.unreadable),
  ]
}

/** A text column that is null nearly everywhere. `texts` is by place, ascending. */
function sparseTexts(length: number, texts: ReadonlyMap<number, string>): Data<Utf8> {
  const bitmap = emptyBitmap(length)
  const valueOffsets = new Int32Array(length + 1)
  const encoder = new TextEncoder()
  const parts: Uint8Array[] = []
  let filled = 0
  let end = 0
  for (const [at, text] of texts) {
    const bytes = encoder.encode(text)
    bitmap.words[at >>> 5]! |= 1 << (at & 31)
    valueOffsets.fill(end, filled, at + 1)
    filled = at + 1
    end += bytes.length
    parts.push(bytes)
  }
  valueOffsets.fill(end, filled)
  const data = new Uint8Array(end)
  let at = 0
  for (const part of parts) {
    data.set(part, at)
    at += part.length
  }
  return makeData({ type: new Utf8(), length, nullCount: length - texts.size, nullBitmap: new Uint8Array(bitmap.words.buffer), valueOffsets, data })
}

/** Joins the batches of a stream. */
export function columnFromTable(table: Table): ColumnBatch {
  const length = table.numRows
  const doubles = new Float64Array(length)
  const valid = emptyBitmap(length)
  const validBytes = new Uint8Array(valid.words.buffer)
  let start = 0
  for (const batch of table.batches) {
    const data = batch.getChild('value')!.data[0]!
    doubles.set(data.values.subarray(0, batch.numRows) as Float64Array, start)
    if (data.nullCount === 0) fillBits(validBytes, start, batch.numRows)
    else validBytes.set(data.nullBitmap.subarray(0, (batch.numRows + 7) >>> 3), start >>> 3)
    start += batch.numRows
  }
  return {
    records: joined(table, 'record', new Int32Array(length)),
    column: { kind: 'number', length, doubles, valid, exact: sparseMap(table, 'exact'), unreadable: sparseMap(table, 'unreadable') },
  }
}

export function runFromTable(table: Table): RunBatch {
  const length = table.numRows
  return {
    ...columnFromTable(table),
    status: joined(table, 'status', new Uint8Array(length)),
    band: joined(table, 'band', new Int16Array(length)),
    cut: joined(table, 'cut', new Int16Array(length)),
  }
}

function joined<Numbers extends Int32Array | Int16Array | Uint8Array>(table: Table, name: string, into: Numbers): Numbers {
  let start = 0
  for (const batch of table.batches) {
    into.set(batch.getChild(name)!.data[0]!.values.subarray(0, batch.numRows), start)
    start += batch.numRows
  }
  return into
}

function fillBits(bytes: Uint8Array, start: number, count: number): void {
  for (let at = start; at < start + count; at++) bytes[at >>> 3]! |= 1 << (at & 7)
}

function sparseMap(table: Table, name: string): Map<number, string> {
  const texts = new Map<number, string>()
  let start = 0
  for (const batch of table.batches) {
    const vector = batch.getChild(name)!
    if (vector.nullCount < batch.numRows) {
      for (let at = 0; at < batch.numRows; at++) {
        const text = vector.get(at) as string | null
        if (text !== null) texts.set(start + at, text)
      }
    }
    start += batch.numRows
  }
  return texts
}

