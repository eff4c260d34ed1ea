import fc from 'fast-check'
import { addMonths, calendarDay, dayNumber, dayOfWeek, dayOfYear, daysInMonth, isCalendarDay, weekOfYear } from './calendar'

const day = fc.integer({ min: -300_000_000, max: 300_000_000 })

test('days are told by numbers one after the other, over leap years and eras', () => {
  expect(dayNumber({ year: 1970, month: 1, day: 1 })).toBe(0)
  fc.assert(fc.property(day, (number) => {
    const date = calendarDay(number)
    expect(isCalendarDay(date)).toBe(true)
    expect(dayNumber(date)).toBe(number)
    const isLast = date.day === daysInMonth(date.year, date.month)
    expect(calendarDay(number + 1)).toEqual(isLast ? { ...addMonths({ ...date, day: 1 }, 1) } : { ...date, day: date.day + 1 })
  }))
})

test('agrees with the platform where the platform has dates', () => {
  fc.assert(fc.property(fc.integer({ min: -800_000, max: 2_900_000 }), (number) => {
    const date = new Date(number * 86_400_000)
    expect(calendarDay(number)).toEqual({ year: date.getUTCFullYear(), month: date.getUTCMonth() + 1, day: date.getUTCDate() })
    expect(dayOfWeek(number)).toBe(date.getUTCDay() || 7)
  }))
})

test.each([['2021-01-03', 53, 3], ['2020-12-31', 53, 366], ['2026-01-01', 1, 1], ['2024-12-30', 1, 365]])('%s lies in week %i, and is day %i of its year', (text, week, ofYear) => {
  const [year, month, date] = text.split('-').map(Number)
  const number = dayNumber({ year: year!, month: month!, day: date! })
  expect([weekOfYear(number), dayOfYear(number)]).toEqual([week, ofYear])
})

test('a month later never leaves the next month', () => {
  fc.assert(fc.property(day, fc.integer({ min: -5000, max: 5000 }), (number, months) => {
    const [from, to] = [calendarDay(number), addMonths(calendarDay(number), months)]
    expect((to.year - from.year) * 12 + to.month - from.month).toBe(months)
    expect(to.day).toBe(Math.min(from.day, daysInMonth(to.year, to.month)))
  }))
})
