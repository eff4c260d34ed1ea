/** Pieces of SQL (ISO/IEC 9075), quoted so that nothing in a name or text is ever taken for more. */
import { Decimal } from '@dime-gate/core/value/number'
import { temporalText } from '@dime-gate/core/value/temporal'
import { isList, isNumber, type Value } from '@dime-gate/core/value/value'
import { GateError } from '../gate-error'
import type { Language, When } from '../ladder/language'

/** SQL text, and how closely it holds together: where it is put into more, brackets go around what is loose. */
export interface Sql {
  text: string
  closeness: Closeness
}

/** From loosest to closest, as the standard's grammar nests. */
export const CLOSENESS = { or: 0, and: 1, not: 2, is: 3, comparison: 4, sum: 5, product: 6, whole: 7 } as const
type Closeness = (typeof CLOSENESS)[keyof typeof CLOSENESS]

export function sql(text: string, closeness: Closeness = CLOSENESS.whole): Sql {
  return { text, closeness }
}

/** The text for a place that asks for at least this closeness. */
export function within({ text, closeness }: Sql, place: Closeness): string {
  return closeness < place ? `(${text})` : text
}

/** ISO/IEC 9075-2 clause 5.2, delimited identifier. */
export function identifier(name: string): string {
  if (name.includes('\0')) throw new GateError('A name holds a zero character, which SQL cannot.')
  return `"${name.replaceAll('"', '""')}"`
}

/** ISO/IEC 9075-2 clause 5.3, character string literal. */
export function textLiteral(text: string): string {
  if (text.includes('\0')) throw new GateError('A text holds a zero character, which SQL cannot.')
  return `'${text.replaceAll("'", "''")}'`
}

export const NULL = sql('NULL')
export const TRUE = sql('TRUE')
export const FALSE = sql('FALSE')

/** Days-and-time durations are seconds, years-and-months durations months. */
export function literal(value: Value): Sql {
  if (value === null) return NULL
  if (typeof value === 'boolean') return value ? TRUE : FALSE
  if (typeof value === 'string') return sql(textLiteral(value))
  if (isNumber(value)) return number(value)
  if (isList(value)) throw new GateError('A list cannot be written as an SQL value.')
  switch (value.kind) {
    case 'date':
      return sql(`DATE ${textLiteral(temporalText(value))}`)
    case 'days and time duration':
      return number(value.seconds)
    case 'years and months duration':
      return number(new Decimal(value.months))
    default:
      throw new GateError(`A ${value.kind} cannot be written in SQL; dates and durations can.`)
  }
}

function number(value: Decimal): Sql {
  const text = value.toFixed()
  return text.startsWith('-') ? sql(`(${text})`) : sql(text)
}

export function conjunction(parts: readonly Sql[]): Sql {
  const left = parts.filter(({ text }) => text !== TRUE.text)
  if (left.some(({ text }) => text === FALSE.text)) return FALSE
  if (left.length <= 1) return left[0] ?? TRUE
  return sql(left.map((part) => within(part, CLOSENESS.not)).join(' AND '), CLOSENESS.and)
}

export function disjunction(parts: readonly Sql[]): Sql {
  const left = parts.filter(({ text }) => text !== FALSE.text)
  if (left.some(({ text }) => text === TRUE.text)) return TRUE
  if (left.length <= 1) return left[0] ?? FALSE
  return sql(left.map((part) => within(part, CLOSENESS.and)).join(' OR '), CLOSENESS.or)
}

export function negation(of: Sql): Sql {
  if (of.text === TRUE.text) return FALSE
  return of.text === FALSE.text ? TRUE : sql(`NOT ${within(of, CLOSENESS.comparison)}`, CLOSENESS.not)
}

/** `IS NULL`, `IS NOT FALSE` and the like. */
export function is(of: Sql, what: string): Sql {
  return sql(`${within(of, CLOSENESS.whole)} IS ${what}`, CLOSENESS.is)
}

export function isDistinct(a: Sql, b: Sql): Sql {
  return is(a, `DISTINCT FROM ${within(b, CLOSENESS.sum)}`)
}

/** A searched CASE; what can never be true is left out, and nothing stands after what always is. */
export function caseOf(whens: readonly When<Sql>[], otherwise: Sql): Sql {
  const possible = whens.filter(({ when }) => when.text !== FALSE.text)
  const always = possible.findIndex(({ when }) => when.text === TRUE.text)
  const kept = always < 0 ? possible : possible.slice(0, always)
  const last = always < 0 ? otherwise : possible[always]!.then
  if (kept.length === 0) return last
  // A CASE of nothing but null would have a type of its own choosing.
  if ([last, ...kept.map(({ then }) => then)].every(({ text }) => text === NULL.text)) return NULL
  const lines = kept.map(({ when, then }) => `WHEN ${when.text} THEN ${then.text}`)
  return sql(['CASE', ...lines.map(indented), ...(last.text === NULL.text ? [] : [indented(`ELSE ${last.text}`)]), 'END'].join('\n'))
}

function indented(text: string): string {
  return text.replace(/^/gm, '  ')
}

export const SQL: Language<Sql> = {
  yes: TRUE,
  no: FALSE,
  nothing: NULL,
  all: conjunction,
  any: disjunction,
  number: (value) => sql(String(value)),
  quoted: (text) => sql(textLiteral(text)),
  cases: caseOf,
  numbered(selector, choices, otherwise) {
    const lines = choices.map(({ text }, at) => `WHEN ${at + 1} THEN ${text}`)
    return sql([`CASE ${selector.text}`, ...lines.map(indented), indented(`ELSE ${otherwise.text}`), 'END'].join('\n'))
  },
  areDistinct: isDistinct,
}
