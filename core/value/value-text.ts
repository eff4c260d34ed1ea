/** Values as canonical text, and from it: what a document stores and a file shows. */
import { Decimal, plain } from './number'
import { parseDate, parseDateTime, parseDuration, parseTime, temporalText } from './temporal'
import { isList, isNumber, type Value, type ValueKind } from './value'

const NUMBER = /^-?(\d+(\.\d+)?|\.\d+)(e[+-]?\d{1,4})?$/i

/** The value that canonical `text` stands for as `kind`; null where it is no such text. */
export function valueFromText(text: string, kind: ValueKind): Value {
  switch (kind) {
    case 'text':
      return text
    case 'number':
      return numberFromText(text)
    case 'boolean':
      return text === 'true' ? true : text === 'false' ? false : null
    case 'date':
      return parseDate(text)
    case 'time':
      return parseTime(text)
    case 'date and time':
      return parseDateTime(text)
    case 'days and time duration':
    case 'years and months duration': {
      const duration = parseDuration(text)
      return duration?.kind === kind ? duration : null
    }
  }
}

/** @returns null where the text is no number, or one out of decimal128's reach. */
export function numberFromText(text: string): Decimal | null {
  if (text.length > 100 || !NUMBER.test(text)) return null
  // Adding zero rounds to 34 digits, which reading alone does not.
  const number = new Decimal(text).plus(0)
  return number.isFinite() ? number : null
}

/** FEEL's `string()` of a value (DMN 1.5 table 74); for null the empty text. */
export function textOfValue(value: Value): string {
  if (value === null) return ''
  if (typeof value === 'string') return value
  if (typeof value === 'boolean') return String(value)
  if (isNumber(value)) return plain(value)
  if (isList(value)) return `[${value.map((item) => (typeof item === 'string' ? JSON.stringify(item) : textOfValue(item) || 'null')).join(', ')}]`
  if (value.kind === 'range') {
    const [open, close] = [value.lowIncluded ? '[' : '(', value.highIncluded ? ']' : ')']
    return `${open}${textOfValue(value.low)}..${textOfValue(value.high)}${close}`
  }
  return value.kind === 'function' ? 'function' : temporalText(value)
}
