/** Pieces of OpenFormula (ISO/IEC 26300-4), the language of formulas in spreadsheet documents. */
import { calendarDay } from '@dime-gate/core/value/calendar'
import { isNumber, type Value } from '@dime-gate/core/value/value'
import { GateError } from '../gate-error'
import type { Language } from '../ladder/language'

/** Formula text, and how closely it holds together (clause 5.5, operators by precedence). */
export interface Formula {
  text: string
  closeness: Closeness
}

export const CLOSENESS = { comparison: 0, join: 1, sum: 2, product: 3, power: 4, sign: 5, whole: 6 } as const
type Closeness = (typeof CLOSENESS)[keyof typeof CLOSENESS]

export function formula(text: string, closeness: Closeness = CLOSENESS.whole): Formula {
  return { text, closeness }
}

export function within({ text, closeness }: Formula, place: Closeness): string {
  return closeness < place ? `(${text})` : text
}

export function call(name: string, ...args: Formula[]): Formula {
  return formula(`${name}(${args.map(({ text }) => text).join('; ')})`)
}

/** Clause 5.4.1. */
export function textLiteral(text: string): Formula {
  if (text.includes('\0')) throw new GateError('A text holds a zero character, which a formula cannot.')
  return formula(`"${text.replaceAll('"', '""')}"`)
}

const IDENTIFIER = /^[\p{L}_][\p{L}\p{N}_.]*$/u
/** What would be read as a cell, a logical value or a function. */
const TAKEN = /^([A-Za-z]{1,3}\d+|[rR]\d*[cC]\d*|true|false)$/i

/** A named cell, clause 5.11: by its name alone, or in quotes where the name is none that may stand alone. */
export function cellNamed(name: string): Formula {
  return formula(IDENTIFIER.test(name) && !TAKEN.test(name) ? name : `$$'${name.replaceAll("'", "''")}'`)
}

export const YES = formula('TRUE()')
export const NO = formula('FALSE()')
/** What an empty result shows. */
const NOTHING = formula('""')

/** Days-and-time durations are seconds. */
export function literal(value: Value): Formula {
  if (value === null) return NOTHING
  if (typeof value === 'boolean') return value ? YES : NO
  if (typeof value === 'string') return textLiteral(value)
  if (isNumber(value)) return number(value.toFixed())
  if (typeof value === 'object' && 'kind' in value) {
    if (value.kind === 'date') {
      const { year, month, day } = calendarDay(value.day)
      return call('DATE', ...[year, month, day].map((part) => formula(String(part))))
    }
    if (value.kind === 'days and time duration') return number(value.seconds.toFixed())
  }
  throw new GateError('Only numbers, texts, true and false, dates and durations in days can be written in a formula.')
}

function number(text: string): Formula {
  return formula(text, text.startsWith('-') ? CLOSENESS.sign : CLOSENESS.whole)
}

function all(parts: readonly Formula[]): Formula {
  const left = parts.filter(({ text }) => text !== YES.text)
  if (left.some(({ text }) => text === NO.text)) return NO
  return left.length <= 1 ? left[0] ?? YES : call('AND', ...left)
}

function any(parts: readonly Formula[]): Formula {
  const left = parts.filter(({ text }) => text !== NO.text)
  if (left.some(({ text }) => text === YES.text)) return YES
  return left.length <= 1 ? left[0] ?? NO : call('OR', ...left)
}

export function not(of: Formula): Formula {
  return of.text === YES.text ? NO : of.text === NO.text ? YES : call('NOT', of)
}

export const OPEN_FORMULA: Language<Formula> = {
  yes: YES,
  no: NO,
  nothing: NOTHING,
  all,
  any,
  number: (value) => formula(String(value)),
  quoted: textLiteral,
  cases(whens, otherwise) {
    return whens.toReversed().reduce((rest, { when, then }) => {
      if (when.text === NO.text || then.text === rest.text) return rest
      return when.text === YES.text ? then : call('IF', when, then, rest)
    }, otherwise)
  },
  numbered: (selector, choices, otherwise) => call('CHOOSE', formula(`${within(selector, CLOSENESS.sum)} + 1`, CLOSENESS.sum), otherwise, ...choices),
  // As texts, numbers are the same exactly where they are; nothing is the empty text.
  areDistinct: (a, b) => not(call('EXACT', a, b)),
}
