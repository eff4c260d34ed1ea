import { nextTowards } from './direction'

// Two rows of three, the second a little set in, and one far below.
const PLACES = [{ x: 0, y: 0 }, { x: 50, y: 0 }, { x: 100, y: 0 }, { x: 10, y: 30 }, { x: 60, y: 30 }, { x: 110, y: 30 }, { x: 40, y: 300 }]

test.each<[number, Parameters<typeof nextTowards>[2], number | null]>([
  [0, 'ArrowRight', 1], [1, 'ArrowRight', 2], [2, 'ArrowLeft', 1], [0, 'ArrowLeft', null],
  [1, 'ArrowDown', 4], [4, 'ArrowUp', 1], [4, 'ArrowDown', 6], [6, 'ArrowUp', 4], [6, 'ArrowDown', null],
])('from %i, %s leads to %s', (from, key, expected) => expect(nextTowards(PLACES, from, key)).toBe(expected))
