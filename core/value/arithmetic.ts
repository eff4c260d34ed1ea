/**
 * Arithmetic on values (DMN 1.5 clause 10.3.2.14, tables 55 to 59). Nothing throws: where two values
 * cannot be combined, or the result lies out of reach, the answer is a `Shortfall`.
 */
import { addMonths, calendarDay, dayNumber, isCalendarDay } from './calendar'
import { Decimal } from './number'
import { dateTimeOf, dayTimeDuration, NANOS_A_DAY, yearMonthDuration } from './temporal'
import { type DateTimeValue, type DateValue, type DayTimeDuration, isNumber, kindOf, type TimeValue, type Value, type YearMonthDuration } from './value'

export const ARITHMETIC = ['+', '-', '*', '/', '**'] as const
export type ArithmeticOperator = (typeof ARITHMETIC)[number]

/** Why an operation came to nothing. */
export type Shortfall = 'division-by-zero' | 'out-of-range' | 'wrong-kind' | 'no-result'
export type Outcome = { value: Value } | { shortfall: Shortfall }

const WRONG: Outcome = { shortfall: 'wrong-kind' }
const BEYOND: Outcome = { shortfall: 'out-of-range' }

/** Combines two values, neither of them null. */
export function combine(operator: ArithmeticOperator, a: Value, b: Value): Outcome {
  if (isNumber(a) && isNumber(b)) return combineNumbers(operator, a, b)
  if (typeof a === 'string' && typeof b === 'string') return operator === '+' ? { value: a + b } : WRONG
  switch (operator) {
    case '+':
      return add(a, b)
    case '-':
      return subtract(a, b)
    case '*':
      return isNumber(a) ? scale(b, (size) => size.times(a)) : isNumber(b) ? scale(a, (size) => size.times(b)) : WRONG
    case '/':
      return divide(a, b)
    case '**':
      return WRONG
  }
}

export function negate(value: Value): Outcome {
  return isNumber(value) ? { value: value.neg().plus(0) } : scale(value, (size) => size.neg())
}

function combineNumbers(operator: ArithmeticOperator, a: Decimal, b: Decimal): Outcome {
  switch (operator) {
    case '+':
      return numberOutcome(a.plus(b))
    case '-':
      return numberOutcome(a.minus(b))
    case '*':
      return numberOutcome(a.times(b))
    case '/':
      return b.isZero() ? { shortfall: 'division-by-zero' } : numberOutcome(a.div(b))
    case '**':
      return a.isZero() && b.isNeg() ? { shortfall: 'division-by-zero' } : numberOutcome(a.pow(b))
  }
}

/** A number within decimal128's reach, or why there is none: a root of less than zero, a logarithm of zero, an overflow. */
export function numberOutcome(number: Decimal): Outcome {
  if (number.isNaN()) return { shortfall: 'no-result' }
  // FEEL numbers know no negative zero.
  return number.isFinite() ? { value: number.isZero() ? new Decimal(0) : number } : BEYOND
}

function add(a: Value, b: Value): Outcome {
  const [kindA, kindB] = [kindOf(a), kindOf(b)]
  if (kindB === 'date' || kindB === 'time' || kindB === 'date and time') {
    return kindA.endsWith('duration') ? add(b, a) : WRONG
  }
  if (kindA === kindB && kindA.endsWith('duration')) return addDurations(a as DayTimeDuration, b as DayTimeDuration, 1)
  return kindB.endsWith('duration') ? shift(a, b as DayTimeDuration, 1) : WRONG
}

function subtract(a: Value, b: Value): Outcome {
  const [kindA, kindB] = [kindOf(a), kindOf(b)]
  if (kindB.endsWith('duration')) {
    return kindA === kindB ? addDurations(a as DayTimeDuration, b as DayTimeDuration, -1) : shift(a, b as DayTimeDuration, -1)
  }
  if (kindA === 'time' && kindB === 'time') return between({ day: 0, ...(b as TimeValue) }, { day: 0, ...(a as TimeValue) })
  const [from, to] = [asMoment(b, a), asMoment(a, b)]
  return from && to ? between(from, to) : WRONG
}

