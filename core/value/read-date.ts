/** Calendar dates as people write them in files; out comes ISO 8601 text, `YYYY-MM-DD`, whatever time of day stands behind it. */
import { isCalendarDay } from './calendar'
import { type Reading, readable, unreadable } from './reading'

/** Which part comes first where a date is written in figures. ISO 8601 dates are read in any case. */
export type DateOrder = 'year' | 'day' | 'month'

/** An ISO 8601 calendar date, `2026-03-02`. */
export type DateText = string

/** By far the commonest form, told without taking the text apart. */
const BARE_ISO = /^\d{4}-\d{2}-\d{2}$/
const ISO = /^(\d{4})-(\d{2})-(\d{2})$/
const YEAR_FIRST = /^(\d{4})[./-](\d{1,2})[./-](\d{1,2})\.?$/
/** Day and month, in either order, and the year. */
export const DATE_IN_FIGURES = /^\s*(\d{1,2})[./-](\d{1,2})[./-]\d{4}\s*$/
const YEAR_LAST = /^(\d{1,2})[./-](\d{1,2})[./-](\d{2}|\d{4})$/
const WITH_MONTH_NAME = /^(\d{1,2})[ .-]*([A-Za-z]{3,9})\.?[ ,-]*(\d{4})$/
const MONTH_NAME_FIRST = /^([A-Za-z]{3,9})\.? (\d{1,2}),? (\d{4})$/
/** A time of day, with its shift from UTC where it has one, behind a date (ISO 8601-1, 5.3 and 5.4, and as people write it). */
const TIME_OF_DAY = /(?:T|,? )(?:([01]?\d|2[0-3]):[0-5]\d(?::[0-5]\d(?:[.,]\d{1,9})?)?(?: ?[AaPp]\.?[Mm]\.?)?|24:00(?::00)?)(?: ?(?:Z|UTC|[+-]\d{2}:?\d{2}))?$/
/** No date is longer, with its time of day. */
const LONGEST = 60
const MONTHS = [
  'january', 'february', 'march', 'april', 'may', 'june',
  'july', 'august', 'september', 'october', 'november', 'december',
]

/** The text in front of a time of day; null where there is none. The day is what counts: none is shifted into another zone. */
export function beforeTimeOfDay(text: string): string | null {
  const time = text.length > 10 && text.length <= LONGEST && text.includes(':') ? TIME_OF_DAY.exec(text) : null
  return time && time.index > 0 ? text.slice(0, time.index) : null
}

/**
 * The day; a time of day behind it has to be one, and does not count.
 * @returns the date, or why there is none: `not-a-date`, `no-such-day` (31 April), `short-year` (a year of two digits).
 */
export function readDate(text: string, order: DateOrder): Reading<DateText> {
  if (text.length === 10 && BARE_ISO.test(text)) {
    const isDay = isDayOfFile(Number(text.slice(0, 4)), Number(text.slice(5, 7)), Number(text.slice(8)))
    return isDay ? readable(text) : unreadable('no-such-day')
  }
  if (text.length > LONGEST) return unreadable('not-a-date')
  const day = beforeTimeOfDay(text)
  return day === null ? readDay(text, order) : readDay(day, order)
}

function readDay(text: string, order: DateOrder): Reading<DateText> {
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
