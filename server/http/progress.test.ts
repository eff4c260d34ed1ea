import { importBy, settingsOf } from '../testing/bring-in'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
beforeAll(async () => {
  server = await temporaryServer()
})
afterAll(() => server.close())

const TEXT = `Tree,Trunk\n${'T,1\n'.repeat(300_000)}`

async function sent(text: string): Promise<string> {
  return ((await server.ask('POST', '/files?name=some.csv', text)).body as { id: string }).id
}

function inLines(path: string, body: object, signal?: AbortSignal): Promise<Response> {
  return server.fetch(`/api/v1${path}`, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { Accept: 'application/x-ndjson' },
    ...(signal ? { signal } : {}),
  })
}

test('whoever accepts lines is told how far it is, and then what came of it', async () => {
  const response = await inLines('/tables', { file: await sent(TEXT), name: 'In lines', settings: settingsOf(TEXT.slice(0, 1000)) })
  expect(response.headers.get('Content-Type')).toMatch(/^application\/x-ndjson/)
  const lines = (await response.text())
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as { progress?: { records: number; share: number }; status?: number; body?: object })
  const progress = lines.flatMap((line) => line.progress ?? [])
  expect(progress.length).toBeGreaterThan(0)
  expect(progress.map(({ share }) => share)).toEqual(progress.map(({ share }) => share).toSorted((a, b) => a - b))
  expect(lines.at(-1)).toMatchObject({ status: 201, body: { name: 'In lines', records: 300_000 } })
})

test('a failure is the last line, with its status; before anything was begun it is the answer itself', async () => {
  await importBy(server.ask, 'Taken', 'a\n1\n', settingsOf('a\n1\n'))
  const response = await inLines('/tables', { file: await sent('a\n1\n'), name: 'Taken', settings: settingsOf('a\n1\n') })
  expect(response.status).toBe(200)
  expect(JSON.parse((await response.text()).trim().split('\n').at(-1)!)).toMatchObject({ status: 409, body: { code: 'name-taken' } })
  expect((await inLines('/tables', { name: 'No file' })).status).toBe(400)
})

test('whoever goes away breaks it off, and nothing of it stays', async () => {
  const file = await sent(`Tree,Trunk\n${'T,1\n'.repeat(1_500_000)}`)
  const stop = new AbortController()
  const response = await inLines('/tables', { file, name: 'Left', settings: settingsOf('Tree,Trunk\nT,1\n') }, stop.signal)
  await response.body!.getReader().read()
  stop.abort()
  const relations = async () => (await server.database.query("select from pg_tables where schemaname = 'records'")).rowCount
  const tables = async () => (await server.database.query('select from data_table')).rowCount
  // The file is let go of once nothing is at it any more.
  await new Promise((resolve) => setTimeout(resolve, 500))
  expect(await relations()).toBe(await tables())
  expect((await server.database.query("select from data_table where name = 'Left'")).rowCount).toBe(0)
})
