/** Conversions, and functions on dates, times and durations (DMN 1.5 clauses 10.3.4.1 and 10.3.4.7). */
import type { Outcome } from '../../value/arithmetic'
import { type CalendarDay, calendarDay, completedMonths, dayOfWeek, dayOfYear, weekOfYear } from '../../value/calendar'
import { areEqual } from '../../value/compare'
import { Decimal } from '../../value/number'
import { dateOf, dateTimeOf, parseDate, parseDateTime, parseDuration, parseTime, timeOf, yearMonthDuration } from '../../value/temporal'
import { numberFromText, textOfValue } from '../../value/value-text'
import { type DateTimeValue, type DateValue, type DayTimeDuration, kindOf, type TimeValue, type Value } from '../../value/value'
import { define } from './define'

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December']
const NONE: Outcome = { shortfall: 'no-result' }

const from = (parse: (text: string) => Value) => ([text]: readonly Value[]) => parse(text as string) ?? NONE
const ofDay = (run: (day: number) => Value) => ([date]: readonly Value[]) => run((date as DateValue).day)

export const CONVERSION_FUNCTIONS = [
  define('date',
    ['from: text', 'date', from(parseDate)],
    ['from: date', 'date', ([date]) => date!],
    ['from: date and time', 'date', ([moment]) => ({ kind: 'date', day: (moment as DateTimeValue).day })],
    ['year: number, month: number, day: number', 'date', ([year, month, day]) => wholeNumbers([year, month, day], ([y, m, d]) => dateOf(y!, m!, d!))]),
  define('date and time',
    ['from: text', 'date and time', from(parseDateTime)],
    ['date: date, time: time', 'date and time', ([date, time]) => dateTimeOf(date as DateValue, time as TimeValue)],
    ['date: date and time, time: time', 'date and time', ([date, time]) => dateTimeOf(date as DateTimeValue, time as TimeValue)]),
  define('time',
    ['from: text', 'time', from(parseTime)],
    ['from: time', 'time', ([time]) => time!],
    ['from: date and time', 'time', ([moment]) => ({ kind: 'time', nanos: (moment as DateTimeValue).nanos, offset: (moment as DateTimeValue).offset })],
    ['hour: number, minute: number, second: number, offset?: days and time duration or null', 'time', time]),
  define('number', ['from: text, grouping separator?: text or null, decimal separator?: text or null', 'number', number]),
  define('string', ['from: any', 'text', ([value]) => (value === null ? null : textOfValue(value!))]),
  define('duration', ['from: text', 'any', from(parseDuration)]),
]

export const DATE_FUNCTIONS = [
  define('years and months duration',
    ['from: date, to: date', 'years and months duration', completedBetween],
    ['from: date and time, to: date and time', 'years and months duration', completedBetween],
    ['from: date, to: date and time', 'years and months duration', completedBetween],
    ['from: date and time, to: date', 'years and months duration', completedBetween]),
  define('day of year', ['date: date', 'number', ofDay((day) => new Decimal(dayOfYear(day)))], ['date: date and time', 'number', ofDay((day) => new Decimal(dayOfYear(day)))]),
  define('day of week', ['date: date', 'text', ofDay((day) => DAYS[dayOfWeek(day) - 1]!)], ['date: date and time', 'text', ofDay((day) => DAYS[dayOfWeek(day) - 1]!)]),
  define('month of year', ['date: date', 'text', ofDay((day) => MONTHS[calendarDay(day).month - 1]!)], ['date: date and time', 'text', ofDay((day) => MONTHS[calendarDay(day).month - 1]!)]),
  define('week of year', ['date: date', 'number', ofDay((day) => new Decimal(weekOfYear(day)))], ['date: date and time', 'number', ofDay((day) => new Decimal(weekOfYear(day)))]),
  define('today', ['', 'date', (_, { today }) => today]),
  // The day that counts as today begins at midnight, and nothing later of it is known.
  define('now', ['', 'date and time', (_, { today }) => dateTimeOf(today, { nanos: 0, offset: null })]),
  define('is', ['value1: any, value2: any', 'boolean', ([a, b]) => kindOf(a!) === kindOf(b!) && areEqual(a!, b!) === true]),
]

function wholeNumbers(values: readonly (Value | undefined)[], run: (numbers: number[]) => Value): Outcome | Value {
  const numbers = values.map((value) => value as Decimal)
  if (!numbers.every((value) => value.isInteger() && value.abs().lt(1e10))) return NONE
  return run(numbers.map((value) => value.toNumber())) ?? NONE
}

function time([hour, minute, second, offset]: readonly Value[]): Outcome | Value {
  const seconds = (offset as DayTimeDuration | null)?.seconds ?? null
  if (seconds && !seconds.isInteger()) return NONE
  const [h, m] = [hour as Decimal, minute as Decimal]
  if (!h.isInteger() || !m.isInteger()) return NONE
  return timeOf(h.toNumber(), m.toNumber(), (second as Decimal).toNumber(), seconds?.toNumber() ?? null) ?? NONE
}

function number([text, grouping, mark]: readonly Value[]): Outcome | Value {
  const isKnown = (grouping === null || [' ', ',', '.'].includes(grouping as string)) && (mark === null || ['.', ','].includes(mark as string))
  if (!isKnown || (grouping !== null && grouping === mark)) return NONE
  let plain = text as string
  if (grouping !== null) plain = plain.replaceAll(grouping as string, '')
  if (mark !== null) plain = plain.replace(mark as string, '.')
  return numberFromText(plain) ?? NONE
}

/** Completed months from one date to another, less than none backwards: 7 years 11 months 20 days are 95. */
function completedBetween([start, end]: readonly Value[]): Value {
  const [a, b] = [start as DateTimeValue, end as DateTimeValue]
  return yearMonthDuration(completedMonths(within(calendarDay(a.day), a), within(calendarDay(b.day), b)))
}

/** A moment as a part of its day, too. */
function within(day: CalendarDay, { nanos }: Partial<DateTimeValue>): CalendarDay {
  return { ...day, day: day.day + (nanos ?? 0) / 86_400e9 }
}
