import type { ChangeAnswer, MergeAnswer } from '@dime-gate/contract/change'
import type { Table, TableRecord } from '@dime-gate/contract/table'
import fc from 'fast-check'
import { bringIn, settingsOf } from '../testing/bring-in'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

const COURSE = 'Trainee,M1,M2\nYarlo,3,4\nTesdry,absent,2\nPellvi,5,\nIlonna,1,1\n'

let server: TemporaryServer
let number = 0
beforeAll(async () => {
  server = await temporaryServer()
})
afterAll(() => server.close())

const fresh = (text = COURSE) =>
  bringIn(server, `Course ${++number}`, text, ({ columns }) =>
    columns.forEach((column, at) =>
      Object.assign(column, at === 0 ? { isIdentity: true, type: 'text' } : { type: 'number', isIdentity: false }),
    ),
  )

async function merge(table: Table, text: string, { isReplacing = false, isTrial = false } = {}): Promise<MergeAnswer> {
  const { id: file } = (await server.ask('POST', '/files?name=more.csv', text)).body as { id: string }
  const settings = settingsOf(text, ({ columns }) => columns.forEach((column, at) => at > 0 && (column.type = 'number')))
  const { status, body } = await server.ask('POST', `/tables/${table.id}/merges`, { file, settings, isReplacing, isTrial })
  if (status !== 200) throw Object.assign(new Error(JSON.stringify(body)), { status, body })
  return body
}

/** Each record as texts, in record order. */
async function texts({ id, columns }: Pick<Table, 'id' | 'columns'>): Promise<(string | null)[][]> {
  const listing = await server.fetch(`/api/v1/tables/${id}/listings`, { method: 'POST', body: '{"filters":[],"sorts":[]}' })
  const { body } = await server.ask('POST', `/tables/${id}/records`, { records: [...new Int32Array(await listing.arrayBuffer())] })
  return (body as TableRecord[]).map(({ cells }) => columns.map((_, at) => cells[at]![1] ?? cells[at]![0]))
}

test('a trial says in numbers and examples what would become of it, and does nothing', async () => {
  const table = await fresh()
  const { plan, change } = await merge(table, 'trainee,M2,M3\nTesdry,3,5\nYarlo,4,\nSulwick,2,1\n', { isTrial: true })
  expect(plan).toEqual({
    identity: ['Trainee'],
    added: 1,
    changed: 1,
    same: 1,
    removed: 0,
    ambiguous: 0,
    newColumns: ['M3'],
    untouched: ['M1'],
    examples: {
      added: ['Sulwick'],
      removed: [],
      ambiguous: [],
      changed: [
        { who: 'Tesdry', column: 'M2', before: '2', after: '3' },
        { who: 'Tesdry', column: 'M3', before: null, after: '5' },
      ],
    },
  })
  expect(change).toBeNull()
  expect([await texts(table), ((await server.ask('GET', `/tables/${table.id}`)).body as Table).version]).toEqual([
    [
      ['Yarlo', '3', '4'],
      ['Tesdry', 'absent', '2'],
      ['Pellvi', '5', null],
      ['Ilonna', '1', '1'],
    ],
    1,
  ])
})

test('a new assessment is one file: records are found again, what is blank leaves what is there, new ones come, and all of it is one step back', async () => {
  const table = await fresh()
  const { change, table: now } = await merge(table, 'Trainee,M3,M1\nTesdry,5 cm,2\nYarlo,4,\nSulwick,2,1\n')
  expect(change).toMatchObject({ version: 2, kind: 'append', records: 3 })
  expect(now.columns.map(({ name, type, blank, unreadable }) => [name, type, blank, unreadable])).toEqual([
    ['Trainee', 'text', 0, 0],
    ['M1', 'number', 0, 0],
    ['M2', 'number', 2, 0],
    ['M3', 'number', 2, 1],
  ])
  expect(await texts(now)).toEqual([
    ['Yarlo', '3', '4', '4'],
    ['Tesdry', '2', '2', '5 cm'],
    ['Pellvi', '5', null, null],
    ['Ilonna', '1', '1', null],
    ['Sulwick', '1', null, '2'],
  ])
  const undone = (await server.ask('POST', `/tables/${table.id}/changes/2/undoing`, {})).body as ChangeAnswer
  expect(undone.table.columns.map(({ name }) => name)).toEqual(['Trainee', 'M1', 'M2'])
  expect(await texts(undone.table)).toEqual(await texts(await fresh()))
})

