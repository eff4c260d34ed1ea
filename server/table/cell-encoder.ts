/** Cells of one column as the database stores them. */
import { type ColumnReading, type ColumnType, readCell } from '@dime-gate/core/value/read-cell'
import type { BinaryRows } from '../database/copy-binary'
import { plainWriter } from './plain-cells'

/** What became of a cell. */
export interface CellFate {
  state: 'readable' | 'blank' | 'unreadable'
  /** Whether its text has to be kept as written, since the value's own text is another. */
  isKept: boolean
}

/** Writes the value of a cell, whose text lies in bytes of UTF-8, as the next field of a row. */
export type CellEncoder = (bytes: Uint8Array, start: number, end: number, into: BinaryRows) => CellFate

const AS_WRITTEN: CellFate = { state: 'readable', isKept: false }
const OTHERWISE: CellFate = { state: 'readable', isKept: true }
const EMPTY: CellFate = { state: 'blank', isKept: false }
const WHITE_SPACE: CellFate = { state: 'blank', isKept: true }
const UNREADABLE: CellFate = { state: 'unreadable', isKept: true }

/** Texts that a column remembers. */
const REMEMBERED = 4096

/** Most cells are written as they would be written anew; what becomes of the others is remembered. */
export function cellEncoder(reading: ColumnReading): CellEncoder {
  const writePlain = plainWriter(reading)
  const known = new Map<string, { fate: CellFate; value: Uint8Array }>()

  return (bytes, start, end, into) => {
    if (start === end) {
      into.null()
      return EMPTY
    }
    if (writePlain(bytes, start, end, into)) return AS_WRITTEN
    const written = Buffer.from(bytes.buffer, bytes.byteOffset + start, end - start).toString('utf8')
    const before = known.get(written)
    if (before) {
      into.raw(before.value)
      return before.fate
    }
    const from = into.place
    const fate = encode(written, reading, into)
    if (known.size < REMEMBERED) known.set(written, { fate, value: into.since(from) })
    return fate
  }
}

function encode(written: string, reading: ColumnReading, into: BinaryRows): CellFate {
  const cell = readCell(written, reading)
  if (cell.state === 'readable') {
    writeValue(cell.value, reading.type, into)
    return cell.value === written ? AS_WRITTEN : OTHERWISE
  }
  into.null()
  return cell.state === 'blank' ? WHITE_SPACE : UNREADABLE
}

function writeValue(value: string, type: ColumnType, into: BinaryRows): void {
  switch (type) {
    case 'number':
    case 'percent':
      return into.numeric(value)
    case 'date':
      return into.date(value)
    case 'boolean':
      return into.boolean(value === 'true')
    case 'text':
      return into.text(value)
  }
}
