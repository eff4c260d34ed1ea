/** The values that a column has most of. */
import { hasBit } from './bitmap'
import { BLANK_CODE, type DictionaryColumn } from './dictionary-column'
import { decimalAt, type NumberColumn } from './number-column'
import { decimalTextOf } from '../value/number'

export interface CommonValues {
  /** In canonical text, the commonest first; those of one count in the order of their texts. */
  values: { text: string; records: number }[]
  /** How many different values there are. */
  distinct: number
}

type Countable = Pick<DictionaryColumn, 'kind' | 'codes' | 'texts'> | NumberColumn

/** @param most as many as are told */
export function commonValues(column: Countable, most: number): CommonValues {
  const values = column.kind === 'number' ? countedNumbers(column) : countedTexts(column)
  values.sort((a, b) => b.records - a.records || (a.text < b.text ? -1 : 1))
  return { values: values.slice(0, most), distinct: values.length }
}

function countedTexts({ codes, texts }: Pick<DictionaryColumn, 'codes' | 'texts'>): CommonValues['values'] {
  const records = new Uint32Array(texts.length)
  for (const code of codes) if (code !== BLANK_CODE) records[code]!++
  return texts.flatMap((text, code) => (records[code] === 0 ? [] : [{ text, records: records[code]! }]))
}

function countedNumbers(column: NumberColumn): CommonValues['values'] {
  const records = new Map<number | string, number>()
  for (let at = 0; at < column.length; at++) {
    if (!hasBit(column.valid, at)) continue
    const value = column.exact.size > 0 && column.exact.has(at) ? decimalAt(column, at)! : column.doubles[at]!
    records.set(value, (records.get(value) ?? 0) + 1)
  }
  return [...records].map(([value, found]) => ({ text: typeof value === 'string' ? value : decimalTextOf(value), records: found }))
}
