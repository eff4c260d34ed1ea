/**
 * The proleptic Gregorian calendar (ISO 8601-1 clause 4.2.1): days told by their number, 0 for 1970-01-01.
 * Numbers, unlike dates of the platform, know no clock and no zone.
 */
export interface CalendarDay {
  year: number
  /** 1 to 12. */
  month: number
  /** 1 to 31. */
  day: number
}

/** FEEL's reach (DMN 1.5 clause 10.3.2.3.4). */
export const LARGEST_YEAR = 999_999_999

function isLeap(year: number): boolean {
  return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0)
}

export function daysInMonth(year: number, month: number): number {
  if (month === 2) return isLeap(year) ? 29 : 28
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31
}

export function isCalendarDay({ year, month, day }: CalendarDay): boolean {
  return Math.abs(year) <= LARGEST_YEAR && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month)
}

const DAYS_IN_ERA = 146_097

/** The number of a day. Years are counted from March, so that the leap day comes last; 400 of them make an era. */
export function dayNumber({ year, month, day }: CalendarDay): number {
  const fromMarch = month <= 2 ? year - 1 : year
  const era = Math.floor(fromMarch / 400)
  const yearOfEra = fromMarch - era * 400
  const dayOfYear = Math.floor((153 * ((month + 9) % 12) + 2) / 5) + day - 1
  return era * DAYS_IN_ERA + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear - 719_468
}

export function calendarDay(number: number): CalendarDay {
  const shifted = number + 719_468
  const era = Math.floor(shifted / DAYS_IN_ERA)
  const dayOfEra = shifted - era * DAYS_IN_ERA
  const yearOfEra = Math.floor((dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365)
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100))
  const fromMarch = Math.floor((5 * dayOfYear + 2) / 153)
  const month = fromMarch < 10 ? fromMarch + 3 : fromMarch - 9
  return { year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0), month, day: dayOfYear - Math.floor((153 * fromMarch + 2) / 5) + 1 }
}

/** Adds months; a day that the month reached does not have becomes its last (31 January + 1 month is 28 or 29 February). */
export function addMonths({ year, month, day }: CalendarDay, months: number): CalendarDay {
  const total = year * 12 + (month - 1) + months
  const [reachedYear, reachedMonth] = [Math.floor(total / 12), (((total % 12) + 12) % 12) + 1]
  return { year: reachedYear, month: reachedMonth, day: Math.min(day, daysInMonth(reachedYear, reachedMonth)) }
}

/** 1 for Monday to 7 for Sunday (ISO 8601-1 clause 4.2.2). */
export function dayOfWeek(number: number): number {
  return ((((number + 3) % 7) + 7) % 7) + 1
}

/** 1 for 1 January. */
export function dayOfYear(number: number): number {
  return number - dayNumber({ year: calendarDay(number).year, month: 1, day: 1 }) + 1
}

/** The ISO 8601 week, 1 to 53: the week belongs to the year that its Thursday lies in. */
export function weekOfYear(number: number): number {
  return Math.ceil(dayOfYear(number - dayOfWeek(number) + 4) / 7)
}

/** Whole months from one day, or moment of a day, to another: the month under way does not count (DMN 1.5 table 78). */
export function completedMonths(from: CalendarDay, to: CalendarDay): number {
  const months = (to.year - from.year) * 12 + to.month - from.month
  const rest = to.day - from.day
  return months > 0 && rest < 0 ? months - 1 : months < 0 && rest > 0 ? months + 1 : months
}
