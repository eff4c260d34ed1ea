/** Numbers, shares and dates as the reader's locale writes them; dates unambiguous anywhere. */
import { readNumber } from '@dime-gate/core/value/read-number'
import { Decimal, type DecimalText, plain } from '@dime-gate/core/value/number'

const counts = new Intl.NumberFormat()
/** The reader's own. */
export const DECIMAL_MARK = new Intl.NumberFormat().formatToParts(0.5).find(({ type }) => type === 'decimal')?.value === ',' ? 'comma' : 'point'
const dates = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
const moments = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' })

export function count(value: number): string {
  return counts.format(value)
}

/** `count(3, 'record')` is `3 records`. */
export function counted(value: number, one: string, many = `${one}s`): string {
  return `${count(value)} ${value === 1 ? one : many}`
}

/** A share in percent with one place; a part of nothing is nothing. */
export function share(part: number, whole: number): string {
  const percent = whole === 0 ? 0 : (100 * part) / whole
  return `${number(percent.toFixed(1))} %`
}

/** A decimal as it stands, under the locale's decimal mark. */
export function number(text: DecimalText): string {
  const shown = text.startsWith('-') ? `\u2212${text.slice(1)}` : text
  return DECIMAL_MARK === 'comma' ? shown.replace('.', ',') : shown
}

/** A decimal with no more than so many places; any other text as it is. */
export function roundedText(text: string, places: number): string {
  return /^-?\d+\.\d+$/.test(text) && text.length > places ? plain(new Decimal(text).toDecimalPlaces(places)) : text
}

/** Figures are told to so many places; the whole is in reach. */
export const FIGURE_PLACES = 4

/** What somebody typed, as a decimal; null where it is none. */
export function typedNumber(text: string): DecimalText | null {
  const reading = readNumber(text.trim(), DECIMAL_MARK)
  return reading.state === 'readable' ? plain(new Decimal(reading.value)) : null
}

/** How a number stands in a field, and how wide it is there, in pixels. */
export const NUMBER_WORDS = { say: number, read: (typed: string): DecimalText | null => typedNumber(typed.replaceAll('\u2212', '-')), width: 54 }

export function date(iso: string): string {
  return dates.format(new Date(`${iso}T00:00:00Z`))
}

export function moment(iso: string): string {
  return moments.format(new Date(iso))
}
