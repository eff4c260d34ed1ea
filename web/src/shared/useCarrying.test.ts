import { placeAt } from './useCarrying'

// Three rows of 40 pixels, the middle one in the hand.
test.each([
  [5, 0],
  [19, 0],
  [21, 1],
  [99, 1],
  [101, 2],
  [400, 2],
])('at a height of %d it is number %d', (y, place) => expect(placeAt(y, [20, 60, 100], 1)).toBe(place))

test('alone it stays where it is', () => expect(placeAt(400, [20], 0)).toBe(0))
