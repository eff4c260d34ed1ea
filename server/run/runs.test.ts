import { band } from '@dime-gate/core/testing/a-gate'
import { tableFromIPC } from 'apache-arrow'
import { columnFromTable, decisionsFromTable } from '@dime-gate/contract/column-wire'
import type { Gate as StoredGate } from '@dime-gate/contract/gate'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { valueTextAt } from '@dime-gate/core/table/table'
import { bringIn } from '../testing/bring-in'
import { rowOf } from '../database/database'
import { ended, keepRun } from '../testing/keep-run'
import { tellStopped } from './runs'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
let table: Table
beforeAll(async () => {
  server = await temporaryServer()
  table = await bringIn(server, 'Climbs', CLIMBS)
})
afterAll(() => server.close())

const CLIMBS = ['Who,Points (p),Note', 'Ilo,12.50,"said ""up"""', 'Tes,70,', 'Oru,n/a,x', 'Wen,,y', 'Kes,69.999999999999999999,z', 'Dal,100.5,"a,b"', 'Fen,20,', 'Sul,30,', 'Yar,40,', 'Pel,50,', 'Bra,60,'].join('\r\n') + '\r\n'

function scale(name: string): ScaleGate {
  return {
    ...plainScale(name, givenNumber('Points', 'p'), [{ at: '20', owner: 'below' }, { at: '70', owner: 'above' }], [band('ground'), band('climb'), band('crown, high')]),
    ceiling: { at: '100', included: true },
  }
}

/** These are scales, all of them. */
type Gate = StoredGate & { draft: ScaleGate }

const points = () => ({ Points: { column: table.columns[1]!.id } })

async function newGate(name: string): Promise<Gate> {
  return (await server.ask('POST', '/gates', { draft: scale(name), binding: { tableId: table.id, inputs: points() } })).body
}

describe('a draft', () => {
  test('moves its version with every change, and refuses one that saw an older draft', async () => {
    const gate = await newGate('Draft')
    const change = { draft: { ...gate.draft, cuts: [{ at: '21', owner: 'below' }, gate.draft.cuts[1]] }, seen: gate.draftVersion }
    const first = await server.ask('PUT', `/gates/${gate.id}/draft`, change)
    expect(first).toMatchObject({ status: 200, body: { draftVersion: gate.draftVersion + 1 } })
    const second = await server.ask('PUT', `/gates/${gate.id}/draft`, { ...change, draft: gate.draft })
    expect(second).toMatchObject({ status: 409, body: { code: 'stale' } })
    expect((await server.ask('GET', `/gates/${gate.id}`)).body).toMatchObject({ draft: { cuts: [{ at: '21' }, { at: '70' }] } })
  })

  test('must be able to decide: bands, cuts and ends are checked', async () => {
    const gate = await newGate('Checked')
    const put = (draft: object) => server.ask('PUT', `/gates/${gate.id}/draft`, { draft: { ...gate.draft, ...draft }, seen: 1 })
    expect(await put({ cuts: [] })).toMatchObject({ status: 422, body: { code: 'cannot-decide', message: expect.stringContaining('one band more') } })
    expect((await put({ cuts: gate.draft.cuts.toReversed() })).status).toBe(422)
    expect((await put({ ceiling: { at: '70', included: false } })).status).toBe(422)
    expect((await put({ cuts: [{ at: 'x', owner: 'below' }, gate.draft.cuts[1]] })).status).toBe(422)
    expect((await put({ cuts: [{ at: '20' }, gate.draft.cuts[1]] })).status).toBe(400)
  })

  test('has a name of its own', async () => {
    await newGate('Taken')
    expect(await server.ask('POST', '/gates', { draft: scale('taken'), binding: null })).toMatchObject({ status: 409, body: { code: 'name-taken' } })
  })
})

