import type { FileHandle } from 'node:fs/promises'
import { tableFromIPC } from 'apache-arrow'
import { unnamedFile } from '../file/unnamed-file'
import { bringIn } from '../testing/bring-in'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'
import { ThreadPool } from '../threads/thread-pool'
import { ColumnsTogether } from './columns-together'
import type { AnswerTask, Grown } from './make-answer'

let server: TemporaryServer
let table: Awaited<ReturnType<typeof bringIn>>
let threads: ThreadPool<AnswerTask, Grown, void>
let files: FileHandle[]
beforeAll(async () => {
  server = await temporaryServer()
  table = await bringIn(server, 'Trees', 'Tree,Decay\nT1,5\nT2,\n')
})
beforeEach(async () => {
  threads = new ThreadPool(server.url, 1)
  files = [await unnamedFile(), await unnamedFile()]
})
afterEach(async () => {
  await threads.close()
  for (const file of files) await file.close()
})
afterAll(() => server.close())

const asking = (together: ColumnsTogether) => (at: number) =>
  together.make({ fd: files[at]!.fd, grown: () => undefined, left: new AbortController().signal }, { table, column: table.columns[at]!, asOf: '2026-03-02' })
const recordsIn = async (file: FileHandle) => tableFromIPC((await file.readFile()) as Uint8Array).numRows
const pause = () => new Promise((resolve) => setTimeout(resolve, 60))

test('a column waits for another of its table that is still looked up; both are read at once', async () => {
  const reads = jest.spyOn(threads, 'do')
  const together = new ColumnsTogether(threads)
  const ask = asking(together)
  const isHere = together.expect(table.id)
  const first = ask(0)
  await pause()
  expect(reads).not.toHaveBeenCalled()
  const second = ask(1)
  isHere()
  await Promise.all([first, second])
  expect(reads).toHaveBeenCalledTimes(1)
  expect(await Promise.all(files.map(recordsIn))).toEqual([2, 2])
})

test('one who is expected and never asks keeps nobody, however often they say so; nor does one who wants another table', async () => {
  const together = new ColumnsTogether(threads)
  const [gone, late] = [together.expect(table.id), together.expect(table.id)]
  together.expect(table.id + 1)
  gone()
  gone()
  const reads = jest.spyOn(threads, 'do')
  const made = asking(together)(0)
  await pause()
  expect(reads).not.toHaveBeenCalled()
  late()
  await made
  expect(await recordsIn(files[0]!)).toBe(2)
})
