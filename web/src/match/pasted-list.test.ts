import { readPastedList, seemsToHaveHead } from './pasted-list'

test.each<[string, string, [string, string][]]>([
  ['tabs', 'Rowan\tPinnate\nWalnut\tPinnate\textra\n\n', [['Rowan', 'Pinnate'], ['Walnut', 'Pinnate']]],
  ['semicolons and quotes', '"Norway; maple";Palmate\r\n"Rowan";"Pinn""ate"', [['Rowan', 'Pinn"ate']]],
  ['commas', 'Rowan, Pinnate\nNorway  maple, Palmate', [['Rowan', 'Pinnate'], ['Norway maple', 'Palmate']]],
  ['signs', 'Rowan = Pinnate\nYew = Needle', [['Rowan', 'Pinnate'], ['Yew', 'Needle']]],
])('two columns parted by %s', (_, text, expected) => expect(readPastedList(text, false).pairs).toEqual(expect.arrayContaining(expected)))

test('a line without two columns is told with its number, and loses nothing else', () => {
  expect(readPastedList('Species\tGroup\nRowan\tPinnate\n\nWalnut\nYew\t\n', true)).toEqual({ pairs: [['Rowan', 'Pinnate']], odd: [{ line: 4, text: 'Walnut' }, { line: 5, text: 'Yew\t' }] })
})

test('a head is one where the table has no such value, but has others of the list', () => {
  const isValue = (value: string) => ['Rowan', 'Yew'].includes(value)
  expect(seemsToHaveHead('Species\tGroup\nRowan\tPinnate', isValue)).toBe(true)
  expect(seemsToHaveHead('Rowan\tPinnate\nOak\tOther', isValue)).toBe(false)
  expect(seemsToHaveHead('Oak\tOther\nElm\tOther', isValue)).toBe(false)
})
