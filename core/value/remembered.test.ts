import { Remembered } from './remembered'

test('what is asked for again is not made again; what was asked for longest ago goes first', () => {
  const made: string[] = []
  const remembered = new Remembered<string | null>(2)
  const ask = (key: string) =>
    remembered.of(key, () => {
      made.push(key)
      return key === 'none' ? null : `${key}!`
    })
  expect(['a', 'none', 'a', 'c', 'a', 'none'].map(ask)).toEqual(['a!', null, 'a!', 'c!', 'a!', null])
  expect(made).toEqual(['a', 'none', 'c', 'none'])
})
