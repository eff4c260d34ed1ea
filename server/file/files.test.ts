import type { FileLook, Progress } from '@dime-gate/contract/table'
import { importBy, settingsOf } from '../testing/bring-in'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'
import { Files } from './files'

const RECORDS = 40_000

let server: TemporaryServer
let files: Files
beforeAll(async () => {
  server = await temporaryServer()
  files = new Files(server.url)
})
afterAll(async () => {
  await files.close()
  await server.close()
})

const TEXT = `Tree,Trunk\n${Array.from({ length: RECORDS }, (_, at) => `T${at},${at % 90}\n`).join('')}`
const FILE = new TextEncoder().encode(TEXT)
const settings = settingsOf(TEXT.slice(0, 1000))
const records = async (name: string) =>
  (await server.database.query<{ records: number }>('select records from data_table where name = $1', [name])).rows[0]?.records

/** The file in small pieces; `at` is told of each before it is given. */
async function* sent(bytes: Uint8Array = FILE, at: (byte: number) => Promise<void> = async () => undefined): AsyncGenerator<Uint8Array> {
  for (let from = 0; from < bytes.length; from += 50_000) {
    await at(from)
    yield bytes.subarray(from, from + 50_000)
  }
}

async function lookAt(text: string, choice = {}): Promise<FileLook> {
  const { id } = await files.add('some.csv', sent(new TextEncoder().encode(text)))
  return files.look(id, choice, {})
}

test('more files than there are threads come in one after the other, each in whole', async () => {
  const names = ['a', 'b', 'c', 'd', 'e'].map((name) => `Many ${name}`)
  await Promise.all(
    names.map(async (name) => {
      const { id } = await files.add(`${name}.csv`, sent())
      await files.bringIn(id, { name, settings }, {})
    }),
  )
  expect(await Promise.all(names.map(records))).toEqual(names.map(() => RECORDS))
}, 30_000)

test('a sender who breaks off leaves nothing behind', async () => {
  const broken = sent(FILE, async (byte) => {
    if (byte > FILE.length / 2) throw new Error('the wire was cut')
  })
  await expect(files.add('broken.csv', broken)).rejects.toThrow('the wire was cut')
})

test('one who stops waiting leaves nothing behind, and the thread to the next; the file is still there', async () => {
  const long = new TextEncoder().encode(`Tree,Trunk\n${'T,1\n'.repeat(20 * RECORDS)}`)
  const { id } = await files.add('stopped.csv', sent(long))
  const stop = new AbortController()
  const heard: Progress[] = []
  const stopped = files.bringIn(
    id,
    { name: 'Stopped', settings },
    {
      signal: stop.signal,
      heard: (progress) => {
        heard.push(progress)
        stop.abort()
      },
    },
  )
  await expect(stopped).rejects.toThrow('nobody waits for it any more')
  expect(heard[0]!.records).toBeGreaterThan(0)
  expect(await records('Stopped')).toBeUndefined()
  await files.bringIn(id, { name: 'Stopped', settings }, {})
  expect(await records('Stopped')).toBe(20 * RECORDS)
}, 30_000)

test('a file that became a table, or was let go of, is gone', async () => {
  const { id } = await files.add('once.csv', sent())
  await files.bringIn(id, { name: 'Once', settings }, {})
  await expect(files.look(id, {}, {})).rejects.toMatchObject({ problem: { code: 'file-gone' } })
  const other = await files.add('other.csv', sent())
  await files.remove(other.id)
  await expect(files.look(other.id, {}, {})).rejects.toMatchObject({ problem: { code: 'file-gone' } })
}, 30_000)

describe('a look goes to the end of the file', () => {
  test('it counts what is far down, and gives examples of what cannot be read', async () => {
    const { statistics, settings: found } = await lookAt(`${TEXT}T,35 cm\nT,\nT,n/a\n`)
    expect(statistics!.records).toBe(RECORDS + 3)
    expect(found.columns[1]!.type).toBe('number')
    expect(statistics!.columns[1]).toMatchObject({
      blank: 1,
      unreadable: 2,
      examples: [
        { record: RECORDS + 1, text: '35 cm' },
        { record: RECORDS + 3, text: 'n/a' },
      ],
    })
  }, 30_000)

  test('a column whose beginning says little of the rest is told as what it is', async () => {
    const { settings: found, statistics } = await lookAt(`Code\n${'1\n'.repeat(3000)}${'a\n'.repeat(4000)}`)
    expect([found.columns[0]!.type, statistics!.columns[0]!.unreadable]).toEqual(['text', 0])
    const chosen = await lookAt(`Code\n${'1\n'.repeat(3000)}${'a\n'.repeat(4000)}`, { columns: { 0: { type: 'number' } } })
    expect([chosen.settings.columns[0]!.type, chosen.statistics!.columns[0]!.unreadable]).toEqual(['number', 4000])
  })

  test('a line far down that is no record stands in the way, with its place', async () => {
    const { problem, statistics } = await lookAt(`${TEXT}T,1,2\n`)
    expect([problem, statistics]).toMatchObject([{ code: 'ragged', line: RECORDS + 2 }, null])
  }, 30_000)

  test('dates that read either way, and percents with and without their sign, are counted apart', async () => {
    const { statistics } = await lookAt('Due,Decay\n03/04/2026,72%\n13/04/2026,0.72\n04/05/2026 9:30,12\n05/05/2026,\n', {
      columns: { 1: { type: 'percent' } },
    })
    expect(statistics!.columns[0]!.dates).toEqual({
      either: 2,
      dayFirst: 1,
      monthFirst: 0,
      timed: 1,
      examples: [
        { record: 1, text: '03/04/2026' },
        { record: 2, text: '13/04/2026' },
      ],
    })
    expect(statistics!.columns[1]!.percents).toMatchObject({ signed: 1, upToOne: 1, overOne: 1 })
  })
})

test('columns that are left out are not stored; full marks and who the record is are', async () => {
  const text = 'Trainee,Notes,M1,M2\nout of,,5,10\nYarlo,x,3,4\nTesdry,y,2,\n'
  const look = await lookAt(text)
  expect(look.settings).toMatchObject({ hasFullMarks: true })
  expect(look.statistics!.records).toBe(2)
  look.settings.columns[1]!.isLeftOut = true
  const { body } = await importBy(server.ask, 'Marks', text, look.settings)
  expect(body).toMatchObject({
    records: 2,
    columns: [
      { name: 'Trainee', fullMarks: null, isIdentity: true },
      { name: 'M1', fullMarks: '5', isIdentity: false },
      { name: 'M2', fullMarks: '10', blank: 1 },
    ],
  })
})
