import { once } from 'node:events'
import { WebSocket } from 'ws'
import type { ChangeAnswer, ChangeRequest, Filter, Listing, RecordHistory } from '@dime-gate/contract/change'
import type { Cell, Column, Table, TableRecord } from '@dime-gate/contract/table'
import { bringIn } from '../testing/bring-in'
import { gateOn } from '../testing/gate-on'
import { keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

const TEXT = 'Tree,Decay,Due\nT1,12,2026-03-02\nT2,35 cm,2026-04-01\nT3,,\nT4,40,2026-01-15\n'
const reading = { decimalMark: 'point', dateOrder: 'day' } as const

let server: TemporaryServer
let number = 0
beforeAll(async () => {
  server = await temporaryServer()
})
afterAll(() => server.close())

const fresh = (text = TEXT) => bringIn(server, `Trees ${++number}`, text, ({ columns }) => columns[1] && (columns[1].type = 'number'))

async function change(table: Pick<Table, 'id'>, request: ChangeRequest): Promise<ChangeAnswer> {
  const { status, body } = await server.ask('POST', `/tables/${table.id}/changes`, request)
  if (status !== 200) throw Object.assign(new Error(JSON.stringify(body)), { status, body })
  return body
}

async function undo(table: Pick<Table, 'id'>, version: number): Promise<{ status: number; body: ChangeAnswer }> {
  return server.ask('POST', `/tables/${table.id}/changes/${version}/undoing`, {})
}

async function listed({ id }: Pick<Table, 'id'>, listing: Partial<Listing> = {}): Promise<number[]> {
  const response = await server.fetch(`/api/v1/tables/${id}/listings`, {
    method: 'POST',
    body: JSON.stringify({ filters: [], sorts: [], ...listing }),
  })
  expect(response.status).toBe(200)
  return [...new Int32Array(await response.arrayBuffer())]
}

/** The whole table as it is now, by record. */
async function cellsOf(table: Pick<Table, 'id'>): Promise<Map<number, Cell[]>> {
  const { body } = await server.ask('POST', `/tables/${table.id}/records`, { records: await listed(table) })
  return new Map((body as TableRecord[]).map(({ record, cells }) => [record, cells]))
}

const tableOf = async ({ id }: Pick<Table, 'id'>): Promise<Table> => (await server.ask('GET', `/tables/${id}`)).body
const set = (record: number, column: Column | undefined, text: string, seen: Cell): ChangeRequest => ({
  kind: 'values',
  reading,
  cells: [{ record, column: column!.id, text, seen }],
})

/** Blank and unreadable values of each column, by what is stored and by what is said of it. */
async function expectCountsTrue(table: Pick<Table, 'id'>): Promise<void> {
  const { columns, records } = await tableOf(table)
  const cells = [...(await cellsOf(table)).values()]
  expect(records).toBe(cells.length)
  expect(columns.map(({ blank, unreadable }) => [blank, unreadable])).toEqual(
    columns.map((_, at) => [
      cells.filter((all) => all[at]![0] === null && !all[at]![1]?.trim()).length,
      cells.filter((all) => all[at]![0] === null && all[at]![1]?.trim()).length,
    ]),
  )
}

describe('a change that is asked for again under its key', () => {
  const askedFor = async (path: string, key: string, body: object) => {
    const response = await server.fetch(`/api/v1${path}`, { method: 'POST', headers: { 'Idempotency-Key': key }, body: JSON.stringify(body) })
    return { status: response.status, body: (await response.json()) as ChangeAnswer }
  }

  test('is made once, also where many ask at once, and answered with what it made', async () => {
    const table = await fresh()
    const path = `/tables/${table.id}/changes`
    const adding = { kind: 'add records', reading, rows: [[{ column: table.columns[0]!.id, text: 'T5' }]] }
    const all = await Promise.all(Array.from({ length: 6 }, () => askedFor(path, 'key-of-one-record', adding)))
    expect(all.map(({ status, body }) => [status, body.change!.version, body.table.records])).toEqual(all.map(() => [200, 2, 5]))
    // Another key is another change.
    expect((await askedFor(path, 'key-of-another', adding)).body.table).toMatchObject({ version: 3, records: 6 })
  })

  test('is made once where it takes another back', async () => {
    const table = await fresh()
    await change(table, { kind: 'remove records', records: [1] })
    const answers = [0, 1].map(() => askedFor(`/tables/${table.id}/changes/2/undoing`, 'key-of-undoing', {}))
    expect((await Promise.all(answers)).map(({ body }) => [body.change!.version, body.change!.undoes, body.table.records])).toEqual([[3, 2, 4], [3, 2, 4]])
  })

  test('needs a key that is one', async () => {
    const table = await fresh()
    expect((await askedFor(`/tables/${table.id}/changes`, 'no key', { kind: 'remove records', records: [1] })).status).toBe(400)
    expect((await tableOf(table)).version).toBe(1)
  })
})

describe('a value is corrected', () => {
  test('it is kept at once, counted, and what does not fit is kept as written', async () => {
    const table = await fresh()
    const [, decay, due] = table.columns
    const { change: made, records } = await change(table, set(2, decay, '36.0', [null, '35 cm']))
    expect(made).toMatchObject({ version: 2, kind: 'values', records: 1, columns: ['Decay'], undoes: null })
    expect(records).toEqual([
      {
        record: 2,
        cells: [
          ['T2', null],
          ['36.0', null],
          ['2026-04-01', null],
        ],
      },
    ])
    await change(table, set(1, due, 'soon', ['2026-03-02', null]))
    await change(table, set(4, due, '2.3.2026', ['2026-01-15', null]))
    expect([...(await cellsOf(table)).values()].map((cells) => cells[2])).toEqual([
      [null, 'soon'],
      ['2026-04-01', null],
      [null, null],
      ['2026-03-02', '2.3.2026'],
    ])
    await expectCountsTrue(table)
    expect((await tableOf(table)).version).toBe(4)
  })

  test('where it was changed elsewhere since it was seen, both are told and neither is lost', async () => {
    const table = await fresh()
    const [, decay] = table.columns
    await change(table, set(1, decay, '13', ['12', null]))
    const { conflicts, change: made } = await change(table, set(1, decay, '14', ['12', null]))
    expect([conflicts, made]).toEqual([[{ record: 1, column: decay!.id, now: ['13', null] }], null])
    expect((await cellsOf(table)).get(1)![1]).toEqual(['13', null])
    // What two want alike is no quarrel.
    expect((await change(table, set(1, decay, '13', ['12', null]))).conflicts).toEqual([])
  })

  test('a pasted block is one change; one value of it that is overtaken stops all of it', async () => {
    const table = await fresh()
    const [tree, decay] = table.columns
    const block = (seen: Cell): ChangeRequest => ({
      kind: 'values',
      reading,
      cells: [
        { record: 1, column: tree!.id, text: 'A', seen: ['T1', null] },
        { record: 1, column: decay!.id, text: '1', seen: ['12', null] },
        { record: 3, column: tree!.id, text: 'C', seen: ['T3', null] },
        { record: 3, column: decay!.id, text: 'x', seen },
      ],
    })
    expect((await change(table, block(['5', null]))).conflicts).toHaveLength(1)
    expect((await cellsOf(table)).get(1)![0]).toEqual(['T1', null])
    expect((await change(table, block([null, null]))).change).toMatchObject({ version: 2, records: 2, columns: ['Tree', 'Decay'] })
    expect((await cellsOf(table)).get(3)!.slice(0, 2)).toEqual([
      ['C', null],
      [null, 'x'],
    ])
    await expectCountsTrue(table)
  })

  test('of many changes at once each is one version, and none is lost', async () => {
    const table = await fresh(`Tree,Decay\n${Array.from({ length: 20 }, (_, at) => `T${at},1\n`).join('')}`)
    await Promise.all(Array.from({ length: 20 }, (_, at) => change(table, set(at + 1, table.columns[1], String(at), ['1', null]))))
    expect([...(await cellsOf(table)).values()].map((cells) => cells[1]![0])).toEqual(Array.from({ length: 20 }, (_, at) => String(at)))
    expect((await tableOf(table)).version).toBe(21)
  })
})

describe('many records at once', () => {
  test('one value for those that a filter finds, or that are named', async () => {
    const table = await fresh()
    const [, decay] = table.columns
    const filled = await change(table, {
      kind: 'fill',
      reading,
      column: decay!.id,
      text: '0',
      filters: [{ kind: 'blank', column: decay!.id }],
      records: null,
    })
    expect(filled.change).toMatchObject({ records: 1, columns: ['Decay'] })
    await change(table, { kind: 'fill', reading, column: decay!.id, text: 'n/a', filters: [], records: [1, 4] })
    expect([...(await cellsOf(table)).values()].map((cells) => cells[1])).toEqual([
      [null, 'n/a'],
      [null, '35 cm'],
      ['0', null],
      [null, 'n/a'],
    ])
    await expectCountsTrue(table)
  })

  test('records are added and removed; a number is never given twice', async () => {
    const table = await fresh()
    const [tree, decay] = table.columns
    const added = await change(table, {
      kind: 'add records',
      reading,
      rows: [
        [
          { column: tree!.id, text: 'T5' },
          { column: decay!.id, text: '5 cm' },
        ],
        [],
      ],
    })
    expect(added.records.map(({ record, cells }) => [record, cells[0]])).toEqual([
      [5, ['T5', null]],
      [6, [null, null]],
    ])
    await change(table, { kind: 'remove records', records: [6, 2] })
    await change(table, { kind: 'add records', reading, rows: [[]] })
    expect(await listed(table)).toEqual([1, 3, 4, 5, 7])
    await expectCountsTrue(table)
  })
})

describe('columns', () => {
  test('one is added blank, filled, and removed; its values come back with it', async () => {
    const table = await fresh()
    const added = await change(table, { kind: 'add column', name: 'Lean', unit: '°', type: 'number', fullMarks: null })
    const lean = added.table.columns[3]!
    expect(lean).toMatchObject({ name: 'Lean', unit: '°', type: 'number', header: 'Lean (°)', blank: 4 })
    await change(table, set(1, lean, '7', [null, null]))
    const removed = await change(table, { kind: 'remove column', column: lean.id })
    expect(removed.table.columns.map(({ name }) => name)).toEqual(['Tree', 'Decay', 'Due'])
    await undo(table, removed.change!.version)
    expect((await cellsOf(table)).get(1)![3]).toEqual(['7', null])
    await expectCountsTrue(table)
  })

  test('another type reads every text anew, and back again nothing is lost', async () => {
    const table = await fresh()
    const decay = table.columns[1]!
    const asText = await change(table, { kind: 'change column', reading, column: decay.id, settings: { type: 'text' } })
    expect([...(await cellsOf(table)).values()].map((cells) => cells[1])).toEqual([
      ['12', null],
      ['35 cm', null],
      [null, null],
      ['40', null],
    ])
    expect(asText.table.columns[1]).toMatchObject({ type: 'text', unreadable: 0, blank: 1 })
    const back = await undo(table, asText.change!.version)
    expect([...(await cellsOf(table)).values()].map((cells) => cells[1])).toEqual([
      ['12', null],
      [null, '35 cm'],
      [null, null],
      ['40', null],
    ])
    expect(back.body.table.columns[1]).toMatchObject({ type: 'number', unreadable: 1 })
    await expectCountsTrue(table)
  })

  test('name, unit, full marks and what is expected are changed and taken back; two of one name are refused', async () => {
    const table = await fresh()
    const decay = table.columns[1]!
    const { table: now, change: made } = await change(table, {
      kind: 'change column',
      reading,
      column: decay.id,
      settings: { name: 'Rot', unit: '%', expectedLow: '0', expectedHigh: '30', isIdentity: true },
    })
    expect(now.columns[1]).toMatchObject({
      name: 'Rot',
      unit: '%',
      expectedLow: '0',
      expectedHigh: '30',
      isIdentity: true,
      header: 'Rot (%)',
    })
    expect(await listed(table, { filters: [{ kind: 'outside', column: decay.id }] })).toEqual([4])
    expect((await server.ask('GET', `/tables/${table.id}/profile`)).body).toMatchObject({ [decay.id]: { outside: 1 } })
    expect((await undo(table, made!.version)).body.table.columns[1]).toMatchObject({
      name: 'Decay',
      unit: '',
      expectedHigh: null,
      isIdentity: false,
    })
    await expect(change(table, { kind: 'change column', reading, column: decay.id, settings: { name: 'Tree' } })).rejects.toMatchObject({
      status: 409,
      body: { code: 'name-taken' },
    })
  })

  test('one that a gate looks at stays, and says which gate does', async () => {
    const table = await fresh()
    await gateOn(server, table, 'Decay', ['20'], ['low', 'high'])
    const decay = table.columns[1]!.id
    for (const request of [
      { kind: 'remove column', column: decay },
      { kind: 'change column', reading, column: decay, settings: { type: 'text' } },
    ] as const) {
      await expect(change(table, request)).rejects.toMatchObject({
        status: 409,
        body: { code: 'stood-on', message: expect.stringContaining('Decay band”') as string },
      })
    }
    expect((await change(table, { kind: 'change column', reading, column: decay, settings: { name: 'Rot' } })).table.columns[1]!.name).toBe(
      'Rot',
    )
  })
})

describe('taking back', () => {
  test('every kind of change, in turn, until the table is as it came; and forth again', async () => {
    const table = await fresh()
    const [tree, decay, due] = table.columns
    const states = [[...(await cellsOf(table))]]
    const requests: ChangeRequest[] = [
      set(2, decay, '36', [null, '35 cm']),
      { kind: 'add records', reading, rows: [[{ column: tree!.id, text: 'T5' }]] },
      { kind: 'remove records', records: [1] },
      { kind: 'fill', reading, column: due!.id, text: 'soon', filters: [], records: null },
      { kind: 'add column', name: 'Lean', unit: '', type: 'number', fullMarks: null },
      { kind: 'remove column', column: decay!.id },
    ]
    const versions: number[] = []
    for (const request of requests) {
      versions.push((await change(table, request)).change!.version)
      states.push([...(await cellsOf(table))])
    }
    const undone: number[] = []
    for (let at = requests.length - 1; at >= 0; at--) {
      undone.push((await undo(table, versions[at]!)).body.change!.version)
      expect([...(await cellsOf(table))]).toEqual(states[at])
      await expectCountsTrue(table)
    }
    for (let at = 0; at < requests.length; at++) {
      await undo(table, undone[requests.length - 1 - at]!)
      expect([...(await cellsOf(table))]).toEqual(states[at + 1])
    }
  })

  test('what was changed again since is not taken back over', async () => {
    const table = await fresh()
    const decay = table.columns[1]
    const first = await change(table, set(1, decay, '13', ['12', null]))
    await change(table, set(1, decay, '14', ['13', null]))
    expect(await undo(table, first.change!.version)).toMatchObject({ status: 409, body: { code: 'stale' } })
    expect((await cellsOf(table)).get(1)![1]).toEqual(['14', null])
  })
})

test('a record tells what became of it, and a table which changes were made', async () => {
  const table = await fresh()
  const [, decay] = table.columns
  await change(table, set(1, decay, '13', ['12', null]))
  await change(table, { kind: 'remove records', records: [1] })
  const history = (await server.ask('GET', `/tables/${table.id}/records/1/history`)).body as RecordHistory
  expect(history.map(({ version, kind, values }) => ({ version, kind, values }))).toEqual([
    { version: 3, kind: 'removed', values: [] },
    { version: 2, kind: 'changed', values: [{ column: decay!.id, name: 'Decay', before: ['12', null], after: ['13', null] }] },
    { version: 1, kind: 'there from the start', values: [] },
  ])
  expect((await server.ask('GET', `/tables/${table.id}/changes`)).body).toMatchObject([
    { version: 3, kind: 'remove records', records: 1 },
    { version: 2, kind: 'values', columns: ['Decay'] },
  ])
})

test('a run says the same whatever becomes of the table: its labelled table is the table as it stood', async () => {
  const table = await fresh()
  const gate = await gateOn(server, { ...table, columns: table.columns }, 'Decay', ['20'], ['low', 'high'])
  const run = await keepRun(server, { gateId: gate.id, version: 1, tableId: table.id, binding: 1 })
  const labelled = async () => (await server.fetch(`/api/v1/runs/${run.id}/labelled.csv`)).text()
  const before = await labelled()
  await change(table, set(1, table.columns[1], '99', ['12', null]))
  await change(table, { kind: 'remove records', records: [2] })
  await change(table, { kind: 'remove column', column: table.columns[2]!.id })
  await change(table, { kind: 'add column', name: 'Lean', unit: '', type: 'number', fullMarks: null })
  expect(await labelled()).toBe(before)
  const { body: as } = await server.ask('POST', `/tables/${table.id}/records`, { records: [1, 2], version: run.tableVersion })
  expect(as).toEqual([
    {
      record: 1,
      cells: [
        ['T1', null],
        ['12', null],
        ['2026-03-02', null],
      ],
    },
    {
      record: 2,
      cells: [
        ['T2', null],
        [null, '35 cm'],
        ['2026-04-01', null],
      ],
    },
  ])
  const again = await keepRun(server, { gateId: gate.id, version: 1, tableId: table.id, binding: 1 })
  expect([run.counts!.caught, again.counts!.caught, again.tableVersion]).toEqual([[1, 1], [0, 2], 5])
})

describe('listing', () => {
  let table: Table
  beforeAll(async () => {
    table = await bringIn(
      server,
      'Listed',
      'Tree,Decay,Due,Ward\nT1,12,2026-03-02,North\nT2,35 cm,2026-04-01,south_east\nT3,,,North\nT4,40,2026-01-15,100%\nT5,7.5,2026-04-01,"a\\b"\n',
      ({ columns }) => (columns[1]!.type = 'number'),
    )
  })
  const id = (name: string) => table.columns.find((column) => column.name === name)!.id
  test.each<[string, () => Filter[], number[]]>([
    ['all', () => [], [1, 2, 3, 4, 5]],
    ['values', () => [{ kind: 'values', column: id('Ward'), values: ['North', '100%'] }], [1, 3, 4]],
    ['numbers by their texts', () => [{ kind: 'values', column: id('Decay'), values: ['7.5'] }], [5]],
    ['a range', () => [{ kind: 'range', column: id('Decay'), low: '7.5', high: '12' }], [1, 5]],
    ['an open range of dates', () => [{ kind: 'range', column: id('Due'), low: '2026-03-02', high: null }], [1, 2, 5]],
    ['text, in either case, signs as themselves', () => [{ kind: 'contains', column: id('Ward'), text: 'H_E' }], [2]],
    ['a percent sign', () => [{ kind: 'contains', column: id('Ward'), text: '%' }], [4]],
    ['a backslash', () => [{ kind: 'contains', column: id('Ward'), text: '\\' }], [5]],
    ['blanks', () => [{ kind: 'blank', column: id('Decay') }], [3]],
    ['unreadable', () => [{ kind: 'unreadable', column: id('Decay') }], [2]],
    ['found anywhere, as written', () => [{ kind: 'found', text: '35 C' }], [2]],
    [
      'several at once',
      () => [
        { kind: 'values', column: id('Ward'), values: ['North'] },
        { kind: 'range', column: id('Decay'), low: null, high: '100' },
      ],
      [1],
    ],
    ['text that means harm', () => [{ kind: 'values', column: id('Ward'), values: ["'; drop table run; --", "\\'"] }], []],
  ])('%s', async (_, filters, expected) => expect(await listed(table, { filters: filters() })).toEqual(expected))

  test('sorted by several columns, what cannot be read behind what can, blanks last', async () => {
    expect(await listed(table, { sorts: [{ column: id('Decay'), direction: 'falling' }] })).toEqual([4, 1, 5, 2, 3])
    expect(
      await listed(table, {
        sorts: [
          { column: id('Due'), direction: 'rising' },
          { column: id('Tree'), direction: 'falling' },
        ],
      }),
    ).toEqual([4, 1, 5, 2, 3])
  })

  test('ends that are no values of the column are refused', async () => {
    const response = await server.fetch(`/api/v1/tables/${table.id}/listings`, {
      method: 'POST',
      body: JSON.stringify({ filters: [{ kind: 'range', column: id('Decay'), low: 'low', high: null }], sorts: [] }),
    })
    expect(response.status).toBe(400)
  })
})

test('whoever looks hears of a change, wherever it was made; other sites hear nothing', async () => {
  const table = await fresh()
  const path = `${server.address.replace('http', 'ws')}/api/v1/moves`
  const line = new WebSocket(path)
  const heard: string[] = []
  line.on('message', (data: Buffer) => heard.push(data.toString()))
  const until = async (text: string) => {
    while (!heard.includes(text)) await new Promise((resolve) => setTimeout(resolve, 10))
  }
  await until('null')
  await change(table, set(1, table.columns[1], '13', ['12', null]))
  await until(`{"table":${table.id},"version":2}`)
  line.close()
  const strange = new WebSocket(path, { origin: 'http://elsewhere.example' })
  const [refused] = (await once(strange, 'error')) as [Error]
  expect(refused.message).toMatch(/403/)
})
