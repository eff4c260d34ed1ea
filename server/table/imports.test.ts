import type { ImportRequest } from '@dime-gate/contract/table'
import { previewTable } from '@dime-gate/interchange/table/preview'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'
import { Imports } from './imports'

let server: TemporaryServer
let imports: Imports
beforeAll(async () => {
  server = await temporaryServer()
  imports = new Imports(server.url)
})
afterAll(async () => {
  await imports.close()
  await server.close()
})

const FILE = new TextEncoder().encode(`Tree,Trunk\n${Array.from({ length: 40_000 }, (_, at) => `T${at},${at % 90}\n`).join('')}`)
const { settings } = previewTable(FILE.subarray(0, 1000), false)
const named = (name: string): ImportRequest => ({ name, fileName: `${name}.csv`, settings })
const records = async (name: string) => (await server.database.query<{ records: number }>('select records from data_table where name = $1', [name])).rows[0]?.records

/** The file in small pieces; `at` is told of each before it is given. */
async function* sent(at: (byte: number) => Promise<void> = async () => undefined): AsyncGenerator<Uint8Array> {
  for (let from = 0; from < FILE.length; from += 5000) {
    await at(from)
    yield FILE.subarray(from, from + 5000)
  }
}

test('more files than there are threads come in one after the other, each in whole', async () => {
  const names = ['a', 'b', 'c', 'd', 'e'].map((name) => `Many ${name}`)
  await Promise.all(names.map((name) => imports.bringIn(sent(), named(name))))
  expect(await Promise.all(names.map(records))).toEqual(names.map(() => 40_000))
}, 30_000)

test('a sender who breaks off leaves nothing, and the thread to the next', async () => {
  const broken = sent(async (byte) => {
    if (byte > FILE.length / 2) throw new Error('the wire was cut')
  })
  await expect(imports.bringIn(broken, named('Broken off'))).rejects.toThrow('the wire was cut')
  expect(await records('Broken off')).toBeUndefined()
  await imports.bringIn(sent(), named('After it'))
  expect(await records('After it')).toBe(40_000)
}, 30_000)

test('what is refused is refused before all of it was sent', async () => {
  await imports.bringIn(sent(), named('Twice'))
  let last = 0
  const slow = sent(async (byte) => {
    last = byte
    await new Promise((resolve) => setTimeout(resolve, 20))
  })
  await expect(imports.bringIn(slow, named('Twice'))).rejects.toMatchObject({ status: 409, problem: { code: 'name-taken' } })
  expect(last).toBeLessThan(FILE.length)
}, 30_000)
