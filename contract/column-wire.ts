/**
 * A column on the wire: an Arrow IPC stream of record batches (Apache Arrow Columnar Format, "IPC Streaming Format").
 * Numbers lie in it as core's `NumberColumn` wants them. Of values that repeat it has the place of each in the order of
 * their first appearance, and beside the first one of each its text: so a stream can begin before all of them are known.
 */
import { type Data, Field, Float64, Int32, makeData, RecordBatch, Schema, Struct, type Table, Uint8, Utf8 } from 'apache-arrow'
import { emptyBitmap } from '@dime-gate/core/table/bitmap'
import { BLANK_CODE, dictionaryFrom } from '@dime-gate/core/table/dictionary-column'
import type { NumberColumn } from '@dime-gate/core/table/number-column'
import type { Column } from '@dime-gate/core/table/table'
import type { ValueKind } from '@dime-gate/core/value/value'

/** Records in a batch: a multiple of 32, so that batches join on whole words of their bitmaps. */
export const BATCH_RECORDS = 65_536

/** A column of some records, or of all. */
export interface ColumnBatch {
  /** Which record of the table each place holds. */
  records: Int32Array
  column: Column
}

/** What a run decided, by place. */
export interface DecisionBatch {
  records: Int32Array
  /** See core's `STATUSES`. */
  status: Uint8Array
  /** The rule that decided, or NONE. */
  rule: Int32Array
}

const RECORD = new Field('record', new Int32())
const UNREADABLE = new Field('unreadable', new Utf8(), true)
const numberSchema = new Schema([RECORD, new Field('value', new Float64(), true), new Field('exact', new Utf8(), true), UNREADABLE])
const dictionarySchema = new Schema([RECORD, new Field('code', new Int32()), new Field('text', new Utf8(), true), UNREADABLE])
export const decisionSchema = new Schema([RECORD, new Field('status', new Uint8()), new Field('rule', new Int32())])

export function columnSchemaOf(kind: ValueKind): Schema {
  return kind === 'number' ? numberSchema : dictionarySchema
}

/** Makes the batches of one column, in their order: texts are sent once, with the batch in which they first stand. */
export function columnEncoder(): (batch: ColumnBatch) => RecordBatch {
  const known = new Map<string, number>()
  /** Notes where a text is met first. @returns how many texts there are up to it */
  const sent = (text: string, at: number, fresh: Map<number, string>): number => {
    const before = known.get(text)
    if (before !== undefined) return before
    fresh.set(at, text)
    known.set(text, known.size + 1)
    return known.size
  }
  return ({ records, column }) => {
    const { length } = column
    const ids = makeData({ type: new Int32(), data: records })
    if (column.kind === 'number') {
      const { words } = column.valid
      const nullBitmap = new Uint8Array(words.buffer, words.byteOffset, words.byteLength)
      return toBatch(numberSchema, length, [ids, makeData({ type: new Float64(), data: column.doubles, length, nullBitmap }), sparseTexts(length, column.exact), sparseTexts(length, column.unreadable)])
    }
    const fresh = new Map<number, string>()
    // By code of this batch the code of the stream, from 1; 0 where it has not been met.
    const codeOf = new Int32Array(column.texts.length)
    const codes = new Int32Array(length)
    for (let at = 0; at < length; at++) {
      const code = column.codes[at]!
      codes[at] = code === BLANK_CODE ? BLANK_CODE : (codeOf[code] ||= sent(column.texts[code]!, at, fresh)) - 1
    }
    return toBatch(dictionarySchema, length, [ids, makeData({ type: new Int32(), data: codes }), sparseTexts(length, fresh), sparseTexts(length, column.unreadable)])
  }
}

export function decisionsToBatch({ records, status, rule }: DecisionBatch): RecordBatch {
  return toBatch(decisionSchema, records.length, [makeData({ type: new Int32(), data: records }), makeData({ type: new Uint8(), data: status }), makeData({ type: new Int32(), data: rule })])
}

function toBatch(schema: Schema, length: number, children: Data[]): RecordBatch {
  return new RecordBatch(schema, makeData({ type: new Struct(schema.fields), length, nullCount: 0, children }))
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
export function columnFromTable(table: Table, kind: ValueKind): ColumnBatch {
  const records = joined(table, 'record', new Int32Array(table.numRows))
  if (kind === 'number') return { records, column: numbersFrom(table) }
  const texts = [...sparseMap(table, 'text').values()]
  return { records, column: dictionaryFrom(kind, joined(table, 'code', new Int32Array(table.numRows)), texts, sparseMap(table, 'unreadable')) }
}

function numbersFrom(table: Table): NumberColumn {
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
  return { kind: 'number', length, doubles, valid, exact: sparseMap(table, 'exact'), unreadable: sparseMap(table, 'unreadable') }
}

export function decisionsFromTable(table: Table): DecisionBatch {
  const length = table.numRows
  return { records: joined(table, 'record', new Int32Array(length)), status: joined(table, 'status', new Uint8Array(length)), rule: joined(table, 'rule', new Int32Array(length)) }
}

function joined<Numbers extends Int32Array | Uint8Array>(table: Table, name: string, into: Numbers): Numbers {
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

