import { nameInDisposition } from './file-name'

test.each([
  ['attachment; filename="Decay band, run 4.pdf"', 'Decay band, run 4.pdf'],
  ['attachment; filename="B?ume.pdf"; filename*=UTF-8\'\'B%C3%A4ume.pdf', 'Bäume.pdf'],
  ['attachment; filename="a \\"b\\".pdf"', 'a "b".pdf'],
  ['attachment; filename=plain.csv', 'plain.csv'],
  ["attachment; filename*=UTF-8''%E0%A4%A", 'file'],
  ['attachment', 'file'],
  [null, 'file'],
])('%s names %s', (header, name) => {
  expect(nameInDisposition(header)).toBe(name)
})
