/** Numbers as people write them in files. */
import { Decimal, type DecimalText } from './number'
import { type Reading, readable, unreadable } from './reading'

export type DecimalMark = 'point' | 'comma'

/** As a number would be written anew: no zero before its digits, no minus before nothing. */
const PLAIN = /^(?!-[0.]+$)-?(?:0|[1-9]\d*)(?:\.\d+)?$/
const WRITTEN = {
  point: /^[+-]?(\d+|\d{1,3}(?:([,'’ \u00a0\u202f])\d{3})(?:\2\d{3})*)?(\.\d*)?(e[+-]?\d{1,4})?$/i,
  comma: /^[+-]?(\d+|\d{1,3}(?:([.'’ \u00a0\u202f])\d{3})(?:\2\d{3})*)?(,\d*)?(e[+-]?\d{1,4})?$/i,
}
const GROUPING = { point: /[,'’ \u00a0\u202f]/g, comma: /[.'’ \u00a0\u202f]/g }

/** decimal128 keeps 34 significant digits; more would be rounded without being asked. */
const MOST_DIGITS = 34
/** Bulk comparison goes through doubles, so a number has to fit in one. */
const LARGEST_EXPONENT = 300

/**
 * Reads trimmed text as a number.
 * Groups of three may be set apart, signs of money do not count, and (35) is -35; a unit or any other letter makes the text unreadable.
 * @returns the decimal text, or why there is none: `not-a-number`, `too-many-digits`, `out-of-range`.
 */
export function readNumber(text: string, mark: DecimalMark): Reading<DecimalText> {
  if (text.length <= 15 && PLAIN.test(text)) {
    return mark === 'point' || !text.includes('.') ? readable(text) : readCarefully(text, mark)
  }
  return readCarefully(text, mark)
}

/** A figure as ledgers have it: a sign of money before or behind it, and brackets around what is below zero. */
const IN_BRACKETS = /^\((?![-+\u2212\u2013])(.+)\)$/
const MONEY_BEFORE = /^([-+\u2212\u2013]?) ?[$£¥€₹] ?/
const MONEY_BEHIND = /[ \u00a0\u202f]?[$£¥€₹]$/

function readCarefully(text: string, mark: DecimalMark): Reading<DecimalText> {
  // A true minus sign and a plus sign are common in typeset tables.
  const written = text.replace(IN_BRACKETS, '-$1').replace(MONEY_BEFORE, '$1').replace(MONEY_BEHIND, '').replace(/^[\u2212\u2013]/, '-')
  const parts = WRITTEN[mark].exec(written)
  if (!parts || !/\d/.test((parts[1] ?? '') + (parts[3] ?? ''))) return unreadable('not-a-number')
  const normal = written.replace(GROUPING[mark], '').replace(',', '.').replace(/^\+/, '')
  // Counted before the arithmetic, which would round a longer number without a word.
  const [first, last] = significant(normal)
  if (last - first > MOST_DIGITS) return unreadable('too-many-digits')
  const value = new Decimal(normal)
  const vanished = value.isZero() && first < last
  if (vanished || !value.isFinite() || Math.abs(value.e) > LARGEST_EXPONENT) return unreadable('out-of-range')
  return readable(PLAIN.test(normal) ? normal : value.toFixed())
}

/** Of all digits of a number, point and exponent left out: the place of the first that is not zero, and the place behind the last. */
function significant(number: string): [number, number] {
  const digits = number.replace(/e.*$/i, '').replace(/\D/g, '')
  let [first, last] = [0, digits.length]
  while (first < last && digits[first] === '0') first++
  while (first < last && digits[last - 1] === '0') last--
  return [first, last]
}

/**
 * Reads trimmed text as a percentage, in points: `72 %` is 72.
 * A bare number counts as points, or as a fraction of one where `fraction` says so: 0.72 is 72.
 */
export function readPercent(text: string, mark: DecimalMark, fraction: boolean): Reading<DecimalText> {
  if (text.endsWith('%')) return readNumber(text.slice(0, -1).trimEnd(), mark)
  const number = readNumber(text, mark)
  if (!fraction || number.state !== 'readable') return number
  return readable(new Decimal(number.value).times(100).toFixed())
}
