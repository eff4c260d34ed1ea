import { isSame } from './is-same'

test.each<[unknown, unknown, boolean]>([
  [{ a: 1, b: [1, { c: null }] }, { b: [1, { c: null }], a: 1 }, true],
  [{ a: 1 }, { a: 1, b: undefined }, false],
  [[1, 2], [2, 1], false],
  [null, {}, false],
  ['12', 12, false],
  [[], [], true],
])('%j and %j: %s', (a, b, same) => expect([isSame(a, b), isSame(b, a)]).toEqual([same, same]))