describe('a binding', () => {
  const put = (gate: Gate, tableId: number, inputs: object, seen: number) => server.ask('PUT', `/gates/${gate.id}/bindings/${tableId}`, { inputs, seen })

  test('needs a column of the kind that is asked for, which its table has; a refused one leaves no gate behind', async () => {
    const gate = (column: number) => server.ask('POST', '/gates', { draft: scale('Unbound'), binding: { tableId: table.id, inputs: { Points: { column } } } })
    expect(await gate(table.columns[0]!.id)).toMatchObject({ status: 422, body: { code: 'wrong-type' } })
    expect(await gate(999_999)).toMatchObject({ status: 422, body: { code: 'no-such-column' } })
    expect((await server.ask('GET', '/desk')).body).not.toMatchObject({ gates: expect.arrayContaining([expect.objectContaining({ name: 'Unbound' })]) })
  })

  test('one gate stands on many tables, each with columns of its own', async () => {
    const gate = await newGate('Many tables')
    const other = await bringIn(server, 'Other climbs', 'Height,Marks\n3,50\n4,80\n')
    expect(await put(gate, other.id, { Points: { column: other.columns[1]!.id } }, 0)).toMatchObject({ status: 200, body: { version: 1, tableName: 'Other climbs' } })
    expect((await server.ask('GET', `/gates/${gate.id}/bindings`)).body).toMatchObject([{ tableId: other.id }, { tableId: table.id, inputs: points() }])
    expect((await server.ask('GET', `/gates/${gate.id}/bindings/${table.id}`)).body).toMatchObject({ version: 1, inputs: points() })
    expect((await server.ask('GET', '/desk')).body).toMatchObject({ gates: expect.arrayContaining([expect.objectContaining({ name: 'Many tables', tables: [{ id: other.id, name: 'Other climbs' }, { id: table.id, name: 'Climbs' }] })]) })
  })

  test('refuses a change that saw an older one', async () => {
    const gate = await newGate('Bound twice')
    expect(await put(gate, table.id, points(), 0)).toMatchObject({ status: 409, body: { code: 'stale' } })
    expect(await put(gate, table.id, points(), 1)).toMatchObject({ status: 200, body: { version: 2 } })
    expect(await put(gate, 999_999, points(), 0)).toMatchObject({ status: 404 })
  })
})

describe('a version', () => {
  test('is numbered, and not set twice for one draft', async () => {
    const gate = await newGate('Versioned')
    expect((await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })).body).toMatchObject({ latestVersion: 1 })
    expect(await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })).toMatchObject({ status: 409, body: { code: 'nothing-new' } })
    expect(await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 7 })).toMatchObject({ status: 409, body: { code: 'stale' } })
  })
})

