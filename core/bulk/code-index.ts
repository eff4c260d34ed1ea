/** The records of a column by their values, found once: those of a value are at hand without a look at all others. */
import { BLANK_CODE, type DictionaryColumn } from '../table/dictionary-column'

export interface CodeIndex {
  /** By code, one place further so that that of a blank has one too, where its records begin in `places`; the last entry is where they end. */
  starts: Uint32Array
  places: Uint32Array
}

const indexes = new WeakMap<DictionaryColumn, CodeIndex>()

export function placesByCode(column: DictionaryColumn): CodeIndex {
  const known = indexes.get(column)
  if (known) return known
  const { codes, length } = column
  const starts = new Uint32Array(column.values.length + 2)
  for (let at = 0; at < length; at++) starts[codes[at]! - BLANK_CODE + 1]!++
  for (let code = 1; code < starts.length; code++) starts[code]! += starts[code - 1]!
  const next = starts.slice()
  const places = new Uint32Array(length)
  for (let at = 0; at < length; at++) places[next[codes[at]! - BLANK_CODE]!++] = at
  const index = { starts, places }
  indexes.set(column, index)
  return index
}

const blanks = new WeakMap<DictionaryColumn, boolean>()

export function hasBlanks(column: DictionaryColumn): boolean {
  const known = blanks.get(column) ?? column.codes.includes(BLANK_CODE)
  blanks.set(column, known)
  return known
}
