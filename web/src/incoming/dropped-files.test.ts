import { droppedFiles, pastedFile } from './dropped-files'

const file = (name: string) => new File(['a'], name)
const dropped = (names: string[], folders: string[] = []) => ({
  files: names.map(file) as unknown as FileList,
  items: names.map((name) => ({
    webkitGetAsEntry: () => ({ name, isDirectory: folders.includes(name) }),
  })) as unknown as DataTransferItemList,
})

test('all files that are dropped come in; folders are named', () => {
  const { files, refused } = droppedFiles(dropped(['a.csv', 'marks', 'b.xlsx'], ['marks']))
  expect([files.map(({ name }) => name), refused]).toEqual([['a.csv', 'b.xlsx'], ['marks']])
  expect(droppedFiles(dropped([])).files).toEqual([])
})

test('where a browser cannot tell folders, files come in all the same', () => {
  const { files } = droppedFiles({ files: [file('a.csv')] as unknown as FileList, items: [{}] as unknown as DataTransferItemList })
  expect(files).toHaveLength(1)
})

test('cells that are pasted are a file where there is more than one line of them', async () => {
  const pasted = pastedFile('Tree\tTrunk\r\nT1\t35\r\n')
  expect([pasted!.name, await pasted!.text()]).toEqual(['Pasted cells.tsv', 'Tree\tTrunk\r\nT1\t35\r\n'])
  expect([pastedFile('one line'), pastedFile('one line\n\n'), pastedFile('')]).toEqual([null, null, null])
})