test('a new list replaces: who is not on it goes, blanks count, and columns that it does not have stay', async () => {
  const table = await fresh()
  const { plan, table: now } = await merge(table, 'Trainee,M1\nPellvi,\nYarlo,3\nSulwick,2\n', { isReplacing: true })
  expect(plan).toMatchObject({ added: 1, changed: 1, same: 1, removed: 2, untouched: ['M2'], examples: { removed: ['Tesdry', 'Ilonna'] } })
  expect(await texts(now)).toEqual([
    ['Yarlo', '3', '4'],
    ['Pellvi', null, null],
    ['Sulwick', '2', null],
  ])
  expect(now.records).toBe(3)
})

test('where nothing tells who a record is, all are added', async () => {
  const table = await fresh()
  const { plan, table: now } = await merge(table, 'M1,M2\n1,2\n')
  expect([plan.identity, plan.added, now.records]).toEqual([[], 1, 5])
})

test('who a record is may be a number, however it is written, or several columns at once', async () => {
  const numbers = await bringIn(server, `Numbers ${++number}`, 'No,M1\n5,1\n7.50,2\n', ({ columns }) =>
    columns.forEach((column, at) => Object.assign(column, { type: 'number', isIdentity: at === 0 })),
  )
  const { id: file } = (await server.ask('POST', '/files?name=n.csv', 'No,M1\n5.0,3\n7.5,4\n8,5\n')).body as { id: string }
  const settings = settingsOf('No,M1\n5.0,3\n7.5,4\n8,5\n')
  expect(
    (await server.ask('POST', `/tables/${numbers.id}/merges`, { file, settings, isReplacing: false, isTrial: false })).body,
  ).toMatchObject({ plan: { added: 1, changed: 2, ambiguous: 0 } })
  const pairs = await bringIn(server, `Pairs ${++number}`, 'Ward,Tree,M1\nNorth,1,a\nSouth,1,b\n', ({ columns }) =>
    columns.forEach((column, at) => Object.assign(column, { type: 'text', isIdentity: at < 2 })),
  )
  expect((await merge(pairs, 'Tree,Ward,M1\n1,South,c\n2,South,d\n')).plan).toMatchObject({
    identity: ['Ward', 'Tree'],
    added: 1,
    changed: 1,
  })
})

test('records that cannot be told apart, in the file or in the table, are named, and nothing is done', async () => {
  const table = await fresh('Trainee,M1\nYarlo,1\nYarlo,2\nTesdry,3\n')
  const twice = 'Trainee,M1\nTesdry,4\nTesdry,5\nYarlo,6\nSulwick,7\n'
  expect((await merge(table, twice, { isTrial: true })).plan).toMatchObject({ ambiguous: 3, added: 1 })
  await expect(merge(table, twice)).rejects.toMatchObject({ status: 422, body: { code: 'ambiguous' } })
  expect(await texts(table)).toEqual([
    ['Yarlo', '1'],
    ['Yarlo', '2'],
    ['Tesdry', '3'],
  ])
})

test('a file that goes wrong far down leaves the table as it was', async () => {
  const table = await fresh()
  await expect(merge(table, `Trainee,M1\n${Array.from({ length: 5000 }, (_, at) => `T${at},1\n`).join('')}T\n`)).rejects.toMatchObject({
    status: 422,
    body: { code: 'ragged' },
  })
  expect(((await server.ask('GET', `/tables/${table.id}`)).body as Table).version).toBe(1)
})

test('whatever is merged, the table is what a merge in memory makes of it, and undone it is what it was', async () => {
  const cell = fc.constantFrom('', '1', '2', 'x')
  const rows = fc.uniqueArray(fc.tuple(fc.constantFrom('a', 'b', 'c', 'd', 'e'), cell, cell), { minLength: 1, selector: ([who]) => who })
  const text = (head: string, all: readonly (readonly string[])[]) => `${head}\n${all.map((row) => row.join(',')).join('\n')}\n`
  await fc.assert(
    fc.asyncProperty(rows, rows, fc.boolean(), async (there, file, isReplacing) => {
      const table = await fresh(text('Who,P,Q', there))
      const { table: now } = await merge(table, text('Who,Q,R', file), { isReplacing })
      const given = new Map(file.map(([who, q, r]) => [who, [q, r] as const]))
      const expected = [
        ...there
          .filter(([who]) => !isReplacing || given.has(who))
          .map(([who, p, q]) => {
            const [nextQ, r] = given.get(who) ?? [q, '']
            return [who, p, isReplacing || nextQ !== '' ? nextQ : q, r]
          }),
        ...file.filter(([who]) => !there.some(([one]) => one === who)).map(([who, q, r]) => [who, '', q, r]),
      ].map((row) => row.map((one) => one || null))
      expect(await texts(now)).toEqual(expected)
      await server.ask('POST', `/tables/${table.id}/changes/2/undoing`, {})
      expect(await texts(table)).toEqual(there.map((row) => row.map((one) => one || null)))
    }),
    { numRuns: 40 },
  )
}, 120_000)
