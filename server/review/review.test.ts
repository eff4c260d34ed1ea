import { type ActAsked, type Exception, type ExceptionDetail, type ExceptionFilter, LAPSED, NOBODY, type Review } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import type { Cell, Table, TableRecord } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { EXCEPTION_KINDS } from '@dime-gate/core/result/exception'
import { band } from '@dime-gate/core/testing/a-gate'
import { bringIn } from '../testing/bring-in'
import { ended, keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

const RECORDS = ['T1,10', 'T2,20', 'T3,19.5', 'T4,n/a', 'T5,', 'T6,400', 'T7,60', 'T8,', 'T9,20.0', 'T10,30']
const WARDS = ['Hill', 'Hill', 'Harbour', 'Hill', 'Hill', 'Harbour', 'Hill', 'Hill', 'Hill', 'Harbour']
const ANY: ExceptionFilter = { runs: null, people: null, kinds: null, states: null, text: null }

let server: TemporaryServer
let table: Table
let gateId: number
let run: Run

beforeAll(async () => {
  server = await temporaryServer()
})
afterAll(() => server.close())

/** A table, a gate on it and a run, of which no other test knows. */
let number = 0
beforeEach(async () => {
  number++
  table = await bringIn(server, `Trees ${number}`, ['Tree,Decay,Ward', ...RECORDS.map((line, at) => `${line},${WARDS[at]}`)].join('\n'), ({ columns }) => (columns[0]!.isIdentity = true))
  const scale = plainScale(`Band ${number}`, { ...givenNumber('Decay', '%'), tolerance: '1' }, [{ at: '20', owner: 'above' }], [band('sound'), band('weak')])
  gateId = ((await server.ask('POST', '/gates', { draft: { ...scale, ceiling: { at: '100', included: true } }, binding: { tableId: table.id, inputs: { Decay: { column: idOf('Decay') } } } })).body as { id: number }).id
  await server.ask('POST', `/gates/${gateId}/versions`, { seen: 1 })
  run = await ended(server, (await keepRun(server, { gateId, version: 1, tableId: table.id, binding: 1 })).id)
})

/** What T4 has, as it was written. */
const UNREADABLE: Cell = [null, 'n/a']
const decayOf = async (record: number) => ((await server.ask('POST', `/tables/${table.id}/records`, { records: [record] })).body as TableRecord[])[0]!.cells[1]
const idOf = (name: string) => table.columns.find((one) => one.name === name)!.id
/** Once all exceptions are found. */
async function review(): Promise<Review> {
  for (;;) {
    const found = (await server.ask('GET', '/review')).body as Review
    if (found.looking.length === 0) return found
  }
}
async function list(filter: Partial<ExceptionFilter> = {}, by: 'kind' | 'run' = 'kind'): Promise<Exception[]> {
  await review()
  const response = await server.fetch('/api/v1/review/listings', { method: 'POST', body: JSON.stringify({ filter: { ...ANY, runs: [run.id], ...filter }, by }) })
  const numbers = new Int32Array(await response.arrayBuffer())
  const of = Array.from({ length: numbers.length / 3 }, (_, at) => ({ runId: numbers[3 * at]!, record: numbers[3 * at + 1]! }))
  const found = (await server.ask('POST', '/review/exceptions', { of })).body as Exception[]
  expect(found.map(({ state, kind }) => (state === 'lapsed' ? LAPSED : EXCEPTION_KINDS.indexOf(kind)))).toEqual(of.map((_, at) => numbers[3 * at + 2]))
  return found
}
const told = async (filter: Partial<ExceptionFilter> = {}) => (await list(filter)).map(({ who, kind, state }) => `${who.join()} ${kind} ${state}`)
const detail = async (who: string) => {
  const { runId, record } = (await list()).find((one) => one.who[0] === who)!
  return (await server.ask('GET', `/review/runs/${runId}/records/${record}`)).body as ExceptionDetail
}
async function act(who: string, kind: ActAsked['kind'], more: Partial<ActAsked> = {}) {
  const { runId, record, mark } = await detail(who)
  return server.ask('POST', '/review/acts', { kind, of: { runId, record, mark: mark?.id ?? null }, isAlike: false, note: '', by: 'Ilo', outcomes: null, ...more })
}
const correct = (record: number, text: string, column = 'Decay') => server.ask('POST', `/tables/${table.id}/changes`, { kind: 'fill', reading: { decimalMark: 'point', dateOrder: 'year' }, column: idOf(column), text, filters: [], records: [record] })
async function again(): Promise<Run> {
  return (run = await ended(server, ((await server.ask('POST', `/runs/${run.id}/again`, { as: 'now' })).body as Run).id))
}
const FIRST = ['T4 unreadable open', 'T6 unplaced open', 'T5 held open', 'T8 held open', 'T2 on an edge open', 'T9 on an edge open', 'T3 near an edge open']

test('every exception is there, by kind and by record, each with its reasons and what it stands on', async () => {
  expect(await told()).toEqual(FIRST)
  const [unreadable, unplaced] = await list()
  expect(unreadable).toMatchObject({ reasons: [{ kind: 'unreadable', input: 'Decay', text: 'n/a' }], landing: { kind: 'held' }, basis: { landed: 'held', rule: null, values: { Decay: 'n/a' } }, mark: null })
  expect(unplaced).toMatchObject({ reasons: [{ kind: 'off the scale', end: 'ceiling' }], basis: { values: { Decay: '400' } } })
  const { counts } = await review()
  expect(counts.filter(({ runId }) => runId === run.id).reduce((sum, { records }) => sum + records, 0)).toBe(run.counts!.exceptions)
  expect(await told({ kinds: ['held'] })).toEqual(['T5 held open', 'T8 held open'])
  expect(await told({ text: 't9' })).toEqual(['T9 on an edge open'])
  expect(await told({ runs: [999] })).toEqual([])
})

test('one is settled with a note, stays so through later runs, and waits again once its value has changed', async () => {
  expect(await act('T3', 'settled', { note: 'measured twice' })).toMatchObject({ status: 201, body: { records: 1 } })
  expect(await detail('T3')).toMatchObject({ state: 'settled', mark: { note: 'measured twice', by: 'Ilo', kind: 'settled' } })
  await again()
  expect(await told({ states: ['settled'] })).toEqual(['T3 near an edge settled'])
  // Of another record: that is nothing to this one.
  await correct(1, '11')
  await again()
  expect(await told({ states: ['settled'] })).toEqual(['T3 near an edge settled'])
  await correct(3, '19.6')
  await again()
  expect((await told())[0]).toBe('T3 near an edge lapsed')
  expect(await detail('T3')).toMatchObject({ basis: { values: { Decay: '19.6' } }, mark: { basis: { values: { Decay: '19.5' } } } })
})

test('one lapses as the rule that it was made for changes, and not as another does', async () => {
  await act('T5', 'settled')
  await act('T3', 'settled')
  const gate = (await server.ask('GET', `/gates/${gateId}`)).body as { draft: { ceiling: object }; draftVersion: number }
  await server.ask('PUT', `/gates/${gateId}/draft`, { draft: { ...gate.draft, floor: { at: '5', included: true } }, seen: gate.draftVersion })
  await server.ask('POST', `/gates/${gateId}/versions`, { seen: gate.draftVersion + 1 })
  await again()
  // T3 lay in the band below 20, which has an end now; a blank has none.
  expect(await told({ states: ['lapsed', 'settled'] })).toEqual(['T3 near an edge lapsed', 'T5 held settled'])
})

test('a reason that comes makes it wait again; one that goes does not', async () => {
  await act('T2', 'settled')
  const pointed = (isException: boolean, seen: number) => server.ask('PUT', `/gates/${gateId}/highlights`, { seen, highlights: [{ name: 'Twenty', condition: 'Decay = 20', colour: '#8e3424', mark: 'star', on: null, isException }] })
  await pointed(true, 0)
  expect(await told({ kinds: ['on an edge'] })).toEqual(['T2 on an edge lapsed', 'T9 on an edge open'])
  await act('T2', 'settled', { note: 'both' })
  await pointed(false, 1)
  expect(await told({ kinds: ['on an edge'] })).toEqual(['T2 on an edge settled', 'T9 on an edge open'])
})

test('one that was pointed out by a column beside waits again once that has changed, and no other does; it goes with the highlight and takes nothing with it', async () => {
  const pointed = (highlights: string[], seen: number) => server.ask('PUT', `/gates/${gateId}/highlights`, { seen, highlights: highlights.map((condition) => ({ name: condition, condition, colour: '#8e3424', mark: 'star', on: null, isException: true })) })
  await pointed(['Ward = "Harbour" and Decay > 15'], 0)
  expect(await told({ kinds: ['highlighted'] })).toEqual(['T10 highlighted open'])
  expect(await detail('T3')).toMatchObject({ reasons: [{ kind: 'edge' }, { kind: 'highlighted', name: 'Ward = "Harbour" and Decay > 15' }] })
  for (const who of ['T3', 'T10', 'T2']) await act(who, 'settled')
  await act('T6', 'overridden', { note: 'felled', outcomes: { [run.gate.outcomes[0]!.name]: 'weak' } })
  // Of one that is not pointed out, of one that is overridden, and of one that is settled.
  await correct(2, 'Harbour', 'Ward')
  await correct(6, 'Hill', 'Ward')
  await again()
  expect(await told({ states: ['settled', 'overridden'] })).toEqual(['T6 unplaced overridden', 'T3 near an edge settled', 'T10 highlighted settled'])
  await correct(10, 'Hill', 'Ward')
  await pointed(['Ward != "Shore" and Decay > 15'], 1)
  await again()
  expect((await told({ states: ['lapsed'] })).sort()).toEqual(['T10 highlighted lapsed', 'T2 on an edge lapsed', 'T3 near an edge lapsed'])
  await pointed([], 2)
  expect(await told({ states: ['settled', 'overridden'] })).toEqual(['T6 unplaced overridden', 'T2 on an edge settled', 'T3 near an edge settled'])
})

test('all that are alike, and no other, are settled in one step, and come back in one', async () => {
  expect(await detail('T5')).toMatchObject({ alike: 1 })
  const { body } = await act('T5', 'settled', { isAlike: true, note: 'not measured this year' })
  expect(body).toMatchObject({ records: 2 })
  expect(await told({ states: ['settled'] })).toEqual(['T5 held settled', 'T8 held settled'])
  expect(await server.ask('DELETE', `/review/acts/${(body as { act: number }).act}`)).toMatchObject({ status: 200, body: { records: 2 } })
  expect(await told()).toEqual(FIRST)
  expect((await server.ask('DELETE', `/review/acts/${(body as { act: number }).act}`)).status).toBe(404)
})

test('of two who settle the same at once one wins; the other is told by whom and how, and nothing is written over', async () => {
  const { runId, record } = await detail('T2')
  const settle = (by: string) => server.ask('POST', '/review/acts', { kind: 'settled', of: { runId, record, mark: null }, isAlike: false, note: `seen by ${by}`, by, outcomes: null })
  const answers = await Promise.all([settle('Ilo'), settle('Tes')])
  expect(answers.map(({ status }) => status).sort()).toEqual([201, 409])
  const { mark } = await detail('T2')
  expect((answers.find(({ status }) => status === 409)!.body as { message: string }).message).toContain(`settled by ${mark!.by}: “${mark!.note}”`)
})

test('handed to somebody it waits for them, through later runs, whatever becomes of it; by person the list tells who', async () => {
  const hand = (who: string, to: string | null, more = {}) => act(who, 'handed', { to, ...more })
  expect((await hand('T5', null)).status).toBe(400)
  expect((await act('T5', 'settled', { to: 'Mara' })).status).toBe(400)
  expect((await hand('T5', ' Mara ', { isAlike: true })).body).toMatchObject({ records: 2, exception: { waitsFor: 'Mara', state: 'open' } })
  await hand('T4', 'Ilo')
  const people = (await review()).people
  expect(people.map(({ name }) => name)).toEqual(['Ilo', 'Mara'])
  const [ilo, mara] = people.map(({ id }) => id)
  const byPerson = async (filter: Partial<ExceptionFilter> = {}) => {
    const numbers = new Int32Array(await (await server.fetch('/api/v1/review/listings', { method: 'POST', body: JSON.stringify({ filter: { ...ANY, runs: [run.id], ...filter }, by: 'person' }) })).arrayBuffer())
    return Array.from({ length: numbers.length / 3 }, (_, at) => [numbers[3 * at + 1], numbers[3 * at + 2]])
  }
  expect(await byPerson()).toEqual([[6, NOBODY], [2, NOBODY], [9, NOBODY], [3, NOBODY], [4, ilo], [5, mara], [8, mara]])
  expect(await byPerson({ people: [mara!, NOBODY] })).toHaveLength(6)
  await act('T5', 'settled')
  await again()
  expect((await list()).map(({ who, state, waitsFor }) => [who[0], state, waitsFor]).filter(([, , whom]) => whom)).toEqual([['T4', 'open', 'Ilo'], ['T5', 'settled', 'Mara'], ['T8', 'open', 'Mara']])
  const { body } = await hand('T8', '')
  expect(body).toMatchObject({ exception: { waitsFor: null } })
  await server.ask('DELETE', `/review/acts/${(body as { act: number }).act}`)
  expect(await detail('T8')).toMatchObject({ waitsFor: 'Mara' })
})

test('an override needs a reason and an outcome that the gate gives; it stands until any value changes; taken back, what it replaced stands again', async () => {
  expect((await act('T3', 'overridden')).status).toBe(400)
  expect((await act('T3', 'overridden', { note: 'x', outcomes: { Colour: 'weak' } })).status).toBe(400)
  expect((await act('T3', 'overridden', { note: 'x', outcomes: { Label: 'weak', Points: '1' } })).status).toBe(400)
  await act('T3', 'settled', { note: 'first' })
  const { body } = await act('T3', 'overridden', { note: 'leans too', outcomes: { Label: 'weak' } })
  expect(await detail('T3')).toMatchObject({ state: 'overridden', mark: { outcomes: { Label: 'weak' }, note: 'leans too' } })
  await server.ask('DELETE', `/review/acts/${(body as { act: number }).act}`)
  expect(await detail('T3')).toMatchObject({ state: 'settled', mark: { note: 'first' } })
})

test('what was overridden is looked at in later runs although nothing else is to be said of it, and lapses with its value', async () => {
  await act('T3', 'overridden', { note: 'leans too', outcomes: { Label: 'weak' } })
  const gate = (await server.ask('GET', `/gates/${gateId}`)).body as { draft: { inputs: object[] }; draftVersion: number }
  await server.ask('PUT', `/gates/${gateId}/draft`, { draft: { ...gate.draft, inputs: [{ ...gate.draft.inputs[0], tolerance: null }] }, seen: gate.draftVersion })
  await server.ask('POST', `/gates/${gateId}/versions`, { seen: gate.draftVersion + 1 })
  await again()
  expect(await told({ text: 'T3' })).toEqual(['T3 overridden overridden'])
  await correct(3, '18')
  await again()
  expect(await told({ text: 'T3' })).toEqual(['T3 overridden lapsed'])
})

test('one whose value was corrected waits for the next run, and is none any more where that is right', async () => {
  const correction = { column: idOf('Decay'), text: '15', seen: UNREADABLE, reading: { decimalMark: 'point', dateOrder: 'year' } } as const
  expect((await act('T4', 'corrected', { isAlike: true, correction })).status).toBe(400)
  expect((await act('T4', 'corrected')).status).toBe(400)
  expect((await act('T4', 'settled', { correction })).status).toBe(400)
  expect(await act('T4', 'corrected', { note: 'a typing error', correction })).toMatchObject({ status: 201 })
  expect(await decayOf(4)).toEqual(['15', null])
  expect(await told({ text: 'T4' })).toEqual(['T4 unreadable corrected'])
  await again()
  // It landed elsewhere before: that is to be looked at once.
  expect(await told({ text: 'T4' })).toEqual(['T4 changed lapsed'])
  await again()
  expect(await told({ text: 'T4' })).toEqual([])
})

test('a value that was changed since it was seen is not written over, and nothing is said to be corrected; nor is it when that is taken back', async () => {
  const correction = { column: idOf('Decay'), text: '15', seen: UNREADABLE, reading: { decimalMark: 'point', dateOrder: 'year' } } as const
  await correct(4, '16')
  const refused = await act('T4', 'corrected', { correction })
  expect([refused.status, (refused.body as { message: string }).message]).toEqual([409, expect.stringContaining('“Decay” was changed elsewhere')])
  expect([await told({ text: 'T4' }), await decayOf(4)]).toEqual([['T4 unreadable open'], ['16', null]])
  const { body } = await act('T4', 'corrected', { correction: { ...correction, seen: ['16', null] } })
  expect([await told({ text: 'T4' }), await decayOf(4)]).toEqual([['T4 unreadable corrected'], ['15', null]])
  await correct(4, '17')
  expect((await server.ask('DELETE', `/review/acts/${(body as { act: number }).act}`)).status).toBe(409)
  expect([await told({ text: 'T4' }), await decayOf(4)]).toEqual([['T4 unreadable corrected'], ['17', null]])
})

test('a correction is taken back together with its mark', async () => {
  const { body } = await act('T4', 'corrected', { correction: { column: idOf('Decay'), text: '15', seen: UNREADABLE, reading: { decimalMark: 'point', dateOrder: 'year' } } })
  await server.ask('DELETE', `/review/acts/${(body as { act: number }).act}`)
  expect([await told({ text: 'T4' }), await decayOf(4)]).toEqual([['T4 unreadable open'], UNREADABLE])
})

test('a record that goes and comes back under another number is known by who it is', async () => {
  await act('T2', 'settled', { note: 'known' })
  await server.ask('POST', `/tables/${table.id}/changes`, { kind: 'remove records', records: [2] })
  await again()
  expect(await told({ text: 'T2' })).toEqual([])
  const added = await server.ask('POST', `/tables/${table.id}/changes`, { kind: 'add records', reading: { decimalMark: 'point', dateOrder: 'year' }, rows: [[{ column: idOf('Tree'), text: 'T2' }, { column: idOf('Decay'), text: '20' }]] })
  expect(added.status).toBe(200)
  await again()
  expect(await told({ text: 'T2' })).toEqual(['T2 on an edge settled'])
})

test('an exception of a run that another followed is not settled any more: that is told', async () => {
  const { runId, record } = await detail('T2')
  await again()
  expect(await server.ask('POST', '/review/acts', { kind: 'settled', of: { runId, record, mark: null }, isAlike: false, note: '', by: '', outcomes: null })).toMatchObject({ status: 409, body: { code: 'stale' } })
})

test('what changed its label since the run before is an exception, with what it was', async () => {
  await correct(7, '3')
  await again()
  expect((await list({ kinds: ['changed'] })).map(({ who, reasons }) => [who, reasons])).toEqual([[['T7'], [{ kind: 'changed', from: 'weak' }]]])
})

test('what was given by hand is told of the run, and stands beside what the gate gave in what is taken out, with its reason', async () => {
  await act('T3', 'overridden', { note: 'leans, too', outcomes: { Label: 'weak' } })
  const record = (await detail('T3')).record
  expect((await server.ask('GET', `/review/runs/${run.id}/overrides`)).body).toMatchObject([{ record, outcomes: { Label: 'weak' }, was: { kind: 'label', label: 'sound' }, note: 'leans, too', by: 'Ilo' }])
  const lines = (await (await server.fetch(`/api/v1/runs/${run.id}/labelled.csv`)).text()).split('\r\n')
  expect(lines[0]).toBe(`Tree,Decay,Ward,Band ${number},Band ${number} status,Band ${number} limits,Band ${number} by hand,Band ${number} because`)
  expect(lines.filter((line) => /^T[23],/.test(line))).toEqual(['T2,20,Hill,weak,labelled,[20..100],,', 'T3,19.5,Harbour,sound,labelled,< 20,weak,"leans, too"'])
  const rows = (await (await server.fetch(`/api/v1/runs/${run.id}/labelled.json`)).json()) as Record<string, unknown>[]
  expect(rows.find((row) => row.Tree === 'T3')).toMatchObject({ [`Band ${number} by hand`]: 'weak', [`Band ${number} because`]: 'leans, too' })
  // Once it does not hold any more it is not told of.
  await correct(3, '18')
  await again()
  await review()
  expect((await server.ask('GET', `/review/runs/${run.id}/overrides`)).body).toEqual([])
  expect((await (await server.fetch(`/api/v1/runs/${run.id}/labelled.csv`)).text()).split('\r\n')[0]).not.toContain('by hand')
})
