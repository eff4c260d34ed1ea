/** The values that a column has most of. */
import { BLANK_CODE, type DictionaryColumn } from './dictionary-column'

export interface CommonValues {
  /** In canonical text, the commonest first; those of one count in the order of their texts. */
  values: { text: string; records: number }[]
  /** How many different values there are. */
  distinct: number
}

/** @param most as many as are told */
export function commonValues({ codes, texts }: Pick<DictionaryColumn, 'codes' | 'texts'>, most: number): CommonValues {
  const records = new Uint32Array(texts.length)
  for (const code of codes) if (code !== BLANK_CODE) records[code]!++
  const values = texts.flatMap((text, code) => (records[code] === 0 ? [] : [{ text, records: records[code]! }]))
  values.sort((a, b) => b.records - a.records || (a.text < b.text ? -1 : 1))
  return { values: values.slice(0, most), distinct: values.length }
}
