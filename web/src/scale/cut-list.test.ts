import { readCutList } from './cut-list'

test.each([
  ['12, 25, 40', ['12', '25', '40']],
  ['40 25;12', ['12', '25', '40']],
  ['-5, 2.50, 2.5', ['-5', '2.5']],
  ['', []],
])('“%s”', (text, cuts) => expect((readCutList(text) as { cuts: string[] }).cuts.map(Number)).toEqual(cuts.map(Number)))

test('what is no number is told', () => expect(readCutList('12, high')).toEqual({ wrong: '“high” is no number.' }))
