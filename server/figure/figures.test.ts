import type { ChangeAnswer, ChangeRequest, Listing } from '@dime-gate/contract/change'
import type { Gate } from '@dime-gate/contract/gate'
import type { Cell, Column, SetOfColumns, Table, TableRecord } from '@dime-gate/contract/table'
import type { Run } from '@dime-gate/contract/run'
import { columnFromTable } from '@dime-gate/contract/column-wire'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { valueTextAt } from '@dime-gate/core/table/table'
import { band } from '@dime-gate/core/testing/a-gate'
import { tableFromIPC } from 'apache-arrow'
import { rowsOf } from '../database/database'
import { bringIn } from '../testing/bring-in'
import { keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

const TEXT = `Trainee,Started,Module 1,Module 2,Module 3
Yarlo,2018-03-12,5,5,4
Tesdry,2026-03-02,2.5,,4
Orla,,,,
Ilona,2024-02-29,0.1,0.2,ill
`
const reading = { decimalMark: 'point', dateOrder: 'day' } as const
const MODULES = { name: 'Modules', by: { kind: 'names', like: 'Module *' } } as const

let server: TemporaryServer
let number = 0
beforeAll(async () => {
  server = await temporaryServer()
  await server.ask('PUT', '/workspace', { asOf: '2026-03-02' })
})
afterAll(() => server.close())

async function fresh(text = TEXT): Promise<Table> {
  const table = await bringIn(server, `Course ${++number}`, text, ({ columns }) => {
    columns[0]!.isIdentity = true
    for (const column of columns.slice(2)) column.type = 'number'
    columns[1]!.type = 'date'
  })
  return (await change(table, { kind: 'column sets', sets: [MODULES] })).table
}

async function change(table: Pick<Table, 'id'>, request: ChangeRequest): Promise<ChangeAnswer> {
  const { status, body } = await server.ask('POST', `/tables/${table.id}/changes`, request)
  expect([status, body]).toEqual([200, body])
  return body
}
const refused = (table: Pick<Table, 'id'>, request: ChangeRequest) => server.ask('POST', `/tables/${table.id}/changes`, request)
const figure = async (table: Pick<Table, 'id'>, name: string, feel: string, unit = '') =>
  (await change(table, { kind: 'add figure', name, unit, feel })).table
const columnNamed = (table: Table, name: string): Column => table.columns.find((one) => one.name === name)!
const now = async ({ id }: Pick<Table, 'id'>): Promise<Table> => (await server.ask('GET', `/tables/${id}`)).body

async function listed({ id }: Pick<Table, 'id'>, { filters = [], sorts = [] }: Partial<Listing> = {}): Promise<number[]> {
  const response = await server.fetch(`/api/v1/tables/${id}/listings`, { method: 'POST', body: JSON.stringify({ filters, sorts }) })
  expect(response.status).toBe(200)
  return [...new Int32Array(await response.arrayBuffer())]
}

/** What a figure comes to, by record. */
async function valuesOf(table: Pick<Table, 'id'>, name: string, more: object = {}): Promise<(string | null)[]> {
  const { columns } = await now(table)
  const at = columns.findIndex((column) => column.name === name)
  const { body } = await server.ask('POST', `/tables/${table.id}/records`, { records: await listed(table), ...more })
  return (body as TableRecord[]).map(({ cells }) => cells[at]![0])
}

const set = (record: number, column: Column, text: string, seen: Cell): ChangeRequest => ({
  kind: 'values',
  reading,
  cells: [{ record, column: column.id, text, seen }],
})

describe('a figure', () => {
  test('is a column: listed, filtered, sorted, counted, drawn at its head and taken out', async () => {
    const table = await fresh()
    const { columns } = await figure(table, 'Mean', 'mean(Modules)', 'of 5')
    const mean = columns.at(-1)!
    expect(mean).toMatchObject({ name: 'Mean', unit: 'of 5', type: 'number', feel: 'mean(Modules)', unreadable: 0 })
    expect(await valuesOf(table, 'Mean')).toEqual(['4.666666666666666666666666666666667', '3.25', null, '0.15'])
    expect(columnNamed(await now(table), 'Mean').blank).toBe(1)
    expect(await listed(table, { sorts: [{ column: mean.id, direction: 'rising' }] })).toEqual([4, 2, 1, 3])
    expect(await listed(table, { filters: [{ kind: 'range', column: mean.id, low: '3', high: null }] })).toEqual([1, 2])
    expect(await listed(table, { filters: [{ kind: 'blank', column: mean.id }] })).toEqual([3])
    expect((await server.ask('GET', `/tables/${table.id}/profile`)).body[mean.id]).toMatchObject({ spread: { kind: 'bins', from: '0.15' } })
    expect(await (await server.fetch(`/api/v1/tables/${table.id}/file.csv`)).text()).toContain('Tesdry,2026-03-02,2.5,,4,3.25')
    expect(await (await server.fetch(`/api/v1/tables/${table.id}/file.jsonl`)).text()).toContain('"Mean":3.25')
  })

  test('of every kind, and of figures', async () => {
    const table = await fresh()
    await figure(table, 'Days', '(today() - Started).days', 'days')
    await figure(table, 'Long', 'Days > 365')
    await figure(table, 'Word', 'if Long then "long" else "new"')
    expect((await figure(table, 'Year on', 'Started + @"P1Y"')).columns.map(({ type }) => type)).toEqual([
      'text',
      'date',
      'number',
      'number',
      'number',
      'number',
      'boolean',
      'text',
      'date',
    ])
    expect(await valuesOf(table, 'Days')).toEqual(['2912', '0', null, '732'])
    expect(await valuesOf(table, 'Long')).toEqual(['true', 'false', null, 'true'])
    expect(await valuesOf(table, 'Word')).toEqual(['long', 'new', 'new', 'long'])
    expect(await valuesOf(table, 'Year on')).toEqual(['2019-03-12', '2027-03-02', null, '2025-02-28'])
  })

  test('follows what is corrected, at once and with the answer', async () => {
    const table = await fresh()
    const { columns } = await figure(table, 'Mean', 'mean(Modules)')
    await valuesOf(table, 'Mean')
    const { records, table: after } = await change(table, set(3, columns[2]!, '4.5', [null, null]))
    expect(records.map(({ record, cells }) => [record, cells.at(-1)])).toEqual([[3, ['4.5', null]]])
    expect([after.columns.at(-1)!.blank, after.figures]).toEqual([0, expect.any(Number)])
    const { body } = await server.ask('POST', `/tables/${table.id}/changes/${after.version}/undoing`, {})
    expect((body as ChangeAnswer).records[0]!.cells.at(-1)).toEqual([null, null])
    const added = await change(table, { kind: 'add records', reading, rows: [[{ column: columns[2]!.id, text: '1' }]] })
    expect(added.records[0]!.cells.at(-1)).toEqual(['1', null])
    await change(table, { kind: 'remove records', records: [1] })
    expect(await valuesOf(table, 'Mean')).toEqual(['3.25', null, '0.15', '1'])
  })

  test('recomputed as it changed is what is computed anew, whatever is changed', async () => {
    const table = await fresh()
    await figure(table, 'Mean', 'mean(Modules)')
    await figure(table, 'Off', 'Module 1 - Mean')
    const { columns } = await now(table)
    await valuesOf(table, 'Off')
    const texts = ['1', '2.75', '', 'late', '5']
    for (let step = 0; step < 24; step++) {
      const record = 1 + ((step * 7) % 4)
      const column = columns[2 + ((step * 5) % 3)]!
      const [{ cells }] = (await server.ask('POST', `/tables/${table.id}/records`, { records: [record] })).body as unknown as [TableRecord]
      await change(table, set(record, column, texts[step % texts.length]!, cells[columns.indexOf(column)]!))
    }
    const changed = [await valuesOf(table, 'Mean'), await valuesOf(table, 'Off')]
    await server.database.query('delete from figure_state')
    expect([await valuesOf(table, 'Mean'), await valuesOf(table, 'Off')]).toEqual(changed)
  })

  test('cannot be typed into, filled or given with a new record', async () => {
    const table = await fresh()
    const mean = (await figure(table, 'Mean', 'mean(Modules)')).columns.at(-1)!
    for (const request of [
      set(1, mean, '5', ['1', null]),
      { kind: 'fill', reading, column: mean.id, text: '1', filters: [], records: null },
      { kind: 'add records', reading, rows: [[{ column: mean.id, text: '1' }]] },
    ] as ChangeRequest[])
      expect(await refused(table, request)).toMatchObject({
        status: 422,
        body: { code: 'computed', message: expect.stringContaining('“Mean” is computed') as string },
      })
  })

  test.each<[string, string, RegExp]>([
    ['an unknown name', 'mean(Modles)', /Nothing is named “Modles” here. Did you mean “Modules”/],
    ['a duration', 'today() - Started', /\.days/],
    ['itself', 'Mean + 1', /needs itself/],
    ['nonsense', '1 +', /Something is missing at the end/],
  ])('of %s is refused, and says why', async (_, feel, words) => {
    const table = await fresh()
    const answer = await refused(table, { kind: 'add figure', name: 'Mean', unit: '', feel })
    expect(answer).toMatchObject({ status: 422, body: { code: 'not-a-figure', message: expect.stringMatching(words) as string } })
    expect((await now(table)).columns.length).toBe(5)
  })

  test('is changed, renamed and removed, each taken back; rings are refused by their names', async () => {
    const table = await fresh()
    await figure(table, 'Mean', 'mean(Modules)')
    const { columns } = await figure(table, 'Twice', '2 * Mean')
    const [mean, twice] = columns.slice(-2) as [Column, Column]
    const renamed = await change(table, { kind: 'change figure', column: mean.id, name: 'Average', unit: '', feel: 'mean(Modules) + 1' })
    expect(columnNamed(renamed.table, 'Twice').feel).toBe('2 * Average')
    expect(await valuesOf(table, 'Twice')).toEqual(['11.33333333333333333333333333333333', '8.5', null, '2.3'])
    expect(await refused(table, { kind: 'change figure', column: mean.id, name: 'Average', unit: '', feel: 'Twice / 2' })).toMatchObject({
      status: 422,
      body: { message: expect.stringContaining('“Average” needs “Twice” needs “Average”') as string },
    })
    expect(await refused(table, { kind: 'remove column', column: mean.id })).toMatchObject({
      status: 409,
      body: { message: expect.stringContaining('the figure “Twice”') as string },
    })
    await server.ask('POST', `/tables/${table.id}/changes/${renamed.change!.version}/undoing`, {})
    expect((await now(table)).columns.slice(-2).map(({ name, feel }) => [name, feel])).toEqual([
      ['Mean', 'mean(Modules)'],
      ['Twice', '2 * Mean'],
    ])
    const removed = await change(table, { kind: 'remove column', column: twice.id })
    expect((await now(table)).columns.length).toBe(6)
    await server.ask('POST', `/tables/${table.id}/changes/${removed.change!.version}/undoing`, {})
    expect(await valuesOf(table, 'Twice')).toEqual(['9.333333333333333333333333333333334', '6.5', null, '0.3'])
  })

  test('a column that it names is renamed along, and not removed, or made of another kind, from under it', async () => {
    const table = await fresh()
    const { columns } = await figure(table, 'Growth', 'Module 2 - Module 1')
    const first = columnNamed({ ...table, columns }, 'Module 1')
    const { table: after } = await change(table, { kind: 'change column', reading, column: first.id, settings: { name: 'First' } })
    expect(columnNamed(after, 'Growth').feel).toBe('Module 2 - First')
    expect(await refused(table, { kind: 'remove column', column: first.id })).toMatchObject({ status: 409, body: { code: 'stood-on' } })
    expect(await refused(table, { kind: 'change column', reading, column: first.id, settings: { type: 'text' } })).toMatchObject({
      status: 422,
      body: { code: 'not-a-figure' },
    })
    expect(await refused(table, { kind: 'add column', name: 'Modules', unit: '', type: 'text', fullMarks: null })).toMatchObject({
      status: 409,
      body: { code: 'name-taken' },
    })
  })

  test('stays what it is when a file goes into its table that has it too', async () => {
    const table = await fresh()
    await figure(table, 'Mean', 'mean(Modules)')
    const { body: file } = await server.ask('POST', '/files?name=more.csv', 'Trainee,Module 1,Mean\nYarlo,1,77\nNew,3,78\n')
    const { id } = file as { id: string }
    const { body: look } = await server.ask('POST', `/files/${id}/looks`, {})
    const { body } = await server.ask('POST', `/tables/${table.id}/merges`, {
      file: id,
      settings: (look as { settings: object }).settings,
      isReplacing: false,
      isTrial: false,
    })
    expect(body).toMatchObject({ plan: { added: 1, changed: 1, newColumns: [] } })
    expect(await valuesOf(table, 'Mean')).toEqual(['3.333333333333333333333333333333333', '3.25', null, '0.15', '3'])
  })

  test('is copied with its table', async () => {
    const table = await fresh()
    const chosen: SetOfColumns = { name: 'Two', by: { kind: 'columns', columns: [table.columns[2]!.id, table.columns[3]!.id] } }
    await change(table, { kind: 'column sets', sets: [MODULES, chosen] })
    await figure(table, 'Both', 'sum(Two)')
    const copy = (await server.ask('POST', `/tables/${table.id}/copies`, {})).body as Table
    expect(await valuesOf(copy, 'Both')).toEqual(['10', '2.5', null, '0.3'])
    expect(copy.sets[1]!.by).toEqual({ kind: 'columns', columns: [copy.columns[2]!.id, copy.columns[3]!.id] })
  })
})

describe('a column set', () => {
  test('takes in a column that comes later, and every figure follows', async () => {
    const table = await fresh()
    await figure(table, 'Mean', 'mean(Modules)')
    await figure(table, 'Held', 'mean(all Modules)')
    const { table: more } = await change(table, { kind: 'add column', name: 'Module 4', unit: '', type: 'number', fullMarks: null })
    const { id } = columnNamed(more, 'Module 4')
    await change(table, { kind: 'fill', reading, column: id, text: '1', filters: [], records: [1] })
    expect(await valuesOf(table, 'Mean')).toEqual(['3.75', '3.25', null, '0.15'])
    expect(await valuesOf(table, 'Held')).toEqual(['3.75', null, null, null])
  })

  test('is renamed along, and does not go from under a figure', async () => {
    const table = await fresh()
    await figure(table, 'Mean', 'mean(Modules) - 0 * count(all Modules)')
    const { table: renamed, change: made } = await change(table, { kind: 'column sets', sets: [{ ...MODULES, name: 'Marks' }] })
    expect(columnNamed(renamed, 'Mean').feel).toBe('mean(Marks) - 0 * count(all Marks)')
    expect(await refused(table, { kind: 'column sets', sets: [] })).toMatchObject({ status: 422, body: { code: 'not-a-figure' } })
    expect(await refused(table, { kind: 'column sets', sets: [MODULES, { ...MODULES, name: 'Trainee' }] })).toMatchObject({
      status: 409,
      body: { code: 'name-taken' },
    })
    await server.ask('POST', `/tables/${table.id}/changes/${made!.version}/undoing`, {})
    expect((await now(table)).sets).toEqual([MODULES])
    expect(columnNamed(await now(table), 'Mean').feel).toBe('mean(Modules) - 0 * count(all Modules)')
  })
})

describe('a gate on a column set', () => {
  const draft = (name: string) => {
    const scale = plainScale(
      name,
      { ...givenNumber('Mean', ''), source: { kind: 'figure', feel: 'mean(Marks)' } },
      [{ at: '3', owner: 'above' }],
      ['low', 'high'].map(band),
    )
    return { ...scale, inputs: [{ ...givenNumber('Marks', ''), isSet: true }, ...scale.inputs] }
  }
  const onSet = async (table: Table, inputs: object) =>
    server.ask('POST', '/gates', { draft: draft(`${table.name} award ${++number}`), binding: { tableId: table.id, inputs } })

  test('takes in a column that joins the set, and its runs keep who was in it', async () => {
    const table = await fresh()
    const { status, body } = await onSet(table, { Marks: { set: 'Modules' } })
    expect([status, body]).toEqual([201, body])
    const { id } = body as Gate
    await server.ask('POST', `/gates/${id}/versions`, { seen: 1 })
    const before = await keepRun(server, { gateId: id, version: 1, tableId: table.id, binding: 1 })
    expect([before.labels.map(({ records }) => records), before.binding]).toEqual([
      [1, 2],
      { Marks: { columns: table.columns.slice(2).map((column) => column.id) } },
    ])
    const { table: more } = await change(table, { kind: 'add column', name: 'Module 4', unit: '', type: 'number', fullMarks: null })
    const added = columnNamed(more, 'Module 4').id
    await change(table, { kind: 'fill', reading, column: added, text: '0', filters: [], records: null })
    const after = await keepRun(server, { gateId: id, version: 1, tableId: table.id, binding: 1 })
    expect([after.labels.map(({ records }) => records), after.seen.includes(added)]).toEqual([[3, 1], true])
    expect(((await server.ask('GET', `/runs/${before.id}`)).body as Run).binding).toEqual(before.binding)
  })

  test('is renamed along with the set, which does not go from under it', async () => {
    const table = await fresh()
    const { id } = (await onSet(table, { Marks: { set: 'Modules' } })).body as Gate
    await change(table, { kind: 'column sets', sets: [{ ...MODULES, name: 'Assessments' }] })
    expect((await server.ask('GET', `/gates/${id}/bindings/${table.id}`)).body).toMatchObject({
      version: 2,
      inputs: { Marks: { set: 'Assessments' } },
    })
    expect(await refused(table, { kind: 'column sets', sets: [] })).toMatchObject({ status: 409, body: { code: 'stood-on' } })
  })

  test.each<[string, object, string]>([
    ['a set that is not there', { Marks: { set: 'Drills' } }, 'no-such-column'],
    ['a set for one column', { Marks: { set: 'Modules' }, Mean: { set: 'Modules' } }, 'wrong-type'],
  ])('%s is refused', async (_, inputs, code) => {
    expect(await onSet(await fresh(), inputs)).toMatchObject({ status: 422, body: { code } })
  })
})

describe('the day that counts', () => {
  test('moves figures that hang on it, everywhere, and on a page by itself', async () => {
    const table = await fresh()
    await figure(table, 'Days', '(today() - Started).days')
    expect(await valuesOf(table, 'Days')).toEqual(['2912', '0', null, '732'])
    expect(await valuesOf(table, 'Days', { asOf: '2026-03-12' })).toEqual(['2922', '10', null, '742'])
    const id = columnNamed(await now(table), 'Days').id
    const column = async (path: string) => {
      const { column: found } = columnFromTable(
        await tableFromIPC(await server.fetch(`/api/v1/tables/${table.id}/columns/${id}${path}`)),
        'number',
      )
      return [0, 1, 2, 3].map((at) => valueTextAt(found, at))
    }
    expect([await column(''), await column('?as-of=2026-03-12')]).toEqual([
      ['2912', '0', null, '732'],
      ['2922', '10', null, '742'],
    ])
    expect((await server.fetch(`/api/v1/tables/${table.id}/columns/${id}?as-of=soon`)).status).toBe(400)
    await server.ask('PUT', '/workspace', { asOf: '2026-03-03' })
    expect(await valuesOf(table, 'Days')).toEqual(['2913', '1', null, '733'])
    await server.ask('PUT', '/workspace', { asOf: '2026-03-02' })
  })
})

describe('a gate on a figure', () => {
  const gateOn = async (table: Table, name: string): Promise<Gate> => {
    const draft = plainScale(`${table.name} by ${name}`, givenNumber(name, ''), [{ at: '3', owner: 'above' }], ['low', 'high'].map(band))
    const { status, body } = await server.ask('POST', '/gates', {
      draft,
      binding: { tableId: table.id, inputs: { [name]: { column: columnNamed(table, name).id } } },
    })
    expect([status, body]).toEqual([201, body])
    await server.ask('POST', `/gates/${(body as Gate).id}/versions`, { seen: 1 })
    return body
  }

  test('is run on what the figure comes to, on the day of the run, and the run keeps that', async () => {
    const table = await fresh()
    await figure(table, 'Mean', 'mean(Modules)')
    const { columns } = await figure(table, 'Years', 'years and months duration(Started, today()).years')
    const full = { ...table, columns }
    const [byMean, byYears] = [await gateOn(full, 'Mean'), await gateOn(full, 'Years')]
    const run = await keepRun(server, { gateId: byMean.id, version: 1, tableId: table.id, binding: 1 })
    expect(run.labels.map(({ label, records }) => [label, records])).toEqual([
      ['low', 1],
      ['high', 2],
    ])
    const later = await keepRun(server, { gateId: byYears.id, version: 1, tableId: table.id, binding: 1, asOf: '2030-01-01' })
    expect(later.labels.map(({ label, records }) => [label, records])).toEqual([
      ['low', 0],
      ['high', 3],
    ])

    // Whatever becomes of the figure, and of what it comes from.
    await change(table, { kind: 'change figure', column: columnNamed(full, 'Mean').id, name: 'Most', unit: '', feel: 'max(Modules)' })
    await change(table, set(1, columns[2]!, '1', ['5', null]))
    const again = (await server.ask('GET', `/runs/${run.id}`)).body as Run
    expect(again.columns.filter(({ feel }) => feel !== null)).toMatchObject([{ name: 'Mean', feel: 'mean(Modules)' }])
    const { body } = await server.ask('POST', `/tables/${table.id}/records`, { records: [1, 2], run: run.id })
    expect((body as TableRecord[]).map(({ cells }) => cells.at(-1)![0])).toEqual(['4.666666666666666666666666666666667', '3.25'])
    const labelled = await (await server.fetch(`/api/v1/runs/${run.id}/labelled.csv`)).text()
    expect(labelled).toContain('Yarlo,2018-03-12,5,5,4,4.666666666666666666666666666666667,high')
    expect(await (await server.fetch(`/api/v1/runs/${run.id}/labelled.jsonl`)).text()).toContain('"Mean":3.25')
    expect((await server.ask('GET', `/runs/${run.id}`)).status).toBe(200)
    expect(await refused(table, { kind: 'remove column', column: columnNamed(full, 'Mean').id })).toMatchObject({ status: 409 })
  })
})

test('generations that nobody reads any more go away', async () => {
  const table = await fresh()
  await figure(table, 'Mean', 'mean(Modules)')
  for (let round = 0; round < 4; round++) {
    await server.database.query('delete from figure_state where table_id = $1 and $2 = 0', [table.id, round])
    await server.ask('PUT', '/workspace', { asOf: '2026-03-02' })
    const { id } = columnNamed(await now(table), 'Mean')
    await change(table, { kind: 'change figure', column: id, name: 'Mean', unit: '', feel: `mean(Modules) + ${round}` })
    await valuesOf(table, 'Mean')
  }
  const left = await rowsOf<{ name: string }>(server.database, 'select relname as name from pg_class where relname ~ $1', [
    `^g${table.id}_\\d+$`,
  ])
  expect(left.length).toBeLessThanOrEqual(2)
})
