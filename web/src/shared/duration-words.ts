/** Lengths of time as people say and type them. */
import { type Decimal, type DecimalText } from '@dime-gate/core/value/number'
import { parseDuration } from '@dime-gate/core/value/temporal'
import { counted, number } from './format'

/** `P37Y4M` as `37 years 4 months`, `PT36H` as `1 day 12 hours`; null of a text that is none in ISO 8601. */
export function durationWords(text: string): string | null {
  if (!/^-?P/.test(text)) return null
  const duration = parseDuration(text)
  if (!duration) return null
  return duration.kind === 'years and months duration' ? monthWords(duration.months, 'long') : secondWords(duration.seconds)
}

/** @param length `short` where there is little room: `37 y 4 m` */
export function monthWords(months: number, length: 'short' | 'long'): string {
  const [years, rest] = [Math.floor(Math.abs(months) / 12), Math.abs(months) % 12]
  const part = (count: number, long: string) => (length === 'long' ? counted(count, long) : `${number(String(count))} ${long[0]!}`)
  const words = [...(years > 0 ? [part(years, 'year')] : []), ...(rest > 0 || years === 0 ? [part(rest, years === 0 && rest === 0 ? 'year' : 'month')] : [])].join(' ')
  return months < 0 ? `\u2212${words}` : words
}

function secondWords(seconds: Decimal): string {
  const all = seconds.abs()
  const parts: [Decimal, string][] = [[all.divToInt(86_400), 'day'], [all.divToInt(3600).mod(24), 'hour'], [all.divToInt(60).mod(60), 'minute'], [all.mod(60), 'second']]
  const said = parts.filter(([count]) => !count.isZero()).map(([count, what]) => `${number(count.toFixed())} ${what}${count.eq(1) ? '' : 's'}`)
  return `${seconds.isNegative() ? '\u2212' : ''}${said.join(' ') || '0 days'}`
}

const TYPED = /^\s*([-\u2212])?\s*(?:(\d{1,6})(?!\d)\s*(?:y(?:ears?)?)?)?\s*(?:(\d{1,6})\s*m(?:onths?)?)?\s*$/i

/** Months, of what somebody typed: `10`, `10 years`, `2 y 3 m`, `18 months`, `P10Y`; null where it is nothing of the kind. */
export function readMonths(typed: string): DecimalText | null {
  const known = parseDuration(typed.trim())
  if (known?.kind === 'years and months duration') return String(known.months)
  const found = TYPED.exec(typed)
  if (!found || (found[2] === undefined && found[3] === undefined)) return null
  const months = Number(found[2] ?? 0) * 12 + Number(found[3] ?? 0)
  return String(found[1] && months !== 0 ? -months : months)
}
