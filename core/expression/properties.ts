/** Parts of values by their names (DMN 1.5 table 66). */
import { calendarDay, dayOfWeek } from '../value/calendar'
import { Decimal } from '../value/number'
import { dayTimeDuration } from '../value/temporal'
import { type DateTimeValue, type DateValue, type DayTimeDuration, kindOf, type RangeValue, type Value, type YearMonthDuration } from '../value/value'

/** @returns undefined where the value has no such part */
export function propertyOf(of: Value, name: string): Value | undefined {
  const kind = kindOf(of)
  const number = (value: number) => new Decimal(value)
  if (kind === 'date' || kind === 'date and time') {
    const { day } = of as DateValue
    const parts = { ...calendarDay(day), weekday: dayOfWeek(day) }
    if (name in parts) return number(parts[name as keyof typeof parts])
  }
  if (kind === 'time' || kind === 'date and time') {
    const { nanos, offset } = of as DateTimeValue
    const seconds = Math.floor(nanos / 1e9)
    switch (name) {
      case 'hour': return number(Math.floor(seconds / 3600))
      case 'minute': return number(Math.floor(seconds / 60) % 60)
      case 'second': return number(seconds % 60)
      case 'time offset': return offset === null ? null : dayTimeDuration(number(offset))
    }
  }
  if (kind === 'days and time duration') {
    const { seconds } = of as DayTimeDuration
    switch (name) {
      case 'days': return seconds.divToInt(86_400)
      case 'hours': return seconds.divToInt(3600).mod(24)
      case 'minutes': return seconds.divToInt(60).mod(60)
      case 'seconds': return seconds.mod(60)
    }
  }
  if (kind === 'years and months duration') {
    const { months } = of as YearMonthDuration
    if (name === 'years') return number(Math.trunc(months / 12))
    if (name === 'months') return number(months % 12)
  }
  if (kind === 'range') {
    const range = of as RangeValue
    const parts: Record<string, Value> = { start: range.low, end: range.high, 'start included': range.lowIncluded, 'end included': range.highIncluded }
    return parts[name]
  }
  return undefined
}
