import { request } from 'node:http'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pino } from 'pino'
import { createApp } from '../app'
import { openDatabase } from '../database/database'
import { Jobs } from '../jobs'
import { temporaryDatabase, type TemporaryDatabase } from '../testing/temporary-server'

let folder: string
let server: Server
let port: number
let temporary: TemporaryDatabase
let database: ReturnType<typeof openDatabase>

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'dime-gate-pages-'))
  await writeFile(join(folder, 'index.html'), '<title>Dime Gate</title>')
  await writeFile(join(folder, 'mark.svg'), '<svg/>')
  temporary = await temporaryDatabase()
  database = openDatabase(temporary.url)
  server = createServer(createApp(database, new Jobs(database, temporary.url), folder, pino({ level: 'silent' })).callback())
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready))
  port = (server.address() as AddressInfo).port
})
afterAll(async () => {
  await new Promise((done) => server.close(done))
  await database.end()
  await temporary.drop()
  await rm(folder, { recursive: true })
})

/** fetch does not let the Host header be chosen. */
function get(path: string, headers: Record<string, string> = {}, method = 'GET'): Promise<{ status: number; type: string; body: string; policy: string; request: string }> {
  return new Promise((resolve, reject) => {
    request({ port, host: '127.0.0.1', path, method, headers, agent: false }, (response) => {
      let body = ''
      response.on('data', (text: Buffer) => (body += text.toString()))
      response.on('end', () => resolve({ status: response.statusCode!, type: String(response.headers['content-type']), body, policy: String(response.headers['content-security-policy']), request: String(response.headers['x-request-id']) }))
    }).on('error', reject).end()
  })
}

describe('the pages', () => {
  test.each(['/', '/gates/1', '/runs/7', '/nowhere/at/all'])('%s is the interface, under a policy that lets nothing else in', async (path) => {
    const page = await get(path)
    expect(page).toMatchObject({ status: 200, type: 'text/html; charset=utf-8', body: '<title>Dime Gate</title>' })
    expect(page.policy).toMatch(/default-src 'none';script-src 'self'/)
    expect(page.policy).not.toMatch(/unsafe/)
  })
  test('files come as what they are, and missing ones are missing', async () => {
    expect(await get('/mark.svg')).toMatchObject({ status: 200, type: 'image/svg+xml' })
    expect((await get('/assets/gone.js')).status).toBe(404)
  })
  test.each(['/../package.json', '/%2e%2e/%2e%2e/etc/passwd.txt', '/..%2fapp.ts', '/..%2fpackage.json', '/%00.js', '/%E0%A4%A.js'])('%s leads nowhere', async (path) => {
    expect((await get(path)).status).toBe(404)
  })
  test('a page may carry its own styles, by a word that nobody can guess', async () => {
    await writeFile(join(folder, 'index.html'), '<meta nonce="__NONCE__"><title>Dime Gate</title>')
    const [first, second] = [await get('/'), await get('/')]
    const nonce = /nonce="([^"]{20,})"/.exec(first.body)![1]!
    expect(first.policy).toContain(`style-src 'self' 'nonce-${nonce}'`)
    expect(second.body).not.toBe(first.body)
    await writeFile(join(folder, 'index.html'), '<title>Dime Gate</title>')
  })
})

describe('only this machine is answered', () => {
  test.each(['evil.example', 'localhost.evil.example:80', '10.0.0.1'])('a page that came by the name %s is refused', async (host) => {
    expect((await get('/api/v1/workspace', { Host: host })).status).toBe(403)
  })
  test.each(['localhost', '127.0.0.1:4170', '[::1]:4170'])('%s is this machine', async (host) => {
    expect((await get('/', { Host: host })).status).toBe(200)
  })
  test('other sites may not change anything, our own pages may', async () => {
    expect((await get('/api/v1/gates', { 'Sec-Fetch-Site': 'cross-site' }, 'POST')).status).toBe(403)
    expect((await get('/api/v1/gates', { 'Sec-Fetch-Site': 'same-origin' }, 'POST')).status).toBe(400)
    expect((await get('/api/v1/gates', { Origin: 'http://evil.example' }, 'POST')).status).toBe(403)
    expect((await get('/api/v1/gates', { Origin: 'null' }, 'POST')).status).toBe(403)
    expect((await get('/api/v1/gates', { Origin: `http://127.0.0.1:${port}` }, 'POST')).status).toBe(400)
  })
})

test('a fault of ours is told as one, without its insides', async () => {
  // The database has no schema at all.
  const answer = await get('/api/v1/desk')
  expect(answer.status).toBe(500)
  expect(JSON.parse(answer.body)).toMatchObject({ code: 'failed', message: expect.stringContaining(answer.request) })
  expect(answer.body).not.toMatch(/relation|select/)
})

test('whoever watches over the program is told whether it runs, and whether it can work', async () => {
  expect(await get('/health')).toMatchObject({ status: 200 })
  expect(await get('/ready')).toMatchObject({ status: 200 })
})
