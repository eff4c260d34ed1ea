import { gridOf, type MeasuredColumn, widthOf } from './column-widths'

const column = (head: string, cells: string[], change: Partial<MeasuredColumn> = {}): MeasuredColumn => ({ head, cells, isFigure: false, least: 0, ...change })
const pixels = (...columns: MeasuredColumn[]) => columns.map((one) => widthOf(one).pixels)

test('a column is as wide as its cells or its head need', () => {
  expect(pixels(column('Species', ['oak', 'silver birch']), column('Species', []), column('Id', ['7'])))
    .toEqual([97, 56, 56])
})

test('numbers that are texts are as wide as figures', () => {
  expect(pixels(column('Tree no', ['0000001', '0000002']), column('Tree no', ['tree 0001']))).toEqual([69, 74])
})

test('very long texts and numbers get no more than a column can have, and one among many does not count', () => {
  const long = 'x'.repeat(5000)
  expect(pixels(column('Note', [long]), column('Sum', ['1'.repeat(60)], { isFigure: true }), column('Note', [...Array<string>(20).fill('short'), long]))).toEqual([300, 260, 56])
  expect(pixels(column('A head that goes on and on and on', []))).toEqual([150])
})

test('what a head needs is kept free, and the list scrolls under the sum of all', () => {
  expect(pixels(column('A', [], { least: 126 }))).toEqual([126])
  const grid = gridOf([{ pixels: 100, isFigure: false }, { pixels: 60, isFigure: true }])
  expect(grid).toEqual({ template: 'minmax(100px, 100fr) minmax(60px, 30fr)', least: 100 + 60 + 16 + 40 })
})
