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

test('columns that are asked for in the same moment are each what they are when asked for alone', async () => {
  const lines = Array.from({ length: 70_000 }, (_, at) => `${at},${at % 7 === 0 ? '' : (at / 8).toString()},${['ash', 'oak', 'lime'][at % 3]},${at % 9 === 0 ? 'unclear' : at % 100}\n`)
  const wide = await bringIn(server, 'Wide', `Tree,Height,Species,Decay\n${lines.join('')}`)
  const read = async (column: number) => digest((await once(request({ port: address.port, host: '127.0.0.1', agent: false, path: `/api/v1/tables/${wide.id}/columns/${column}` }).end(), 'response'))[0] as IncomingMessage)
  const ids = wide.columns.map(({ id }) => id)
  // Those of a column are kept once they were sent: the first time they are all made.
  const together = await Promise.all(ids.map(read))
  await server.ask('POST', `/tables/${wide.id}/changes`, { kind: 'values', reading: { decimalMark: 'point', dateOrder: 'day' }, cells: [{ record: 1, column: ids[2]!, text: 'elm', seen: ['ash', null] }] })
  await server.ask('POST', `/tables/${wide.id}/changes`, { kind: 'values', reading: { decimalMark: 'point', dateOrder: 'day' }, cells: [{ record: 1, column: ids[2]!, text: 'ash', seen: ['elm', null] }] })
  const alone: string[] = []
  for (const id of ids) alone.push(await read(id))
  expect(together).toEqual(alone)
  expect(new Set(together).size).toBe(ids.length)
}, 60_000)

test('one who leaves before it is sent takes nothing from the others who asked in the same moment', async () => {
  const two = await bringIn(server, 'Two', `Tree,Height\n${Array.from({ length: 70_000 }, (_, at) => `${at},${at}\n`).join('')}`)
  const [one, other] = two.columns.map(({ id }) => ({ port: address.port, host: '127.0.0.1', agent: false, path: `/api/v1/tables/${two.id}/columns/${id}` }))
  const leaving = request(one!)
  leaving.on('error', () => undefined).end()
  const staying = request(other!).end()
  await once(leaving, 'socket')
  setTimeout(() => leaving.destroy(), 3)
  const sent = await digest((await once(staying, 'response'))[0] as IncomingMessage)
  expect(sent).toBe(await digest((await once(request(other!).end(), 'response'))[0] as IncomingMessage))
  expect(parseInt(sent)).toBeGreaterThan(70_000 * 12)
}, 60_000)
