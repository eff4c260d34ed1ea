/** What the first records say about a column: its name, its unit and the type its texts look like. */
import { type ColumnReading, type ColumnType, readCell } from '../value/read-cell'
import { beforeTimeOfDay, DATE_IN_FIGURES, type DateOrder } from '../value/read-date'
import { type DecimalMark, readNumber } from '../value/read-number'

/** A type is suggested where at least this share of the non-blank texts can be read as it. */
const ENOUGH = 0.8
const HALF = 0.5
/** Narrow types first: text fits everything. */
const CANDIDATES: ColumnType[] = ['boolean', 'date', 'number', 'percent']

export interface ColumnHeader {
  name: string
  /** The unit that the header ends in, as in `Trunk (cm)`; empty where there is none. */
  unit: string
  /** What can be reached at most, as in `Module 1 (out of 5)`, as a decimal; null where that is not said. */
  fullMarks: string | null
}

const FULL_MARKS = /^(?:out of|of|\/|max\.?|maximum) ?(\d{1,9}(?:\.\d{1,9})?)$/i

/** Splits `Trunk (cm)` into a name and a unit. A longer remark in brackets stays in the name. */
export function readHeader(written: string): ColumnHeader {
  const header = written.trim().replace(/\s+/g, ' ').normalize('NFC')
  const parts = /^(.+?) ?\(([^()]{1,12})\)$/.exec(header)
  if (!parts) return { name: header, unit: '', fullMarks: null }
  const marks = FULL_MARKS.exec(parts[2]!)
  return { name: parts[1]!, unit: marks ? '' : parts[2]!, fullMarks: marks ? marks[1]! : null }
}

export function suggestReading(
  texts: readonly string[],
  unit: string,
  decimalMark: DecimalMark,
  dateOrder: DateOrder,
): ColumnReading {
  const filled = texts.map((text) => text.trim()).filter((text) => text !== '')
  const reading = (type: ColumnType): ColumnReading => ({ type, decimalMark, dateOrder, fraction: false })
  if (filled.length === 0 || looksLikeCodes(filled)) return reading('text')
  const figures = filled.filter((text) => /\d/.test(text) && !text.startsWith('#'))
  const fits = (type: ColumnType) => {
    const readable = filled.filter((text) => readCell(text, reading(type)).state === 'readable').length
    // What holds no digit (n/a, absent, -), or is a sheet's error (#DIV/0!), speaks against a column of words, and little against one of figures.
    return readable >= ENOUGH * filled.length || (type !== 'boolean' && readable > HALF * filled.length && readable >= ENOUGH * figures.length)
  }
  const type = CANDIDATES.find(fits) ?? 'text'
  return reading(type === 'number' && unit === '%' ? 'percent' : type)
}

/** 0871 is a name made of figures; as the number 871 it would lose its zero. */
function looksLikeCodes(filled: readonly string[]): boolean {
  return filled.some((text) => /^0\d+$/.test(text))
}

/** The decimal mark under which more of the texts are numbers; a point where they say nothing. */
export function suggestDecimalMark(texts: readonly string[]): DecimalMark {
  let point = 0
  let comma = 0
  for (const written of texts) {
    const trimmed = written.trim()
    const text = trimmed.endsWith('%') ? trimmed.slice(0, -1).trimEnd() : trimmed
    if (!/[.,]/.test(text)) continue
    // 1,240 reads under both marks, as different numbers: it speaks for neither.
    const asPoint = readNumber(text, 'point').state === 'readable'
    const asComma = readNumber(text, 'comma').state === 'readable'
    if (asPoint && !asComma) point++
    if (asComma && !asPoint) comma++
  }
  return comma > point ? 'comma' : 'point'
}

/** The date order under which more of the texts are dates; day first where they say nothing. */
export function suggestDateOrder(texts: readonly string[]): DateOrder {
  let day = 0
  let month = 0
  let year = 0
  for (const text of texts) {
    const figures = DATE_IN_FIGURES.exec(beforeTimeOfDay(text.trim()) ?? text)
    if (/^\s*\d{4}[./-]\d/.test(text)) year++
    if (!figures) continue
    if (Number(figures[1]) > 12) day++
    else if (Number(figures[2]) > 12) month++
    else if (text.includes('.')) day += 0.01
  }
  if (year > 0 && day + month === 0) return 'year'
  return month > day ? 'month' : 'day'
}
