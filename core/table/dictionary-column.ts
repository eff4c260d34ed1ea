/** A column of texts, dates or other values that repeat: each different value once, and its place for every record. */
import { type Cell, fillColumn } from './cells'
import { valueFromText } from '../value/value-text'
import type { Value, ValueKind } from '../value/value'

export interface DictionaryColumn {
  readonly kind: 'dictionary'
  readonly type: ValueKind
  readonly length: number
  /** By record its value's place in `texts`, or BLANK_CODE. */
  readonly codes: Int32Array
  /** The different values, in canonical text. */
  readonly texts: readonly string[]
  readonly values: readonly Value[]
  /** The texts that could not be read, by place. */
  readonly unreadable: ReadonlyMap<number, string>
}

export const BLANK_CODE = -1

export function dictionaryColumn(type: ValueKind, cells: readonly Cell[]): DictionaryColumn {
  const codes = new Int32Array(cells.length).fill(BLANK_CODE)
  const places = new Map<string, number>()
  const unreadable = fillColumn(cells, (at, text) => {
    const known = places.get(text)
    codes[at] = known ?? places.size
    if (known === undefined) places.set(text, places.size)
  })
  return dictionaryFrom(type, codes, [...places.keys()], unreadable)
}

/** @param codes by record the place of its text, or BLANK_CODE */
export function dictionaryFrom(type: ValueKind, codes: Int32Array, texts: readonly string[], unreadable: ReadonlyMap<number, string>): DictionaryColumn {
  return { kind: 'dictionary', type, length: codes.length, codes, texts, values: texts.map((text) => valueFromText(text, type)), unreadable }
}
