import { unnamedFile } from '../file/unnamed-file'
import { pieceWriter } from '../file/write-pieces'
import { GrowingFile } from './growing-file'

async function growing() {
  const file = await unnamedFile()
  const writer = pieceWriter(file.fd)
  const grown = new GrowingFile(file)
  return {
    grown,
    close: () => file.close(),
    write(text: string) {
      writer.write(Buffer.from(text))
      grown.grown(writer.size())
    },
  }
}

async function textOf(grown: GrowingFile): Promise<string> {
  let text = ''
  for await (const piece of grown.pieces()) text += Buffer.from(piece).toString()
  return text
}

test('what is written while it is read arrives in whole, and in order', async () => {
  const { grown, write, close } = await growing()
  const read = textOf(grown)
  for (let line = 0; line < 200; line++) {
    write(`${line} ${'x'.repeat(line * 40)}\n`)
    if (line % 20 === 0) await new Promise((resolve) => setTimeout(resolve, 1))
  }
  grown.ended(null)
  expect(await read).toBe(Array.from({ length: 200 }, (_, line) => `${line} ${'x'.repeat(line * 40)}\n`).join(''))
  await close()
})

test('a reader who comes late gets all of it; whether it is behind can be told', async () => {
  const { grown, write, close } = await growing()
  write('all of it')
  grown.ended(null)
  expect(grown.isAhead).toBe(true)
  await grown.begun()
  expect([await textOf(grown), grown.isAhead, grown.read]).toEqual(['all of it', false, 9])
  await close()
})

test('what fails before anything is written is told at once; what fails later, after what there is', async () => {
  const early = await growing()
  early.grown.ended(new Error('no such table'))
  await expect(early.grown.begun()).rejects.toThrow('no such table')
  const late = await growing()
  late.write('half')
  late.grown.ended(new Error('the database went away'))
  await late.grown.begun()
  const pieces: string[] = []
  await expect(
    (async () => {
      for await (const piece of late.grown.pieces()) pieces.push(Buffer.from(piece).toString())
    })(),
  ).rejects.toThrow('the database went away')
  expect(pieces).toEqual(['half'])
  await early.close()
  await late.close()
})

test('nothing at all is an answer too', async () => {
  const { grown, close } = await growing()
  setTimeout(() => grown.ended(null), 10)
  await grown.begun()
  expect(await textOf(grown)).toBe('')
  await close()
})
