import { readSide, sideChoices, sideText } from './side-choice'

test.each(['gate 5 draft', 'gate 5 2', 'column 12'])('“%s” is read as it is written', (text) => expect(sideText(readSide(text)!)).toBe(text))
test.each(['', 'gate', 'gate x draft', 'column', null, ['gate 5 draft']])('%p says none', (text) => expect(readSide(text)).toBeNull())

test('gates of the table come as drafted and as they were set, and then columns of texts', () => {
  const gate = (id: number, name: string, latestVersion: number, tables: number[]) => ({ id, name, latestVersion, tables: tables.map((one) => ({ id: one, name: '' })) })
  const column = (id: number, name: string, type: 'text' | 'number') => ({ id, name, type })
  expect(sideChoices([gate(1, 'Band', 2, [7]), gate(2, 'Other', 1, [8])], 7, [column(3, 'By hand', 'text'), column(4, 'Decay', 'number')]).map(({ title }) => title)).toEqual(['Band, as drafted', 'Band, version 2', 'Band, version 1', 'the column By hand'])
})