describe('a run', () => {
  let run: Run
  beforeAll(async () => {
    await server.ask('PUT', '/workspace', { asOf: '2026-03-02' })
    const gate = await newGate('Course award')
    await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
    run = await keepRun(server, { gateId: gate.id, version: 1, tableId: table.id, binding: 1 })
    // What happens to the draft later is nothing to the run.
    await server.ask('PUT', `/gates/${gate.id}/draft`, { draft: { ...gate.draft, name: 'Renamed' }, seen: 1 })
    await server.ask('PUT', '/workspace', { asOf: '2027-01-01' })
  })

  test('keeps what it was made of', async () => {
    expect((await server.ask('GET', `/runs/${run.id}`)).body).toMatchObject({ number: 1, gateName: 'Course award', gateVersion: 1, tableVersion: 1, asOf: '2026-03-02', counts: run.counts, binding: points() })
  })

  test('is of the day on which it is kept, where whatever day it is counts as today', async () => {
    const { gateId, binding, tableId } = { gateId: run.gateId, binding: 1, tableId: run.tableId }
    const { day } = (await rowOf<{ day: string }>(server.database, 'select current_date::text as day'))!
    expect((await server.ask('PUT', '/workspace', { asOf: 'today' })).body).toEqual({ asOf: day, isToday: true })
    expect((await server.ask('GET', '/desk')).body).toMatchObject({ asOf: day, isToday: true })
    const kept = await keepRun(server, { gateId, version: 1, tableId, binding })
    expect(kept).toMatchObject({ asOf: day, isAsOfAsked: false })
    expect((await server.ask('PUT', '/workspace', { asOf: '2027-01-01' })).body).toEqual({ asOf: '2027-01-01', isToday: false })
    expect(await keepRun(server, { gateId, version: 1, tableId, binding, asOf: '2024-02-29' })).toMatchObject({ asOf: '2024-02-29', isAsOfAsked: true })
    expect((await server.ask('GET', `/runs/${kept.id}`)).body).toMatchObject({ asOf: day })
    expect((await server.ask('PUT', '/workspace', { asOf: 'tomorrow' })).status).toBe(400)
  })

  test('counts every record once', () => {
    expect(run.counts).toEqual({
      records: 11, caught: [2, 5, 1], otherwise: 0, unplaced: 1, held: 2, contested: 0, alone: [2, 5, 1], exceptions: 5, unreadable: 1, outside: 0, onEdge: 2, nearEdge: 0,
      inputs: [{ input: 'Points', blank: 1, unreadable: 1, outside: 0 }],
      edges: [{ of: 'Points', at: '20', on: 1, short: 0, past: 0 }, { of: 'Points', at: '70', on: 1, short: 0, past: 0 }],
    })
    expect(run.labels.map(({ label, records }) => [label, records])).toEqual([['ground', 2], ['climb', 5], ['crown, high', 1]])
  })

  test('keeps status, rule and what was looked at of every record', async () => {
    const batch = decisionsFromTable(await tableFromIPC(await server.fetch(`/api/v1/runs/${run.id}/records`)))
    expect([...batch.rule]).toEqual([0, 2, -1, -1, 1, -1, 0, 1, 1, 1, 1])
    expect([...batch.status]).toEqual([0, 0, 2, 2, 0, 1, 0, 0, 0, 0, 0])
    expect(run.seen).toEqual([table.columns[1]!.id])
    const { column } = columnFromTable(await tableFromIPC(await server.fetch(`/api/v1/runs/${run.id}/columns/${run.seen[0]}`)), 'number')
    expect([[...column.unreadable], valueTextAt(column, 4), valueTextAt(column, 5)]).toEqual([[[2, 'n/a']], '69.999999999999999999', '100.5'])
    expect(await server.ask('GET', `/runs/${run.id}/columns/${table.columns.at(-1)!.id + 1}`)).toMatchObject({ status: 404 })
  })

  test('comes out as CSV with every value as it was written', async () => {
    const response = await server.fetch(`/api/v1/runs/${run.id}/labelled.csv`)
    expect(response.headers.get('content-disposition')).toContain('Climbs, Course award run 1.csv')
    expect(await response.text()).toBe([
      'Who,Points (p),Note,Course award,Course award status,Course award limits',
      'Ilo,12.50,"said ""up""",ground,labelled,<= 20',
      'Tes,70,,"crown, high",labelled,[70..100]',
      'Oru,n/a,x,,held,', 'Wen,,y,,held,',
      'Kes,69.999999999999999999,z,climb,labelled,(20..70)',
      'Dal,100.5,"a,b",,unplaced,',
      'Fen,20,,ground,labelled,<= 20',
      ...['Sul,30', 'Yar,40', 'Pel,50', 'Bra,60'].map((start) => `${start},,climb,labelled,(20..70)`), '',
    ].join('\r\n'))
  })

  test('says in a column of its own which highlights a record meets, in every format; one that cannot be read points out nobody', async () => {
    const pointed = (name: string, condition: string) => ({ name, condition, colour: '#8e3424', mark: 'star', on: null, isException: false })
    const put = (seen: number, highlights: object[]) => server.ask('PUT', `/gates/${run.gateId}/highlights`, { seen, highlights })
    await put(0, [pointed('"near", really', 'Points from a cut <= 0.5'), pointed('held back', 'Status = "held"'), pointed('low', 'Points < 20.1'), pointed('gone', 'Lean > 3')])
    const lines = (await (await server.fetch(`/api/v1/runs/${run.id}/labelled.csv`)).text()).split('\r\n')
    expect(lines[0]).toContain('Course award limits,Course award highlights')
    expect(lines.slice(1, -1).map((line) => line.split(/,(?=[^,]*$)/).at(-1))).toEqual(['low', ' really"', 'held back', 'held back', ' really"', '', ' really; low"', '', '', '', ''])
    const rows = (await (await server.fetch(`/api/v1/runs/${run.id}/labelled.json`)).json()) as Record<string, unknown>[]
    expect(rows.map((row) => row['Course award highlights'] ?? null)).toEqual(['low', '"near", really', 'held back', 'held back', '"near", really', null, '"near", really; low', null, null, null, null])
    expect((await server.ask('GET', `/runs/${run.id}/highlighted`)).body).toEqual([3, 2, 2, 0])
    await put(1, [])
  })

  test('highlights look at columns that the gate does not, as they were when the run was made', async () => {
    const pointed = (name: string, condition: string) => ({ name, condition, colour: '#8e3424', mark: 'star', on: 'Note', isException: false })
    const put = (seen: number, highlights: object[]) => server.ask('PUT', `/gates/${run.gateId}/highlights`, { seen, highlights })
    await put(2, [pointed('noted', 'Note != null and Points > 15'), pointed('by name', 'Who in ("Ilo", "Fen")')])
    const counts = async () => (await server.ask('GET', `/runs/${run.id}/highlighted`)).body
    expect(await counts()).toEqual([2, 2])
    const who = table.columns[0]!.id
    const { body: changed } = await server.ask('POST', `/tables/${table.id}/changes`, { kind: 'fill', reading: { decimalMark: 'point', dateOrder: 'year' }, column: who, text: 'Nobody', filters: [], records: [1] })
    expect(await counts()).toEqual([2, 2])
    const rows = (await (await server.fetch(`/api/v1/runs/${run.id}/labelled.json`)).json()) as Record<string, unknown>[]
    expect(rows.flatMap((row) => (row['Course award highlights'] === undefined || row['Course award highlights'] === null ? [] : [[row.Who, row['Course award highlights']]]))).toEqual([['Ilo', 'by name'], ['Kes', 'noted'], ['Dal', 'noted'], ['Fen', 'by name']])
    const { column } = columnFromTable(await tableFromIPC(await server.fetch(`/api/v1/runs/${run.id}/columns/${who}`)), 'text')
    expect([0, 1, 10].map((at) => valueTextAt(column, at))).toEqual(['Ilo', 'Tes', 'Bra'])
    expect(changed).toBeDefined()
    await put(3, [])
  })

  const keep = (gateId: number, request: object) => server.ask('POST', '/runs', { gateId, version: 1, tableId: table.id, binding: 1, ...request })

  test('can be given a name, and lose it again; all else stays', async () => {
    expect((await server.ask('PATCH', `/runs/${run.id}`, { name: ' Spring ' })).body).toEqual({ ...run, name: 'Spring' })
    expect((await server.ask('PATCH', `/runs/${run.id}`, { name: '' })).status).toBe(400)
    expect((await server.ask('PATCH', `/runs/${run.id}`, { name: null })).body).toEqual(run)
    expect(await server.ask('PATCH', '/runs/999999', { name: 'x' })).toMatchObject({ status: 404 })
  })

  test('of a version that was never set, or on a table that the gate is not bound to, is refused', async () => {
    expect(await keep(run.gateId, { version: 9 })).toMatchObject({ status: 404 })
    const other = await bringIn(server, 'Unbound table', 'Points\n1\n')
    expect(await keep(run.gateId, { tableId: other.id })).toMatchObject({ status: 404, body: { code: 'not-found' } })
  })

  test('says its own day where one is asked for', async () => {
    expect((await keep(run.gateId, { asOf: '2025-12-31' })).body).toMatchObject({ asOf: '2025-12-31' })
    expect((await keep(run.gateId, { asOf: 'yesterday' })).status).toBe(400)
  })

  test('is of the binding that was seen: one that moved since is refused, and what was kept before stays as it was', async () => {
    const twice = await bringIn(server, 'Twice', 'Points,Marks\n10,80\n75,10\n')
    const [first, second] = twice.columns.map(({ id }) => ({ Points: { column: id } }))
    const gate: Gate = (await server.ask('POST', '/gates', { draft: scale('Rebound'), binding: { tableId: twice.id, inputs: first } })).body
    await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
    const on = (binding: number) => server.ask('POST', '/runs', { gateId: gate.id, version: 1, tableId: twice.id, binding })
    const before = await ended(server, ((await on(1)).body as Run).id)
    await server.ask('PUT', `/gates/${gate.id}/bindings/${twice.id}`, { inputs: second, seen: 1 })
    expect(await on(1)).toMatchObject({ status: 409, body: { code: 'stale' } })
    const after = await ended(server, ((await on(2)).body as Run).id)
    const bands = async ({ id }: Run) => [...decisionsFromTable(await tableFromIPC(await server.fetch(`/api/v1/runs/${id}/records`))).rule]
    expect([await bands(before), await bands(after)]).toEqual([[0, 2], [2, 0]])
    expect([(await server.ask('GET', `/runs/${before.id}`)).body, after]).toMatchObject([{ binding: first }, { binding: second }])
  })

  test('of a version that looks at something which no column stands for any more is refused', async () => {
    const gate = await newGate('Renamed input')
    await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
    const draft = { ...gate.draft, on: 'Marks', inputs: [{ ...gate.draft.inputs[0]!, name: 'Marks' }] }
    await server.ask('PUT', `/gates/${gate.id}/draft`, { draft, seen: 1 })
    await server.ask('PUT', `/gates/${gate.id}/bindings/${table.id}`, { inputs: { Marks: { column: table.columns[1]!.id } }, seen: 1 })
    expect(await server.ask('POST', '/runs', { gateId: gate.id, version: 1, tableId: table.id, binding: 2 })).toMatchObject({ status: 422, body: { code: 'not-bound' } })
  })

  test('twenty that are kept at once are numbered one after the other', async () => {
    const gate = await newGate('Twenty at once')
    await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
    const all = await Promise.all(Array.from({ length: 20 }, () => server.ask('POST', '/runs', { gateId: gate.id, version: 1, tableId: table.id, binding: 1 })))
    expect(all.map(({ status }) => status)).toEqual(all.map(() => 201))
    expect(all.map(({ body }) => (body as Run).number).toSorted((a, b) => a - b)).toEqual(all.map((_, at) => at + 1))
    for (const { body } of all) expect((await ended(server, (body as Run).id)).state).toBe('done')
  })

  test('of labels that are computed takes out what they came to; what a spreadsheet program would run is guarded', async () => {
    const own = await bringIn(server, 'Formulas', 'Points,Note\n10,=1+1\n80,-5\n=2,"two\rlines"\n', (settings) => (settings.columns[0]!.type = 'number'))
    const draft = scale('Computed')
    const bands = draft.bands.map((one, at) => ({ ...one, entries: [{ feel: `"=" + "label ${at}"` }] }))
    const gate: Gate = (await server.ask('POST', '/gates', { draft: { ...draft, bands }, binding: { tableId: own.id, inputs: { Points: { column: own.columns[0]!.id } } } })).body
    await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
    const { id } = await keepRun(server, { gateId: gate.id, version: 1, tableId: own.id, binding: 1 })
    expect(await (await server.fetch(`/api/v1/runs/${id}/labelled.csv`)).text()).toBe([
      'Points,Note,Computed,Computed status,Computed limits',
      `10,'=1+1,'=label 0,labelled,<= 20`, `80,-5,'=label 2,labelled,[70..100]`, `'=2,"two\rlines",,held,`, '',
    ].join('\r\n'))
  })

  test('numbers its gate\'s columns where the table already has their names', async () => {
    const own = await bringIn(server, 'Labelled before', 'Points,Award\n1,x\n2,y\n')
    const gate: Gate = (await server.ask('POST', '/gates', { draft: scale('Award'), binding: { tableId: own.id, inputs: { Points: { column: own.columns[0]!.id } } } })).body
    await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
    const { id } = await keepRun(server, { gateId: gate.id, version: 1, tableId: own.id, binding: 1 })
    const csv = await (await server.fetch(`/api/v1/runs/${id}/labelled.csv`)).text()
    expect(csv.split('\r\n')[0]).toBe('Points,Award,Award 2,Award status,Award limits')
  })
})

