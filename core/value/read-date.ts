/** Calendar dates as people write them in files; out comes ISO 8601 text, `YYYY-MM-DD`. */
import { isCalendarDay } from './calendar'
import { type Reading, readable, unreadable } from './reading'

/** Which part comes first where a date is written in figures. ISO 8601 dates are read in any case. */
export type DateOrder = 'year' | 'day' | 'month'

/** An ISO 8601 calendar date, `2026-03-02`. */
export type DateText = string

/** By far the commonest form, told without taking the text apart. */
const BARE_ISO = /^\d{4}-\d{2}-\d{2}$/
const ISO = /^(\d{4})-(\d{2})-(\d{2})(?:[T ]00:00(?::00(?:\.0+)?)?Z?)?$/
const YEAR_FIRST = /^(\d{4})[./-](\d{1,2})[./-](\d{1,2})\.?$/
const YEAR_LAST = /^(\d{1,2})[./-](\d{1,2})[./-](\d{2}|\d{4})$/
const WITH_MONTH_NAME = /^(\d{1,2})[ .-]*([A-Za-z]{3,9})\.?[ ,-]*(\d{4})$/
const MONTH_NAME_FIRST = /^([A-Za-z]{3,9})\.? (\d{1,2}),? (\d{4})$/
const MONTHS = [
  'january', 'february', 'march', 'april', 'may', 'june',
  'july', 'august', 'september', 'october', 'november', 'december',
]

/** @returns the date, or why there is none: `not-a-date`, `no-such-day` (31 April), `short-year` (a year of two digits). */
export function readDate(text: string, order: DateOrder): Reading<DateText> {
  if (text.length === 10 && BARE_ISO.test(text)) {
    const isDay = isDayOfFile(Number(text.slice(0, 4)), Number(text.slice(5, 7)), Number(text.slice(8)))
    return isDay ? readable(text) : unreadable('no-such-day')
  }
  const iso = ISO.exec(text) ?? YEAR_FIRST.exec(text)
  if (iso) return calendarDate(Number(iso[1]), Number(iso[2]), Number(iso[3]))
  const figures = YEAR_LAST.exec(text)
  if (figures && order !== 'year') {
    if (figures[3]!.length === 2) return unreadable('short-year')
    const [first, second, year] = [Number(figures[1]), Number(figures[2]), Number(figures[3])]
    return order === 'day' ? calendarDate(year, second, first) : calendarDate(year, first, second)
  }
  const dayFirst = WITH_MONTH_NAME.exec(text)
  if (dayFirst) return named(Number(dayFirst[3]), dayFirst[2]!, Number(dayFirst[1]))
  const monthFirst = MONTH_NAME_FIRST.exec(text)
  if (monthFirst) return named(Number(monthFirst[3]), monthFirst[1]!, Number(monthFirst[2]))
  return unreadable('not-a-date')
}

function named(year: number, name: string, day: number): Reading<DateText> {
  const month = MONTHS.findIndex((full) => full.startsWith(name.toLowerCase()) || (full === 'september' && name.toLowerCase() === 'sept'))
  return month < 0 ? unreadable('not-a-date') : calendarDate(year, month + 1, day)
}

function calendarDate(year: number, month: number, day: number): Reading<DateText> {
  if (!isDayOfFile(year, month, day)) return unreadable('no-such-day')
  return readable(`${pad(year, 4)}-${pad(month, 2)}-${pad(day, 2)}`)
}

/** Year 0 and the years before it are never meant in a file. */
function isDayOfFile(year: number, month: number, day: number): boolean {
  return year >= 1 && isCalendarDay({ year, month, day })
}

function pad(value: number, width: number): string {
  return String(value).padStart(width, '0')
}
