import type { ChangeAnswer, ChangeRequest, Listing } from '@dime-gate/contract/change'
import type { Drawn, Take } from '@dime-gate/contract/drawn'
import type { Run } from '@dime-gate/contract/run'
import type { Cell, Column, Table, TableRecord } from '@dime-gate/contract/table'
import { Decimal } from '@dime-gate/core/value/number'
import fc from 'fast-check'
import { rowsOf } from '../database/database'
import { bringIn } from '../testing/bring-in'
import { gateOn } from '../testing/gate-on'
import { keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

const reading = { decimalMark: 'point', dateOrder: 'day' } as const
const TREES = 'Tree no,Ward,Height,Planted\nT 1,North,10,2001-05-04\nT 2,North,20.5,2001-12-31\nT 3,South,,2002-01-01\nT 4,,5,\n'
const REPORTS = 'Report,Tree,Severity,Reported\nR1,T 1,3,2026-01-02\nR2,T 1,1,2026-02-03\nR3,T 2,,2026-01-09\nR4,T 9,5,2026-03-01\nR5,,2,2026-03-01\n'

let server: TemporaryServer
let number = 0
beforeAll(async () => {
  server = await temporaryServer()
  await server.ask('PUT', '/workspace', { asOf: '2026-03-02' })
})
afterAll(() => server.close())

async function change(table: Pick<Table, 'id'>, request: ChangeRequest): Promise<ChangeAnswer> {
  const { status, body } = await server.ask('POST', `/tables/${table.id}/changes`, request)
  expect([status, body]).toEqual([200, body])
  return body
}
const asked = (table: Pick<Table, 'id'>, request: ChangeRequest) => server.ask('POST', `/tables/${table.id}/changes`, request) as Promise<{ status: number; body: { code: string; message: string } }>
const now = async ({ id }: Pick<Table, 'id'>): Promise<Table> => (await server.ask('GET', `/tables/${id}`)).body
const idOf = (table: Table, name: string): number => table.columns.find((one) => one.name === name)!.id

async function listed({ id }: Pick<Table, 'id'>, { filters = [], sorts = [] }: Partial<Listing> = {}): Promise<number[]> {
  const response = await server.fetch(`/api/v1/tables/${id}/listings`, { method: 'POST', body: JSON.stringify({ filters, sorts }) })
  expect(response.status).toBe(200)
  return [...new Int32Array(await response.arrayBuffer())]
}

async function cellsOf(table: Pick<Table, 'id'>, ...names: string[]): Promise<(string | null)[][]> {
  const records = await listed(table)
  const { columns } = await now(table)
  const { body } = await server.ask('POST', `/tables/${table.id}/records`, { records })
  const places = names.map((name) => columns.findIndex((column) => column.name === name))
  return (body as TableRecord[]).map(({ cells }) => places.map((at) => cells[at]![0]))
}
const valuesOf = async (table: Pick<Table, 'id'>, name: string) => (await cellsOf(table, name)).map(([value]) => value)

const add = async (table: Pick<Table, 'id'>, name: string, drawn: Drawn) => (await change(table, { kind: 'add drawn', name, unit: '', drawn })).table
const set = async (table: Table, record: number, name: string, text: string, seen: Cell) =>
  change(table, { kind: 'values', reading, cells: [{ record, column: idOf(table, name), text, seen }] })

async function treesAndReports(): Promise<{ trees: Table; reports: Table }> {
  const n = ++number
  const trees = await bringIn(server, `Trees ${n}`, TREES, ({ columns }) => (columns[0]!.isIdentity = true))
  const reports = await bringIn(server, `Reports ${n}`, REPORTS)
  return { trees, reports }
}
type RelatedMore = { take: Take; of?: string; where?: string; none?: 'nothing' | 'blank' }
const related = (trees: Table, reports: Table, { take, of, where, none = 'nothing' }: RelatedMore): Drawn => ({
  kind: 'related',
  table: reports.id,
  keys: [{ own: idOf(trees, 'Tree no'), theirs: idOf(reports, 'Tree'), part: 'whole' }],
  take,
  of: of === undefined ? null : idOf(reports, of),
  where: where ?? null,
  none,
})

describe('a related figure', () => {
  test.each<[string, RelatedMore, (string | null)[]]>([
    ['counts', { take: 'count' }, ['2', '1', '0', '0']],
    ['counts what meets a condition', { take: 'count', where: 'Severity >= 2 and Reported < today()' }, ['1', '0', '0', '0']],
    ['is blank where nothing is found, if it says so', { take: 'count', none: 'blank' }, ['2', '1', null, null]],
    ['totals; of blanks alone there is no total', { take: 'sum', of: 'Severity' }, ['4', null, '0', '0']],
    ['takes a mean', { take: 'mean', of: 'Severity', none: 'blank' }, ['2', null, null, null]],
    ['takes a median', { take: 'median', of: 'Severity', none: 'blank' }, ['2', null, null, null]],
    ['takes the latest of dates', { take: 'max', of: 'Reported' }, ['2026-02-03', '2026-01-09', null, null]],
    ['takes the share that meets a condition', { take: 'share', where: 'Severity >= 3', none: 'blank' }, ['50', '0', null, null]],
    ['looks up the only one', { take: 'value', of: 'Report' }, [null, 'R3', null, null]],
  ])('%s', async (_, more, expected) => {
    const { trees, reports } = await treesAndReports()
    await add(trees, 'Found', related(trees, reports, more))
    expect(await valuesOf(trees, 'Found')).toEqual(expected)
  })

  test('follows what is corrected, added and removed there, and here', async () => {
    const { trees, reports } = await treesAndReports()
    await add(trees, 'Reports', related(trees, reports, { take: 'count' }))
    await change(trees, { kind: 'add figure', name: 'Twice', unit: '', feel: 'Reports * 2' })
    expect((await now(trees)).standsOn).toEqual([reports.id])
    expect(await cellsOf(trees, 'Reports', 'Twice')).toEqual([['2', '4'], ['1', '2'], ['0', '0'], ['0', '0']])
    await set(reports, 4, 'Tree', 'T 3', ['T 9', null])
    expect(await valuesOf(trees, 'Twice')).toEqual(['4', '2', '2', '0'])
    const answer = await set(trees, 4, 'Tree no', 'T 1', ['T 4', null])
    expect(answer.table.figures).not.toBeNull()
    expect(await valuesOf(trees, 'Twice')).toEqual(['4', '2', '2', '4'])
    await change(reports, { kind: 'remove records', records: [1, 2] })
    expect(await valuesOf(trees, 'Twice')).toEqual(['0', '2', '2', '0'])
  })

  test('two tables can be drawn from one another, as long as no column needs itself', async () => {
    const { trees, reports } = await treesAndReports()
    await add(trees, 'Reports', related(trees, reports, { take: 'count' }))
    const withWard = await add(reports, 'Ward', { kind: 'related', table: trees.id, keys: [{ own: idOf(reports, 'Tree'), theirs: idOf(trees, 'Tree no'), part: 'whole' }], take: 'value', of: idOf(trees, 'Ward'), where: null, none: 'blank' })
    expect(await valuesOf(reports, 'Ward')).toEqual(['North', 'North', 'North', null, null])
    const known = await add(trees, 'From the north', related(trees, await now(reports), { take: 'count', where: 'Ward = "North"' }))
    expect(await cellsOf(trees, 'Reports', 'From the north')).toEqual([['2', '2'], ['1', '1'], ['0', '0'], ['0', '0']])
    const ring = await asked(reports, {
      kind: 'change drawn', column: idOf(withWard, 'Ward'), name: 'Ward', unit: '',
      drawn: { kind: 'related', table: trees.id, keys: [{ own: idOf(reports, 'Tree'), theirs: idOf(trees, 'Tree no'), part: 'whole' }], take: 'value', of: idOf(known, 'From the north'), where: null, none: 'blank' },
    })
    expect([ring.status, ring.body.code, ring.body.message]).toEqual([422, 'not-a-figure', expect.stringMatching(/ring: “Ward” of Reports \d+ needs “From the north” of Trees \d+ needs “Ward”/)])
  })

  test('a name that becomes another carries through its condition; what is needed cannot be removed, nor its table', async () => {
    const { trees, reports } = await treesAndReports()
    await add(trees, 'Grave', related(trees, reports, { take: 'count', where: 'Severity >= 2' }))
    const severity = idOf(reports, 'Severity')
    await change(reports, { kind: 'change column', reading, column: severity, settings: { name: 'How bad' } })
    expect(await valuesOf(trees, 'Grave')).toEqual(['1', '0', '0', '0'])
    expect((await now(trees)).columns.at(-1)!.drawn).toMatchObject({ where: 'How bad >= 2' })
    for (const column of [severity, idOf(reports, 'Tree')]) expect(await asked(reports, { kind: 'remove column', column })).toMatchObject({ status: 409, body: { message: expect.stringContaining(`Grave (${trees.name})`) } })
    expect(await server.ask('DELETE', `/tables/${reports.id}`)).toMatchObject({ status: 409, body: { message: expect.stringContaining(`“Grave” of “${trees.name}”`) } })
    expect(await asked(trees, { kind: 'remove column', column: idOf(trees, 'Tree no') })).toMatchObject({ status: 409 })
  })

  test('what cannot be is refused, with what to do', async () => {
    const { trees, reports } = await treesAndReports()
    const whyNot = async (drawn: Drawn) => (await asked(trees, { kind: 'add drawn', name: 'No', unit: '', drawn })).body.message
    const plain = related(trees, reports, { take: 'count' }) as Drawn & { kind: 'related' }
    expect(await whyNot(related(trees, reports, { take: 'sum' }))).toContain('of which column')
    expect(await whyNot(related(trees, reports, { take: 'mean', of: 'Report' }))).toContain('a mean is of numbers')
    expect(await whyNot(related(trees, reports, { take: 'share' }))).toContain('what a record has to be')
    expect(await whyNot(related(trees, reports, { take: 'count', where: 'Severty > 2' }))).toContain('Severity')
    expect(await whyNot(related(trees, reports, { take: 'count', where: 'Severity' }))).toContain('true or false')
    expect(await whyNot({ ...plain, keys: [{ ...plain.keys[0]!, theirs: idOf(reports, 'Severity') }] })).toContain('never meet')
    expect(await whyNot({ ...plain, table: 999_999 })).toContain('is gone')
  })

  test('is taken back like any change', async () => {
    const { trees, reports } = await treesAndReports()
    const made = await add(trees, 'Found', related(trees, reports, { take: 'count' }))
    await change(trees, { kind: 'change drawn', column: made.columns.at(-1)!.id, name: 'Worst', unit: '', drawn: related(trees, reports, { take: 'max', of: 'Severity' }) })
    expect(await valuesOf(trees, 'Worst')).toEqual(['3', null, '0', '0'])
    await server.ask('POST', `/tables/${trees.id}/changes/${(await now(trees)).version}/undoing`, {})
    expect(await valuesOf(trees, 'Found')).toEqual(['2', '1', '0', '0'])
    await change(trees, { kind: 'remove column', column: made.columns.at(-1)!.id })
    await server.ask('POST', `/tables/${trees.id}/changes/${(await now(trees)).version}/undoing`, {})
    expect(await valuesOf(trees, 'Found')).toEqual(['2', '1', '0', '0'])
  })
})

test('while one chooses it is told what would come of it, and which keys meet nothing or several', async () => {
  const { trees, reports } = await treesAndReports()
  const preview = async (drawn: Drawn, record: number | null = null) => (await server.ask('POST', `/tables/${trees.id}/drawn-previews`, { drawn, column: null, record })).body as object
  expect(await preview(related(trees, reports, { take: 'count', where: 'Severity > 0' }), 1)).toEqual({
    type: 'number',
    computed: 4,
    blank: 0,
    value: '2',
    spread: { kind: 'bins', from: '0', to: '2', bins: [3, ...new Array<number>(22).fill(0), 1] },
    keys: { alone: { records: 2, values: ['T 3', 'T 4'] }, theirsAlone: { records: 1, values: ['T 9'] }, twice: { records: 0, values: [] }, theirsTwice: { records: 2, values: ['T 1'] } },
  })
  expect(await preview({ kind: 'rank', of: idOf(trees, 'Height'), within: null, first: 'highest' })).toMatchObject({ computed: 3, blank: 1, keys: null })
  expect(await preview(related(trees, reports, { take: 'count', where: 'Nowhere > 1' }))).toMatchObject({ code: 'not-a-figure' })
  expect((await now(trees)).columns).toHaveLength(4)
})

test('places and shares, among all and within a group, follow what is corrected', async () => {
  const { trees } = await treesAndReports()
  const [of, within] = [idOf(trees, 'Height'), idOf(trees, 'Ward')]
  await add(trees, 'Place', { kind: 'rank', of, within: null, first: 'highest' })
  await add(trees, 'Place in ward', { kind: 'rank', of, within, first: 'lowest' })
  await add(trees, 'Share', { kind: 'part', of, within })
  expect(await cellsOf(trees, 'Place', 'Place in ward', 'Share')).toEqual([
    ['2', '1', '32.7868852459016393442622950819672131'], ['1', '2', '67.2131147540983606557377049180327869'], [null, null, null], ['3', '1', '100'],
  ].map((row) => row.map((value) => (value === null || !value.includes('.') ? value : new Decimal(value).toSignificantDigits(34).toFixed()))))
  await set(trees, 3, 'Height', '20.5', [null, null])
  expect(await valuesOf(trees, 'Place')).toEqual(['3', '1', '1', '4'])
})

describe('a label as a column', () => {
  test('holds what a gate gives, from its latest version or its draft, and is used by figures, gates and exports', async () => {
    const { trees } = await treesAndReports()
    const gate = await gateOn(server, trees, 'Height', ['15'], ['low', 'tall'])
    await add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
    await add(trees, 'Size drafted', { kind: 'label', gate: gate.id, from: 'draft', outcome: 0 })
    const table = (await change(trees, { kind: 'add figure', name: 'Tall', unit: '', feel: 'Size = "tall"' })).table
    expect(await cellsOf(trees, 'Size', 'Size drafted', 'Tall')).toEqual([['low', 'low', 'false'], ['tall', 'tall', 'true'], [null, null, 'false'], ['low', 'low', 'false']])
    const { body: before } = await server.ask('GET', `/gates/${gate.id}`)
    const { draft, draftVersion } = before as { draft: object; draftVersion: number }
    const renamed: unknown = JSON.parse(JSON.stringify(draft).replaceAll('"tall"', '"high"'))
    expect((await server.ask('PUT', `/gates/${gate.id}/draft`, { draft: renamed, seen: draftVersion })).status).toBe(200)
    expect(await cellsOf(trees, 'Size', 'Size drafted')).toEqual([['low', 'low'], ['tall', 'high'], [null, null], ['low', 'low']])
    expect(await listed(trees, { filters: [{ kind: 'values', column: idOf(table, 'Size'), values: ['tall'] }] })).toEqual([2])
    const answer = await set(trees, 1, 'Height', '16', ['10', null])
    expect(answer.records[0]!.cells.slice(-3).map(([value]) => value)).toEqual(['tall', 'high', 'true'])
    const csv = await (await server.fetch(`/api/v1/tables/${trees.id}/file.csv`)).text()
    expect(csv.split('\n')[1]!.trim()).toBe('T 1,North,16,2001-05-04,tall,high,true')
    expect(await server.ask('DELETE', `/gates/${gate.id}`)).toMatchObject({ status: 409 })
  })

  test('a ring by way of a gate is refused by naming it', async () => {
    const { trees } = await treesAndReports()
    const figured = (await change(trees, { kind: 'add figure', name: 'Double', unit: '', feel: 'Height * 2' })).table
    const gate = await gateOn(server, figured, 'Double', ['15'], ['low', 'tall'])
    const labelled = await add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
    const ring = await asked(trees, { kind: 'change figure', column: idOf(labelled, 'Double'), name: 'Double', unit: '', feel: 'if Size = "low" then 1 else 2' })
    expect([ring.status, ring.body.message]).toEqual([422, expect.stringMatching(/ring: “Double” of .* needs “Size” of .* needs “Double”/)])
  })

  test('a run keeps it as it was', async () => {
    const { trees } = await treesAndReports()
    const gate = await gateOn(server, trees, 'Height', ['15'], ['low', 'tall'])
    await add(trees, 'Place', { kind: 'rank', of: idOf(trees, 'Height'), within: null, first: 'highest' })
    const placed = await gateOn(server, await now(trees), 'Place', ['2'], ['first', 'rest'])
    const kept: Run = await keepRun(server, { gateId: placed.id, version: 1, tableId: trees.id, binding: 1 })
    await set(trees, 3, 'Height', '90', [null, null])
    const { body } = await server.ask('POST', `/tables/${trees.id}/records`, { records: [1, 2, 3, 4], run: kept.id })
    expect((body as TableRecord[]).map(({ cells }) => cells.at(-1)![0])).toEqual(['2', '1', null, '3'])
    expect(kept.counts).toMatchObject({ records: 4, caught: [1, 2], held: 1 })
    expect(gate.id).not.toBe(placed.id)
  })
})

describe('a roll-up', () => {
  const rollUp = async (trees: Table, by: { column: string; part?: 'year' | 'month' }[]) => {
    const { status, body } = await server.ask('POST', `/tables/${trees.id}/roll-ups`, {
      name: `Groups ${++number}`,
      by: by.map(({ column, part }) => ({ column: idOf(trees, column), part: part ?? 'whole' })),
      figures: [
        { name: 'Trees', unit: '', take: 'count', of: null, where: null },
        { name: 'Mean height', unit: 'm', take: 'mean', of: idOf(trees, 'Height'), where: null },
        { name: 'Over 8 m', unit: '%', take: 'share', of: null, where: 'Height > 8' },
      ],
    })
    expect([status, body]).toEqual([201, body])
    return body as Table
  }

  test('has a record for each group, blanks among them, and follows the table beneath', async () => {
    const { trees } = await treesAndReports()
    const wards = await rollUp(trees, [{ column: 'Ward' }])
    expect(wards).toMatchObject({ records: 3, standsOn: [trees.id], rollUp: { table: trees.id } })
    expect(await cellsOf(wards, 'Ward', 'Trees', 'Mean height', 'Over 8 m')).toEqual([['North', '2', '15.25', '100'], ['South', '1', null, '0'], [null, '1', '5', '0']])
    await set(trees, 3, 'Ward', 'West', ['South', null])
    await set(trees, 4, 'Ward', 'North', [null, null])
    expect(await cellsOf(wards, 'Ward', 'Trees')).toEqual([['North', '3'], ['West', '1']])
    expect(await now(wards)).toMatchObject({ records: 2 })
  })

  test('goes by the year of a date, by several columns, and by what is computed', async () => {
    const { trees } = await treesAndReports()
    expect(await cellsOf(await rollUp(trees, [{ column: 'Planted', part: 'year' }]), 'Planted, year', 'Trees')).toEqual([['2001', '2'], ['2002', '1'], [null, '1']])
    expect(await cellsOf(await rollUp(trees, [{ column: 'Ward' }, { column: 'Planted', part: 'month' }]), 'Ward', 'Planted, month', 'Trees')).toEqual([['North', '2001-05', '1'], ['North', '2001-12', '1'], ['South', '2002-01', '1'], [null, null, '1']])
    const gate = await gateOn(server, trees, 'Height', ['15'], ['low', 'tall'])
    const labelled = await add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
    const sizes = await rollUp(labelled, [{ column: 'Size' }])
    expect(await cellsOf(sizes, 'Size', 'Trees', 'Mean height')).toEqual([['low', '2', '7.5'], ['tall', '1', '20.5'], [null, '1', null]])
    await set(trees, 1, 'Height', '50', ['10', null])
    expect(await cellsOf(sizes, 'Size', 'Trees')).toEqual([['low', '1'], ['tall', '2'], [null, '1']])
  })

  test('is a table: it has figures, gates and runs of its own; its groups are not typed', async () => {
    const { trees } = await treesAndReports()
    const wards = await rollUp(trees, [{ column: 'Ward' }])
    const table = (await change(wards, { kind: 'add figure', name: 'Half', unit: '', feel: 'Trees / 2' })).table
    const gate = await gateOn(server, table, 'Half', ['1'], ['few', 'many'])
    const run = await keepRun(server, { gateId: gate.id, version: 1, tableId: wards.id, binding: 1 })
    expect(run.counts).toMatchObject({ records: 3, caught: [2, 1] })
    for (const request of [
      { kind: 'remove records', records: [1] },
      { kind: 'values', reading, cells: [{ record: 1, column: idOf(table, 'Ward'), text: 'x', seen: ['North', null] }] },
      { kind: 'add records', reading, rows: [[]] },
    ] satisfies ChangeRequest[]) expect((await asked(wards, request)).body.code).toBe('computed')
    expect(await asked(trees, { kind: 'remove column', column: idOf(trees, 'Ward') })).toMatchObject({ status: 409 })
  })
})

test('an indicator has a calculation of its own in each row', async () => {
  const { trees, reports } = await treesAndReports()
  const office = await bringIn(server, `Office ${++number}`, 'Indicator,Target\nTrees,5\nGrave reports,10\nMean severity,2\n')
  const look = { places: null, unit: '' }
  const calculations = [
    { record: 1, table: trees.id, take: 'count' as const, of: null, where: null, ...look },
    { record: 2, table: reports.id, take: 'share' as const, of: null, where: 'Severity >= 3', ...look },
    { record: 3, table: reports.id, take: 'mean' as const, of: idOf(reports, 'Severity'), where: null, ...look },
  ]
  await add(office, 'Value', { kind: 'own', calculations })
  await change(office, { kind: 'add figure', name: 'Off', unit: '', feel: 'Value - Target' })
  expect(await cellsOf(office, 'Value', 'Off')).toEqual([['4', '-1'], ['40', '30'], ['2.75', '0.75']])
  await change(reports, { kind: 'remove records', records: [4] })
  expect(await valuesOf(office, 'Value')).toEqual(['4', '25', '2'])
})

describe('against SQL written by hand', () => {
  const numbers = fc.oneof({ weight: 4, arbitrary: fc.integer({ min: -999, max: 999 }).map((n) => String(n / 100)) }, { weight: 1, arbitrary: fc.constant('') })
  const key = fc.constantFrom('a', 'b', 'c', 'A', '')
  const rows = (most: number) => fc.array(fc.tuple(key, numbers), { minLength: 1, maxLength: most })

  test('related figures, roll-ups, places and shares of random tables with blanks, to the last digit', async () => {
    await fc.assert(
      fc.asyncProperty(rows(12), rows(30), async (ours, theirs) => {
        const text = (all: [string, string][]) => `Who,Key,Value\n${all.map((row, at) => [`w${at}`, ...row].join(',')).join('\n')}\n`
        const typed = ({ columns }: { columns: { type: Column['type'] }[] }) => {
          columns[1]!.type = 'text'
          columns[2]!.type = 'number'
        }
        const [one, other] = [await bringIn(server, `One ${++number}`, text(ours), typed), await bringIn(server, `Other ${number}`, text(theirs), typed)]
        const takes: Take[] = ['count', 'sum', 'mean', 'median', 'min', 'max', 'share']
        const of = idOf(other, 'Value')
        const keys = [{ own: idOf(one, 'Key'), theirs: idOf(other, 'Key'), part: 'whole' as const }]
        for (const take of takes) await add(one, take, { kind: 'related', table: other.id, keys, take, of: take === 'count' || take === 'share' ? null : of, where: take === 'share' ? 'Value > 0' : null, none: 'blank' })
        await add(one, 'place', { kind: 'rank', of: idOf(one, 'Value'), within: idOf(one, 'Key'), first: 'highest' })
        const [t, o] = [(id: number) => `c${id}`, (name: string) => `c${idOf(other, name)}`]
        const v = o('Value')
        const byHand = await rowsOf<{ all: (string | null)[] }>(
          server.database,
          `
          select array[count(o.record)::text, sum(o.${v})::text, (sum(o.${v}) * 1.${'0'.repeat(60)} / nullif(count(o.${v}), 0))::text,
            ((array_agg(o.${v} order by o.${v}) filter (where o.${v} is not null))[(count(o.${v}) + 1) / 2] + (array_agg(o.${v} order by o.${v}) filter (where o.${v} is not null))[count(o.${v}) / 2 + 1])::text,
            min(o.${v})::text, max(o.${v})::text, (count(*) filter (where o.${v} > 0) * 100.${'0'.repeat(60)} / nullif(count(o.record), 0))::text,
            (select count(*) + 1 from records.t${one.id} h where h.${t(idOf(one, 'Key'))} is not distinct from m.${t(idOf(one, 'Key'))} and h.${t(idOf(one, 'Value'))} > m.${t(idOf(one, 'Value'))})::text, m.${t(idOf(one, 'Value'))}::text] as all
          from records.t${one.id} m left join records.t${other.id} o on o.${o('Key')} = m.${t(idOf(one, 'Key'))} group by m.record, m.${t(idOf(one, 'Key'))}, m.${t(idOf(one, 'Value'))} order by m.record`,
        )
        const plain = (value: string | null, by = 1) => (value === null ? null : new Decimal(value).dividedBy(by).toSignificantDigits(34).toFixed())
        const expected = byHand.map(({ all: [count, sum, mean, middle, min, max, share, place, own] }) => [
          count === '0' ? null : count!, plain(sum!), plain(mean!), plain(middle!, 2), plain(min!), plain(max!), count === '0' ? null : plain(share!), own === null ? null : place!,
        ])
        const found = (await cellsOf(one, ...takes, 'place')).map((row) => row.map((value) => plain(value)))
        expect(found).toEqual(expected)
        const { body: groups } = await server.ask('POST', `/tables/${other.id}/roll-ups`, { name: `By key ${++number}`, by: [{ column: idOf(other, 'Key'), part: 'whole' }], figures: [{ name: 'n', unit: '', take: 'count', of: null, where: null }, { name: 's', unit: '', take: 'sum', of, where: null }] })
        const rolled = await rowsOf<{ key: string | null; n: string; s: string | null }>(server.database, `select ${o('Key')} as key, count(*)::text as n, sum(${v})::text as s from records.t${other.id} group by 1`)
        const order = (all: (string | null)[][]) => all.map((row) => JSON.stringify(row)).sort()
        expect(order(await cellsOf(groups as Table, 'Key', 'n', 's'))).toEqual(order(rolled.map(({ key: k, n, s }) => [k, n, plain(s)])))
      }),
      { numRuns: 8 },
    )
  }, 180_000)
})

test('what is computed of a change alone is what computing everything anew comes to', async () => {
  const trees = await bringIn(server, `Kept trees ${++number}`, `Tree no,Ward,Height\n${Array.from({ length: 8 }, (_, at) => `T ${at},${'NSW'[at % 3]!},${at}`).join('\n')}\n`, ({ columns }) => (columns[0]!.isIdentity = true))
  const reports = await bringIn(server, `Kept reports ${number}`, `Report,Tree,Severity\n${Array.from({ length: 12 }, (_, at) => `R${at},T ${(at * 5) % 9},${at % 4}`).join('\n')}\n`)
  const gate = await gateOn(server, trees, 'Height', ['3'], ['low', 'tall'])
  const keys = [{ own: idOf(trees, 'Tree no'), theirs: idOf(reports, 'Tree'), part: 'whole' as const }]
  await add(trees, 'Severe', { kind: 'related', table: reports.id, keys, take: 'sum', of: idOf(reports, 'Severity'), where: 'Severity > 1', none: 'nothing' })
  await add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
  const table = (await change(trees, { kind: 'add figure', name: 'Score', unit: '', feel: 'if Size = "tall" then Severe + Height else Severe' })).table
  await add(reports, 'Of a tall tree', { kind: 'related', table: trees.id, keys: [{ own: idOf(reports, 'Tree'), theirs: idOf(trees, 'Tree no'), part: 'whole' }], take: 'value', of: idOf(table, 'Size'), where: null, none: 'blank' })
  const wards = (await server.ask('POST', `/tables/${trees.id}/roll-ups`, { name: `Kept wards ${number}`, by: [{ column: idOf(trees, 'Ward'), part: 'whole' }], figures: [{ name: 'Score', unit: '', take: 'sum', of: idOf(table, 'Score'), where: null }] })).body as Table
  const all = async () => [await cellsOf(trees, 'Severe', 'Size', 'Score'), await cellsOf(reports, 'Of a tall tree'), (await cellsOf(wards, 'Ward', 'Score')).map((row) => JSON.stringify(row)).sort()]
  const edits = fc.oneof(
    fc.record({ of: fc.constant('trees' as const), record: fc.integer({ min: 1, max: 8 }), column: fc.constantFrom('Tree no', 'Ward', 'Height'), text: fc.constantFrom('T 1', 'T 2', 'N', 'S', 'E', '', '2', '9', 'x') }),
    fc.record({ of: fc.constant('reports' as const), record: fc.integer({ min: 1, max: 12 }), column: fc.constantFrom('Tree', 'Severity'), text: fc.constantFrom('T 1', 'T 8', '', '3', '0') }),
  )
  await fc.assert(
    fc.asyncProperty(fc.array(edits, { minLength: 1, maxLength: 4 }), async (some) => {
      for (const { of, record, column, text } of some) {
        const on = of === 'trees' ? trees : reports
        const { body } = await server.ask('POST', `/tables/${on.id}/records`, { records: [record] })
        await set(on, record, column, text, (body as TableRecord[])[0]!.cells[on.columns.findIndex(({ name }) => name === column)]!)
      }
      const kept = await all()
      await server.database.query('delete from figure_state')
      expect(await all()).toEqual(kept)
    }),
    { numRuns: 12 },
  )
}, 120_000)

test('a copy is drawn as its first is, from its own columns; labels are values there, since the gate is not bound to it', async () => {
  const { trees, reports } = await treesAndReports()
  const gate = await gateOn(server, trees, 'Height', ['15'], ['low', 'tall'])
  await add(trees, 'Reports', related(trees, reports, { take: 'count' }))
  await add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
  await add(trees, 'Place', { kind: 'rank', of: idOf(trees, 'Height'), within: null, first: 'highest' })
  await change(trees, { kind: 'add figure', name: 'Word', unit: '', feel: 'if Size = "tall" then "!" else "." ' })
  const { status, body } = await server.ask('POST', `/tables/${trees.id}/copies`)
  expect(status).toBe(201)
  const copy = body as Table
  expect(await cellsOf(copy, 'Reports', 'Size', 'Place', 'Word')).toEqual([['2', 'low', '2', '.'], ['1', 'tall', '1', '!'], ['0', null, null, '.'], ['0', 'low', '3', '.']])
  expect(copy.columns.map(({ drawn }) => drawn?.kind ?? null)).toEqual([null, null, null, null, 'related', null, 'rank', null])
  await set(copy, 3, 'Height', '90', [null, null])
  expect(await valuesOf(copy, 'Place')).toEqual(['3', '2', '1', '4'])
  expect(await valuesOf(trees, 'Place')).toEqual(['2', '1', null, '3'])
  const { body: wards } = await server.ask('POST', `/tables/${trees.id}/roll-ups`, { name: `Copied ${++number}`, by: [{ column: idOf(trees, 'Ward'), part: 'whole' }], figures: [{ name: 'n', unit: '', take: 'count', of: null, where: null }] })
  const { body: again } = await server.ask('POST', `/tables/${(wards as Table).id}/copies`)
  expect(await cellsOf(again as Table, 'Ward', 'n')).toEqual([['North', '2'], ['South', '1'], [null, '1']])
})

test('what the database cannot make is blank, and the rest of the table goes on', async () => {
  const { trees, reports } = await treesAndReports()
  await add(trees, 'Reports', related(trees, reports, { take: 'sum', of: 'Severity' }))
  await change(trees, { kind: 'add figure', name: 'Twice', unit: '', feel: '2 * Height' })
  // As no way in would leave it: a table from elsewhere, in which the values are texts by now.
  await server.database.query(`alter table records.t${reports.id} alter column c${idOf(reports, 'Severity')} type text`)
  await server.database.query('delete from figure_state')
  expect(await cellsOf(trees, 'Reports', 'Twice')).toEqual([[null, '20'], [null, '41'], [null, null], [null, '10']])
})

test('a record of a table with columns drawn from elsewhere tells its history, and stands as it stood in every version', async () => {
  const { trees, reports } = await treesAndReports()
  await add(trees, 'Reports', related(trees, reports, { take: 'count' }))
  await set(trees, 1, 'Height', '11', ['10', null])
  const { status, body } = await server.ask('GET', `/tables/${trees.id}/records/1/history`)
  expect([status, JSON.stringify(body).includes('"11"')]).toEqual([200, true])
  expect((await server.ask('POST', `/tables/${trees.id}/records`, { records: [1], version: 1 })).status).toBe(200)
})