describe('a run under way', () => {
  // A thread that was ended has to begin anew, which takes seconds on a busy machine.
  jest.setTimeout(30_000)
  const MANY = 200_000
  let many: Table
  let gate: Gate
  const begin = async (): Promise<Run> => (await server.ask('POST', '/runs', { gateId: gate.id, version: 1, tableId: many.id, binding: 1 })).body
  /** Null where there is nothing of the run at all. */
  const recordsOf = async (id: number): Promise<number | null> => {
    const { rows } = await server.database.query<{ relation: string | null }>("select to_regclass('runs.r' || $1::text)::text as relation", [id])
    const [{ relation }] = rows as [{ relation: string | null }]
    return relation === null ? null : (await server.database.query<{ records: number }>(`select count(*)::int as records from ${relation}`)).rows[0]!.records
  }
  beforeAll(async () => {
    many = await bringIn(server, 'Many', `Points\n${Array.from({ length: MANY }, (_, at) => at % 100).join('\n')}\n`)
    gate = (await server.ask('POST', '/gates', { draft: scale('Long run'), binding: { tableId: many.id, inputs: { Points: { column: many.columns[0]!.id } } } })).body
    await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
  }, 60_000)

  test('answers at once, tells how far it is, and cannot be read before it is done', async () => {
    const run = await begin()
    expect(run).toMatchObject({ state: 'under way', records: MANY, progress: 0, counts: null })
    expect(await server.ask('GET', `/runs/${run.id}/labelled.csv`)).toMatchObject({ status: 409, body: { code: 'not-done' } })
    const seen = new Set<number | null>()
    for (let now = run; now.state === 'under way'; now = (await server.ask('GET', `/runs/${run.id}`)).body) seen.add(now.progress)
    expect(seen.size).toBeGreaterThan(1)
    expect(await ended(server, run.id)).toMatchObject({ state: 'done', progress: null, counts: { records: MANY, caught: [MANY * 0.21, MANY * 0.49, MANY * 0.3] } })
    expect(await recordsOf(run.id)).toBe(MANY)
  })

  test('is cancelled, waiting or not, and nothing of it stays', async () => {
    const [first, second] = [await begin(), await begin()]
    const isWaiting = async ({ id }: Run) => ((await server.ask('GET', `/runs/${id}`)).body as Run).isWaiting
    expect([await isWaiting(first), await isWaiting(second)]).toEqual([false, true])
    expect((await server.ask('DELETE', `/runs/${second.id}`)).status).toBe(200)
    expect((await server.ask('DELETE', `/runs/${first.id}`)).status).toBe(200)
    expect([(await server.ask('GET', `/runs/${first.id}`)).status, (await server.ask('GET', `/runs/${second.id}`)).status]).toEqual([404, 404])
    const third = await ended(server, (await begin()).id)
    expect(third.state).toBe('done')
    expect([await recordsOf(first.id), await recordsOf(second.id)]).toEqual([null, null])
  })

  test('is never told as stopped while it begins and ends, however closely it is looked at', async () => {
    const short = await bringIn(server, 'Short', 'Points\n1\n2\n')
    const on: Gate = (await server.ask('POST', '/gates', { draft: scale('Short run'), binding: { tableId: short.id, inputs: { Points: { column: short.columns[0]!.id } } } })).body
    await server.ask('POST', `/gates/${on.id}/versions`, { seen: 1 })
    let isOver = false
    const states = new Set<string>()
    const looks = Array.from({ length: 3 }, async () => {
      while (!isOver) for (const run of ((await server.ask('GET', '/desk')).body as { runs: Run[] }).runs) if (run.gateId === on.id) states.add(run.state)
    })
    for (let at = 0; at < 40; at++) states.add((await keepRun(server, { gateId: on.id, version: 1, tableId: short.id, binding: 1 })).state)
    isOver = true
    await Promise.all(looks)
    expect([...states].filter((state) => state === 'failed')).toEqual([])
  })

  test('that fails says why, and those after it go on', async () => {
    const broken = await bringIn(server, 'Broken', 'Points\n1\n')
    const on: Gate = (await server.ask('POST', '/gates', { draft: scale('Broken run'), binding: { tableId: broken.id, inputs: { Points: { column: broken.columns[0]!.id } } } })).body
    await server.ask('POST', `/gates/${on.id}/versions`, { seen: 1 })
    await server.database.query(`drop table records.t${broken.id}`)
    const failed = await keepRun(server, { gateId: on.id, version: 1, tableId: broken.id, binding: 1 })
    expect(failed).toMatchObject({ state: 'failed', counts: null, problem: expect.stringContaining(`records.t${broken.id}`) })
    expect(await ended(server, (await begin()).id)).toMatchObject({ state: 'done' })
  })

  test('that nobody is at any more is told as stopped, whole or absent', async () => {
    const run = await begin()
    await server.stopJobs()
    expect((await server.ask('GET', `/runs/${run.id}`)).body).toMatchObject({ state: 'failed', problem: expect.stringMatching(/server was stopped/) })
    await tellStopped(server.database)
    expect((await server.database.query('select state, counts from run where id = $1', [run.id])).rows).toEqual([{ state: 'failed', counts: null }])
    expect(await recordsOf(run.id)).toBeNull()
  })
})
