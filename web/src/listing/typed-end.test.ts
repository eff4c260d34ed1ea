import { noEndWords, typedEnd } from './typed-end'

test('an end is a number or a date as people type it, open where nothing is typed', () => {
  expect([
    typedEnd('12.50', 'number'),
    typedEnd(' 5 ', 'percent'),
    typedEnd('\u22123', 'number'),
    typedEnd('', 'number'),
    typedEnd('5 cm', 'number'),
  ]).toEqual(['12.5', '5', '-3', null, undefined])
  expect([
    typedEnd('2 Mar 2026', 'date'),
    typedEnd('2.3.2026', 'date'),
    typedEnd('2026-03-02', 'date'),
    typedEnd(' ', 'date'),
    typedEnd('soon', 'date'),
  ]).toEqual(['2026-03-02', '2026-03-02', '2026-03-02', null, undefined])
})

test('what is none is told with what would be one', () =>
  expect([noEndWords('soon', 'date'), noEndWords('5 cm', 'number')]).toEqual(['“soon” is no date, as 2 Mar 2026.', '“5 cm” is no number.']))
