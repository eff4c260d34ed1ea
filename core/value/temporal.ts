/** Dates, times and durations from their ISO 8601 text and back, within the bounds of DMN 1.5 clauses 10.3.2.3.4 to 10.3.2.3.8. */
import { calendarDay, dayNumber, isCalendarDay } from './calendar'
import { Decimal } from './number'
import type { DateTimeValue, DateValue, DayTimeDuration, Duration, Temporal, TimeValue, YearMonthDuration } from './value'

const DATE = /^(-?(?:\d{4}|[1-9]\d{4,8}))-(\d\d)-(\d\d)$/
const TIME = /^(\d\d):(\d\d):(\d\d)(?:\.(\d{1,9}))?(?:([Zz])|([+-])(\d\d):(\d\d)(?::(\d\d))?)?$/
const YEARS_MONTHS = /^(-?)P(?:(\d{1,12})Y)?(?:(\d{1,12})M)?$/
const DAYS_TIME = /^(-?)P(?:(\d{1,15})D)?(?:T(?:(\d{1,15})H)?(?:(\d{1,15})M)?(?:(\d{1,15}(?:\.\d{1,9})?)S)?)?$/

const NANOS = 1e9
export const NANOS_A_DAY = 86_400 * NANOS
/** XML Schema part 2, clause 3.2.7.3: no zone is further from UTC than this. */
const LARGEST_OFFSET = 14 * 3600

export function parseDate(text: string): DateValue | null {
  const parts = DATE.exec(text)
  if (!parts) return null
  return dateOf(Number(parts[1]), Number(parts[2]), Number(parts[3]))
}

/** @returns null where there is no such day. */
export function dateOf(year: number, month: number, day: number): DateValue | null {
  return isCalendarDay({ year, month, day }) ? { kind: 'date', day: dayNumber({ year, month, day }) } : null
}

export function parseTime(text: string): TimeValue | null {
  const parts = TIME.exec(text)
  if (!parts) return null
  const seconds = Number(parts[3]) + Number(`0.${parts[4] ?? 0}`)
  const east = Number(parts[7]) * 3600 + Number(parts[8]) * 60 + Number(parts[9] ?? 0)
  const offset = parts[5] ? 0 : parts[6] ? (parts[6] === '-' ? -east : east) : null
  return timeOf(Number(parts[1]), Number(parts[2]), seconds, offset)
}

/** @param seconds may have a fraction, kept to the nanosecond */
export function timeOf(hour: number, minute: number, seconds: number, offset: number | null): TimeValue | null {
  const isTime = hour >= 0 && hour <= 23 && minute >= 0 && minute <= 59 && seconds >= 0 && seconds < 60
  if (!isTime || (offset !== null && Math.abs(offset) > LARGEST_OFFSET)) return null
  return { kind: 'time', nanos: (hour * 3600 + minute * 60) * NANOS + Math.round(seconds * NANOS), offset }
}

/** A date alone stands for its midnight, without a zone. */
export function parseDateTime(text: string): DateTimeValue | null {
  const [date, time] = text.split('T', 2)
  const day = parseDate(date!)
  if (!day) return null
  if (time === undefined) return dateTimeOf(day, { nanos: 0, offset: null })
  const parsed = parseTime(text.slice(date!.length + 1))
  return parsed && dateTimeOf(day, parsed)
}

export function dateTimeOf({ day }: { day: number }, { nanos, offset }: Pick<TimeValue, 'nanos' | 'offset'>): DateTimeValue {
  return { kind: 'date and time', day, nanos, offset }
}

export function parseDuration(text: string): Duration | null {
  const months = YEARS_MONTHS.exec(text)
  if (months && (months[2] || months[3])) {
    return yearMonthDuration((months[1] ? -1 : 1) * (Number(months[2] ?? 0) * 12 + Number(months[3] ?? 0)))
  }
  const days = DAYS_TIME.exec(text)
  if (!days || text.endsWith('T') || !/\d/.test(text)) return null
  const seconds = new Decimal(days[2] ?? 0).times(24).plus(days[3] ?? 0).times(60).plus(days[4] ?? 0).times(60).plus(days[5] ?? 0)
  return dayTimeDuration(days[1] ? seconds.neg() : seconds)
}

export function dayTimeDuration(seconds: Decimal): DayTimeDuration {
  return { kind: 'days and time duration', seconds }
}

export function yearMonthDuration(months: number): YearMonthDuration {
  // 0 + turns -0 into 0.
  return { kind: 'years and months duration', months: 0 + months }
}

/** The text between the quotes of `@"…"`: a date, a date and time, a time or a duration (DMN 1.5 grammar rule 62). */
export function parseTemporal(text: string): Temporal | Duration | null {
  if (/^-?P/.test(text)) return parseDuration(text)
  if (text.includes('T')) return parseDateTime(text)
  return parseDate(text) ?? parseTime(text)
}

export function temporalText(value: Temporal | Duration): string {
  switch (value.kind) {
    case 'date':
      return dateText(value.day)
    case 'time':
      return timeText(value)
    case 'date and time':
      return `${dateText(value.day)}T${timeText(value)}`
    case 'days and time duration':
      return dayTimeText(value.seconds)
    case 'years and months duration':
      return yearMonthText(value.months)
  }
}

function dateText(number: number): string {
  const { year, month, day } = calendarDay(number)
  return `${year < 0 ? '-' : ''}${pad(Math.abs(year), 4)}-${pad(month)}-${pad(day)}`
}

function timeText({ nanos, offset }: Pick<TimeValue, 'nanos' | 'offset'>): string {
  const seconds = Math.floor(nanos / NANOS)
  const fraction = nanos % NANOS === 0 ? '' : `.${pad(nanos % NANOS, 9).replace(/0+$/, '')}`
  return `${pad(Math.floor(seconds / 3600))}:${pad(Math.floor(seconds / 60) % 60)}:${pad(seconds % 60)}${fraction}${offsetText(offset)}`
}

function offsetText(offset: number | null): string {
  if (offset === null) return ''
  if (offset === 0) return 'Z'
  const size = Math.abs(offset)
  const seconds = size % 60 === 0 ? '' : `:${pad(size % 60)}`
  return `${offset < 0 ? '-' : '+'}${pad(Math.floor(size / 3600))}:${pad(Math.floor(size / 60) % 60)}${seconds}`
}

function dayTimeText(seconds: Decimal): string {
  if (seconds.isZero()) return 'PT0S'
  const size = seconds.abs()
  const days = size.divToInt(86_400)
  const hours = size.divToInt(3600).mod(24)
  const minutes = size.divToInt(60).mod(60)
  const rest = size.mod(60)
  const part = (count: Decimal, letter: string) => (count.isZero() ? '' : `${count.toFixed()}${letter}`)
  const time = part(hours, 'H') + part(minutes, 'M') + part(rest, 'S')
  return `${seconds.isNeg() ? '-' : ''}P${part(days, 'D')}${time && `T${time}`}`
}

function yearMonthText(months: number): string {
  if (months === 0) return 'P0M'
  const size = Math.abs(months)
  const years = Math.floor(size / 12)
  return `${months < 0 ? '-' : ''}P${years > 0 ? `${years}Y` : ''}${size % 12 > 0 ? `${size % 12}M` : ''}`
}

function pad(value: number, width = 2): string {
  return String(value).padStart(width, '0')
}
