import { createHash } from 'node:crypto'
import { once } from 'node:events'
import { type IncomingMessage, request } from 'node:http'
import { bringIn } from '../testing/bring-in'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

const RECORDS = 120_000

let server: TemporaryServer
let address: URL
let table: Awaited<ReturnType<typeof bringIn>>
beforeAll(async () => {
  server = await temporaryServer()
  address = new URL((await server.fetch('/health')).url)
  table = await bringIn(
    server,
    'Long',
    `Tree,Words\n${Array.from({ length: RECORDS }, (_, at) => `${at},${'x'.repeat(60)}${at}\n`).join('')}`,
  )
})
afterAll(() => server.close())

const path = () => `/api/v1/tables/${table.id}/columns/${table.columns[1]!.id}`

async function ask(): Promise<IncomingMessage> {
  const asked = request({ port: address.port, host: '127.0.0.1', agent: false, path: path() }).end()
  return (await once(asked, 'response'))[0] as IncomingMessage
}

async function digest(response: IncomingMessage): Promise<string> {
  const hash = createHash('sha256')
  let size = 0
  for await (const piece of response as AsyncIterable<Buffer>) {
    hash.update(piece)
    size += piece.length
  }
  return `${size} ${hash.digest('hex')}`
}

test('readers who stand still hold up nobody, and get all of it in the end', async () => {
  const whole = await digest(await ask())
  expect(parseInt(whole)).toBeGreaterThan(RECORDS * 60)
  // More than there are threads and connections.
  const slow = await Promise.all(Array.from({ length: 20 }, ask))
  await new Promise((resolve) => setTimeout(resolve, 200))
  expect(await digest(await ask())).toBe(whole)
  expect(await Promise.all(slow.map(digest))).toEqual(slow.map(() => whole))
}, 60_000)

test('a reader who leaves frees its thread', async () => {
  for (const response of await Promise.all(Array.from({ length: 10 }, ask))) response.destroy()
  expect(await digest(await ask())).toBe(await digest(await ask()))
}, 60_000)

test('what fails before anything was sent is an answer that says so', async () => {
  const gone = await bringIn(server, 'Gone', 'a\n1\n')
  await server.database.query(`drop table records.t${gone.id}`)
  const { status, body } = await server.ask('GET', `/tables/${gone.id}/columns/${gone.columns[0]!.id}`)
  expect([status, (body as { code: string }).code]).toEqual([500, 'failed'])
}, 30_000)

test('a file that waits for others is told as waiting, until it begins', async () => {
  const file = (ticket: string) => server.fetch(`/api/v1/tables/${table.id}/file.xlsx?ticket=${ticket}`).then((response) => response.arrayBuffer())
  const waits = async (ticket: string) => ((await server.ask('GET', `/waits/${ticket}`)).body as { isWaiting: boolean }).isWaiting
  const files = ['a', 'b', 'c'].map(file)
  let waiting: string[] = []
  // As many as there are threads are made at once; which come first is left to the network.
  while (waiting.length !== 1) waiting = (await Promise.all(['a', 'b', 'c'].map(async (one) => ((await waits(one)) ? one : '')))).filter((one) => one !== '')
  await Promise.all(files)
  expect(await waits(waiting[0]!)).toBe(false)
}, 120_000)

test('a column that was sent is sent again as it is now, not as it was', async () => {
  const small = await bringIn(server, 'Corrected', 'Tree,Decay\nA,1\nB,2\n')
  const [, decay] = small.columns
  const read = async () => digest((await once(request({ port: address.port, host: '127.0.0.1', agent: false, path: `/api/v1/tables/${small.id}/columns/${decay!.id}` }).end(), 'response'))[0] as IncomingMessage)
  const before = await read()
  expect(await read()).toBe(before)
  const { status } = await server.ask('POST', `/tables/${small.id}/changes`, { kind: 'values', reading: { decimalMark: 'point', dateOrder: 'day' }, cells: [{ record: 1, column: decay!.id, text: '7', seen: ['1', null] }] })
  expect(status).toBeLessThan(300)
  expect(await read()).not.toBe(before)
}, 30_000)
