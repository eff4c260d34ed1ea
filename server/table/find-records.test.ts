import type { FoundRecord } from '@dime-gate/contract/found'
import { bringIn } from '../testing/bring-in'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
beforeAll(async () => {
  server = await temporaryServer()
  await bringIn(server, 'Trees', ['Tree,Note', 'T 12,T 7', 'T 120,', 't 7,', '100%,', 'a_b,'].join('\n'), ({ columns }) => (columns[0]!.isIdentity = true))
  await bringIn(server, 'Crews', ['Crew,Size', '12,3', '512.50,4', ...Array.from({ length: 9 }, (_, at) => `9${at},1`)].join('\n'), ({ columns }) => (columns[0]!.isIdentity = true))
  await bringIn(server, 'Nobody', 'Name\nT 12\n', ({ columns }) => (columns[0]!.isIdentity = false))
})
afterAll(() => server.close())

const found = async (text: string) => (await server.ask('GET', `/found?text=${encodeURIComponent(text)}`)).body as FoundRecord[]
const told = async (text: string) => (await found(text)).map(({ tableName, value }) => `${tableName} ${value}`)

test.each([
  ['a part of it, those that begin so first', '12', ['Trees T 12', 'Trees T 120', 'Crews 12', 'Crews 512.5']],
  ['of which case does not count', 'T 7', ['Trees t 7']],
  ['signs stand for themselves', '0%', ['Trees 100%']],
  ['and so does a low line', 'a_', ['Trees a_b']],
  ['nothing of what is no identity column', 'T 12x', []],
  ['a single letter is in too many', '1', []],
  ['blanks are no text', '  ', []],
])('%s', async (_, text, wanted) => {
  expect((await told(text)).toSorted()).toEqual(wanted.toSorted())
})

test('a few of a table are enough; each says where it is', async () => {
  const nines = await found('9')
  expect(nines).toEqual([])
  expect(await told('90')).toEqual(['Crews 90'])
  expect((await found('12'))[0]).toMatchObject({ columnName: expect.any(String), record: expect.any(Number), isException: false })
})
