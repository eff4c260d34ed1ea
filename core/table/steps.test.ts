import fc from 'fast-check'
import { Decimal, plain } from '../value/number'
import { inOrder } from './in-order'
import { numberColumn } from './number-column'
import { sortedPlaces } from './sorted-places'
import { stepsOf } from './steps'

const few = fc.tuple(fc.integer({ min: -400, max: 400 }), fc.integer({ min: 0, max: 3 })).map(([units, places]) => plain(new Decimal(10).pow(-places).times(units)))

test('values of few decimal places are counted from the least of them, blanks among them', () => {
  const { above, count } = stepsOf(numberColumn(['-0.5', null, '2', '0.25']))!
  expect([above[0], above[2], above[3], count]).toEqual([0, 250, 75, 251])
})

test.each([
  ['finer than a thousandth', ['0.0001', '1']],
  ['too far apart', ['0', '1048576']],
  ['no double stands for them', ['0.30000000000000000001', '0.3']],
  ['beyond what a double counts in ones', ['9007199254740993', '1']],
])('no steps where they are %s', (_, values) => expect(stepsOf(numberColumn(values))).toBeNull())

test('a finer value behind many coarse ones is seen', () => expect(stepsOf(numberColumn([...Array.from({ length: 2000 }, () => '1'), '0.00001']))).toBeNull())

test('records lie in the order of their values either way', () => {
  fc.assert(
    fc.property(fc.array(fc.oneof(few, fc.constant(null)), { maxLength: 60 }), (values) => {
      const column = numberColumn(values)
      expect(stepsOf(column)).not.toBeNull()
      const expected = (sign: 1 | -1) =>
        values
          .flatMap((value, at) => (value === null ? [] : [{ value: Number(value), at }]))
          .sort((a, b) => sign * (a.value - b.value) || a.at - b.at)
          .map(({ at }) => at)
      const blanks = values.flatMap((value, at) => (value === null ? [at] : []))
      const all = Uint32Array.from(values, (_, at) => at)
      expect([...sortedPlaces(column)]).toEqual(expected(1))
      expect([...inOrder(all, 'rising', column)]).toEqual([...expected(1), ...blanks])
      expect([...inOrder(all, 'falling', column)]).toEqual([...expected(-1), ...blanks])
    }),
  )
})
