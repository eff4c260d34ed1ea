import { checkExpression } from './check'
import { parseExpression } from './parse'
import { commonType, fits, isOrdered, isSameType, type Type, typeNamed, typeText } from './type'

const numbers: Type = { list: 'number' }

test.each<[Type, Type, boolean]>([
  ['number', 'number', true],
  ['number', 'text', false],
  ['null', 'number', true],
  ['any', 'date', true],
  ['date', 'any', true],
  ['date', 'date and time', false],
  [numbers, numbers, true],
  [numbers, { list: 'any' }, true],
  [numbers, { list: 'text' }, false],
  [numbers, 'number', false],
  [{ range: 'date' }, { range: 'date' }, true],
  [{ range: 'date' }, { list: 'date' }, false],
])('%j stands where %j is asked: %j', (given, wanted, expected) => expect(fits(given, wanted)).toBe(expected))

test.each<[Type, Type, Type]>([
  ['number', 'number', 'number'],
  ['number', 'null', 'number'],
  ['null', 'text', 'text'],
  ['number', 'text', 'any'],
  [numbers, { list: 'null' }, numbers],
  [numbers, { list: 'text' }, { list: 'any' }],
  [{ range: 'number' }, numbers, 'any'],
])('%j and %j are both %j', (a, b, both) => expect(commonType(a, b)).toEqual(both))

test('names of types, for people and in FEEL', () => {
  expect([typeText('date'), typeText(numbers), typeText({ range: numbers })]).toEqual(['date', 'list of number', 'range of list of number'])
  expect([typeNamed('string'), typeNamed('list'), typeNamed('tree')]).toEqual(['text', { list: 'any' }, null])
  expect([isOrdered('date'), isOrdered('boolean'), isOrdered(numbers)]).toEqual([true, false, false])
  expect(isSameType({ range: 'date' }, { range: 'date' })).toBe(true)
})

const TYPES = new Map<string, Type>([
  ['N', 'number'], ['T', 'text'], ['B', 'boolean'], ['D', 'date'], ['C', 'time'], ['M', 'date and time'],
  ['S', 'days and time duration'], ['Y', 'years and months duration'], ['L', numbers], ['X', 'any'],
])
const typeOf = (text: string) => {
  const parsed = parseExpression(text, TYPES.keys())
  if ('problem' in parsed) return parsed.problem.code
  const { type, problems } = checkExpression(parsed.tree, TYPES)
  return problems[0]?.code ?? typeText(type)
}

/** DMN 1.5 tables 55 to 59. */
test.each([
  ['N + N', 'number'], ['T + T', 'text'], ['N + T', 'type-clash'], ['T - T', 'type-clash'],
  ['D - D', 'days and time duration'], ['M - D', 'days and time duration'], ['C - C', 'days and time duration'], ['D - C', 'type-clash'],
  ['D + S', 'date'], ['S + D', 'date'], ['D + Y', 'date'], ['M - Y', 'date and time'], ['C + S', 'time'], ['C + Y', 'type-clash'], ['D + D', 'type-clash'], ['D + N', 'type-clash'],
  ['S + S', 'days and time duration'], ['Y - Y', 'years and months duration'], ['S + Y', 'type-clash'],
  ['S * N', 'days and time duration'], ['N * Y', 'years and months duration'], ['S * S', 'type-clash'],
  ['S / S', 'number'], ['Y / N', 'years and months duration'], ['S / Y', 'type-clash'], ['N ** N', 'number'], ['S ** N', 'type-clash'],
  ['-N', 'number'], ['-S', 'days and time duration'], ['-T', 'type-clash'], ['X + N', 'any'],
])('%s is %s', (text, type) => expect(typeOf(text)).toBe(type))

test.each([
  ['N < N', 'boolean'], ['D < M', 'type-clash'], ['B < B', 'type-clash'], ['B = B', 'boolean'], ['L = L', 'boolean'], ['N = null', 'boolean'], ['N = T', 'type-clash'],
  ['N between 1 and T', 'type-clash'], ['D in [D..D]', 'boolean'], ['N in [D..D]', 'type-clash'], ['N in L', 'boolean'], ['T in L', 'type-clash'], ['N in (X, null)', 'boolean'],
  ['[N, N]', 'list of number'], ['[N, T]', 'list of any'], ['[]', 'list of null'], ['[1..N]', 'range of number'], ['[1..T]', 'type-clash'], ['[B..B]', 'type-clash'],
  ['if B then N else N', 'number'], ['if B then N else T', 'any'], ['if N then 1 else 2', 'not-a-condition'], ['N and B', 'not-a-condition'],
  ['some x in L satisfies x > 1', 'boolean'], ['some x in L satisfies x', 'not-a-condition'], ['some x in N satisfies true', 'type-clash'], ['for x in 1..3 return D', 'list of date'],
  ['L[1]', 'number'], ['L[item > 1]', 'list of number'], ['L["a"]', 'type-clash'], ['T[1]', 'text'],
  ['D.year', 'number'], ['D.hour', 'unknown-property'], ['M.hour', 'number'], ['C.time offset', 'days and time duration'], ['S.days', 'number'], ['Y.days', 'unknown-property'], ['[1..2].start', 'number'], ['L.length', 'unknown-property'],
  ['mean(L)', 'number'], ['mean(1, 2)', 'number'], ['mean(T)', 'argument-type'], ['min(D, D)', 'date'], ['max(L)', 'number'], ['count(N)', 'number'],
  ['concatenate(L, L)', 'list of number'], ['append(L, T)', 'list of any'], ['sort(L, function(a, b) a < b)', 'list of number'], ['reverse(T)', 'list of text'],
  ['abs(S)', 'days and time duration'], ['date(T)', 'date'], ['date(N, N, N)', 'date'], ['date(N)', 'argument-type'], ['date(N, N)', 'argument-count'], ['today() < D', 'boolean'],
])('%s is %s', (text, type) => expect(typeOf(text)).toBe(type))
