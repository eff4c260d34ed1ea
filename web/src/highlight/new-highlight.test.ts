import { newHighlight } from './new-highlight'

test('looks like none of the others, in colour and in mark, as long as there are any left', () => {
  const all: ReturnType<typeof newHighlight>[] = []
  while (all.length < 10) all.push(newHighlight(all))
  expect([new Set(all.map(({ colour }) => colour)).size, new Set(all.map(({ mark }) => mark)).size]).toEqual([10, 10])
  while (all.length < 30) all.push(newHighlight(all))
  expect(all.every(({ colour }) => /^#[0-9a-f]{6}$/.test(colour))).toBe(true)
})