/** A date beside a date and time counts as its midnight, in UTC where the other has a zone. */
function asMoment(value: Value, other: Value): Pick<DateTimeValue, 'day' | 'nanos' | 'offset'> | null {
  if (kindOf(value) === 'date and time') return value as DateTimeValue
  if (kindOf(value) !== 'date') return null
  const zoned = kindOf(other) === 'date and time' && (other as DateTimeValue).offset !== null
  return { day: (value as DateValue).day, nanos: 0, offset: zoned ? 0 : null }
}

function between(from: Pick<DateTimeValue, 'day' | 'nanos' | 'offset'>, to: typeof from): Outcome {
  if ((from.offset === null) !== (to.offset === null)) return { shortfall: 'wrong-kind' }
  const nanos = new Decimal(to.nanos - from.nanos).div(1e9)
  return { value: dayTimeDuration(new Decimal(to.day - from.day).times(86_400).plus(nanos).minus((to.offset ?? 0) - (from.offset ?? 0))) }
}

function addDurations(a: DayTimeDuration | YearMonthDuration, b: typeof a, sign: 1 | -1): Outcome {
  if (a.kind === 'days and time duration') return { value: dayTimeDuration(a.seconds.plus((b as DayTimeDuration).seconds.times(sign))) }
  return monthsOutcome(new Decimal(a.months + sign * (b as YearMonthDuration).months))
}

function shift(value: Value, by: DayTimeDuration | YearMonthDuration, sign: 1 | -1): Outcome {
  const kind = kindOf(value)
  if (kind !== 'date' && kind !== 'time' && kind !== 'date and time') return WRONG
  const moment = value as DateTimeValue
  if (by.kind === 'years and months duration') {
    if (kind === 'time') return WRONG
    const reached = addMonths(calendarDay(moment.day), sign * by.months)
    return isCalendarDay(reached) ? { value: { ...moment, day: dayNumber(reached) } } : BEYOND
  }
  const nanos = by.seconds.times(1e9).times(sign).plus(kind === 'date' ? 0 : moment.nanos)
  const days = nanos.div(NANOS_A_DAY).floor()
  const rest = nanos.minus(days.times(NANOS_A_DAY)).floor().toNumber()
  if (kind === 'time') return { value: { ...(value as TimeValue), nanos: rest } }
  const day = days.plus(moment.day)
  if (day.abs().gt(3.7e11) || !isCalendarDay(calendarDay(day.toNumber()))) return BEYOND
  return { value: kind === 'date' ? { kind: 'date', day: day.toNumber() } : dateTimeOf({ day: day.toNumber() }, { nanos: rest, offset: moment.offset }) }
}

function divide(a: Value, b: Value): Outcome {
  if (isNumber(b)) return b.isZero() ? { shortfall: 'division-by-zero' } : scale(a, (size) => size.div(b))
  const [sizeA, sizeB] = [sizeOf(a), sizeOf(b)]
  if (!sizeA || !sizeB || kindOf(a) !== kindOf(b)) return WRONG
  return sizeB.isZero() ? { shortfall: 'division-by-zero' } : numberOutcome(sizeA.div(sizeB))
}

function sizeOf(value: Value): Decimal | null {
  const kind = kindOf(value)
  if (kind === 'days and time duration') return (value as DayTimeDuration).seconds
  return kind === 'years and months duration' ? new Decimal((value as YearMonthDuration).months) : null
}

function scale(value: Value, change: (size: Decimal) => Decimal): Outcome {
  const size = sizeOf(value)
  if (!size) return WRONG
  const changed = change(size)
  if (!changed.isFinite()) return BEYOND
  return kindOf(value) === 'days and time duration' ? { value: dayTimeDuration(changed) } : monthsOutcome(changed)
}

/** Whole months; a part of a month is dropped. */
function monthsOutcome(months: Decimal): Outcome {
  return months.abs().gt(1.2e10) ? BEYOND : { value: yearMonthDuration(months.trunc().toNumber()) }
}
