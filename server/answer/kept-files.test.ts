import { fstatSync } from 'node:fs'
import { unnamedFile } from '../file/unnamed-file'
import { KeptFiles } from './kept-files'

async function file(text: string) {
  const handle = await unnamedFile()
  await handle.write(text)
  return handle
}
const settle = () => new Promise((resolve) => setTimeout(resolve, 20))
const isOpen = (fd: number) => {
  try {
    return fstatSync(fd).isFile()
  } catch {
    return false
  }
}

test('what was read last stays longest', async () => {
  const kept = new KeptFiles(40)
  for (const key of ['a', 'b', 'c', 'd']) kept.keep(key, await file(key.repeat(10)), 10)
  kept.take('a')!.release()
  kept.keep('e', await file('eeeeeeeeee'), 10)
  const found = ['a', 'b', 'c', 'd', 'e'].map((key) => kept.take(key))
  expect(found.map((one) => one?.size ?? null)).toEqual([10, null, 10, 10, 10])
  found.forEach((one) => one?.release())
  kept.clear()
  await settle()
})

test('a file that has to go is read to its end first', async () => {
  const kept = new KeptFiles(40)
  const handle = await file('aaaaaaaaaa')
  kept.keep('a', handle, 10)
  const [one, other] = [kept.take('a')!, kept.take('a')!]
  const { fd } = handle
  kept.clear()
  one.release()
  one.release()
  await settle()
  expect(kept.take('a')).toBeNull()
  expect((await other.file.read(Buffer.alloc(10), 0, 10, 0)).bytesRead).toBe(10)
  other.release()
  await settle()
  expect(isOpen(fd)).toBe(false)
})

test('what is too large, or here already, is not kept', async () => {
  const kept = new KeptFiles(40)
  const [large, first, second] = [await file('l'), await file('f'), await file('s')]
  const fds = [large.fd, first.fd, second.fd]
  kept.keep('large', large, 11)
  kept.keep('a', first, 1)
  kept.keep('a', second, 1)
  await settle()
  expect(kept.take('large')).toBeNull()
  expect(fds.map(isOpen)).toEqual([false, true, false])
  kept.clear()
  await settle()
})
