import { readHeader, suggestDateOrder, suggestDecimalMark, suggestReading } from './suggest-column'

const suggest = (texts: string[], unit = '') => suggestReading(texts, unit, 'point', 'day').type

describe('the type a column looks like', () => {
  test('a few unreadable cells do not change it', () => {
    expect(suggest(['12', '14.5', 'n/a', '9', '', '3', '35 cm', '8', '7', '6', '5', '4'])).toBe('number')
  })
  test('figures with a leading zero are codes', () => expect(suggest(['0871', '0412', '1103'])).toBe('text'))
  test('percent signs, or the unit, make a percentage', () => {
    expect(suggest(['12 %', '80%'])).toBe('percent')
    expect(suggest(['12', '80'], '%')).toBe('percent')
  })
  test('dates, booleans, words and emptiness', () => {
    expect(suggest(['2.3.2026', '4.5.2025'])).toBe('date')
    expect(suggest(['yes', 'no', ''])).toBe('boolean')
    expect(suggest(['ash', 'lime', '12'])).toBe('text')
    expect(suggest(['', ' '])).toBe('text')
  })
})

test('a header gives its unit apart from its name', () => {
  expect(readHeader('Trunk (cm)')).toEqual({ name: 'Trunk', unit: 'cm', fullMarks: null })
  expect(readHeader('  Next   due ')).toEqual({ name: 'Next due', unit: '', fullMarks: null })
  expect(readHeader('Seen (by whoever was there)')).toEqual({ name: 'Seen (by whoever was there)', unit: '', fullMarks: null })
  expect(readHeader('Module 1 (out of 5)')).toEqual({ name: 'Module 1', unit: '', fullMarks: '5' })
  expect(readHeader('Drill (/ 12.5)')).toEqual({ name: 'Drill', unit: '', fullMarks: '12.5' })
})

test('the decimal mark is the one under which the texts are numbers', () => {
  expect(suggestDecimalMark(['1,5', '2,25', 'x'])).toBe('comma')
  expect(suggestDecimalMark(['1.5', '1,240'])).toBe('point')
  expect(suggestDecimalMark(['1.240,5', '3'])).toBe('comma')
})

test('the date order is the one that some date forces', () => {
  expect(suggestDateOrder(['3/4/2026', '13/4/2026'])).toBe('day')
  expect(suggestDateOrder(['3/4/2026', '4/13/2026'])).toBe('month')
  expect(suggestDateOrder(['2026-04-13'])).toBe('year')
})
