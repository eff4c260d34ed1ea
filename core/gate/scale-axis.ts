/** Scales on days and on lengths of time, as scales on numbers: days since 1970-01-01, days, and months. Whoever moves cuts along a line knows numbers alone. */
import { calendarDay, dayNumber } from '../value/calendar'
import { Decimal, type DecimalText, plain } from '../value/number'
import { dayTimeDuration, temporalText, yearMonthDuration } from '../value/temporal'
import type { DateValue, DayTimeDuration, ValueKind, YearMonthDuration } from '../value/value'
import { valueFromText } from '../value/value-text'
import type { Scale } from './document'

export const LINE_KINDS = ['number', 'date', 'days and time duration', 'years and months duration'] as const
/** Kinds of values that lie along a line. */
export type LineKind = (typeof LINE_KINDS)[number]

export function isLineKind(kind: ValueKind): kind is LineKind {
  return LINE_KINDS.some((one) => one === kind)
}

const SECONDS_A_DAY = 86_400

/** @param text in canonical text of `kind` */
export function numberOnLine(text: string, kind: LineKind): DecimalText {
  if (kind === 'number') return text
  const value = valueFromText(text, kind)
  switch (kind) {
    case 'date':
      return String((value as DateValue).day)
    case 'days and time duration':
      return plain((value as DayTimeDuration).seconds.div(SECONDS_A_DAY))
    case 'years and months duration':
      return String((value as YearMonthDuration).months)
  }
}

/** Days and months are whole; other lengths of time are told to the second. */
export function textOnLine(at: DecimalText, kind: LineKind): string {
  switch (kind) {
    case 'number':
      return at
    case 'date':
      return temporalText({ kind: 'date', day: new Decimal(at).round().toNumber() })
    case 'days and time duration':
      return temporalText(dayTimeDuration(new Decimal(at).times(SECONDS_A_DAY).round()))
    case 'years and months duration':
      return temporalText(yearMonthDuration(new Decimal(at).round().toNumber()))
  }
}

/** The scale with its cuts and ends as numbers. */
export function onNumbers<One extends Scale>(scale: One, kind: LineKind): One {
  return kind === 'number' ? scale : mapped(scale, (at) => numberOnLine(at, kind))
}

/** Back again; what was not moved stands as it stood. */
export function offNumbers<One extends Scale>(scale: One, kind: LineKind, before: Scale): One {
  if (kind === 'number') return scale
  const kept = new Map([...before.cuts.map(({ at }) => at), ...[before.floor, before.ceiling].flatMap((end) => (end ? [end.at] : []))].map((at) => [numberOnLine(at, kind), at]))
  return mapped(scale, (at) => kept.get(at) ?? textOnLine(at, kind))
}

function mapped<One extends Scale>(scale: One, change: (at: string) => string): One {
  const end = (bound: Scale['floor']) => bound && { ...bound, at: change(bound.at) }
  return { ...scale, cuts: scale.cuts.map((cut) => ({ ...cut, at: change(cut.at) })), floor: end(scale.floor), ceiling: end(scale.ceiling) }
}

/** The whole year that is nearest; or the whole month. @param step in months, what can be told apart */
export function roundMonths(months: number, step: number): number {
  return step > 4 ? Math.round(months / 12) * 12 : Math.round(months)
}

/** So many months, or whole years, on, or back. @param step in months, what can be told apart */
export function movedMonths(months: number, steps: number, step: number): number {
  return step > 4 ? (steps > 0 ? Math.floor(months / 12) : Math.ceil(months / 12)) * 12 + 12 * steps : Math.round(months) + steps
}

/** A day so many days, firsts of a month or firsts of a year on, or back. @param step in days, what can be told apart */
export function movedDay(day: number, steps: number, step: number): number {
  if (step <= 7) return Math.round(day) + steps
  const { year, month, day: of } = calendarDay(Math.round(day))
  const isYears = step > 120
  const at = isYears ? year * 12 : year * 12 + month - 1
  const isFirst = of === 1 && (!isYears || month === 1)
  // Back from the middle of a month its own first day is the first step.
  const months = at + (steps + (steps < 0 && !isFirst ? 1 : 0)) * (isYears ? 12 : 1)
  return dayNumber({ year: Math.floor(months / 12), month: (((months % 12) + 12) % 12) + 1, day: 1 })
}

/** The first day of a year, or of a month, that is nearest; or the day itself. @param step in days, what can be told apart */
export function roundDay(day: number, step: number): number {
  const nearest = (...starts: number[]) => starts.reduce((best, one) => (Math.abs(one - day) < Math.abs(best - day) ? one : best))
  const { year, month } = calendarDay(Math.round(day))
  if (step > 120) return nearest(dayNumber({ year, month: 1, day: 1 }), dayNumber({ year: year + 1, month: 1, day: 1 }))
  if (step > 7) return nearest(dayNumber({ year, month, day: 1 }), month === 12 ? dayNumber({ year: year + 1, month: 1, day: 1 }) : dayNumber({ year, month: month + 1, day: 1 }))
  return Math.round(day)
}
