import type { Comparison, Moved, MoveReason, RecordInRun } from '@dime-gate/contract/comparison'
import type { Fresh, Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { type Cause, CAUSES } from '@dime-gate/core/compare/causes'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import fc from 'fast-check'
import { bringIn } from '../testing/bring-in'
import { ended, keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

/** What a record's landing hangs on. */
interface Record {
  points: number | null
  due: string | null
}
/** What all records' landings hang on. */
interface World {
  today: string
  /** Points that a day is worth, in the figure. */
  worth: number
  cut: number
}

const daysBetween = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 86_400_000
/** The reference: a scale on a figure of two columns and today. */
function lands({ points, due }: Record, { today, worth, cut }: World): string {
  if (points === null || due === null) return 'held'
  return points + worth * daysBetween(today, due) >= cut ? 'high' : 'low'
}

const isFilled = (was: string | number | null, now: string | number | null) => was === null && now !== null
/** By the definition, without any haste: every set of causes, and the smallest that lead where the record is now. */
function reference(was: Record, now: Record, before: World, after: World): Cause[][] {
  const landing = (set: ReadonlySet<Cause>) => {
    const pick = <Key extends keyof Record>(key: Key) => (isFilled(was[key], now[key]) ? set.has('blank filled') : set.has('value')) ? now[key] : was[key]
    return lands({ points: pick('points'), due: pick('due') }, { today: (set.has('date') ? after : before).today, worth: (set.has('figure') ? after : before).worth, cut: (set.has('gate') ? after : before).cut })
  }
  const sets = Array.from({ length: 2 ** CAUSES.length }, (_, bits) => CAUSES.filter((_cause, at) => bits & (1 << at))).filter((set) => set.length > 0 && landing(new Set(set)) === lands(now, after))
  const least = Math.min(...sets.map(({ length }) => length))
  const active = new Set<Cause>([...(before.cut !== after.cut ? ['gate' as const] : []), ...(before.worth !== after.worth ? ['figure' as const] : []), ...(before.today !== after.today ? ['date' as const] : []), 'value', 'blank filled'])
  return sets.filter((set) => set.length === least && set.every((cause) => active.has(cause)))
}

let server: TemporaryServer
beforeAll(async () => {
  server = await temporaryServer()
})
afterAll(() => server.close())

const READING = { decimalMark: 'point', dateOrder: 'year' }
let tables = 0

/** A table with its gate; a run is kept of it, the world and the records change, and another run is kept. */
async function twoRuns(records: Record[], changed: Record[], before: World, after: World, more: (table: Table, gateId: number) => Promise<void> = async () => undefined) {
  const name = `Table ${++tables}`
  const text = ['Who,Points,Due', ...records.map(({ points, due }, at) => `r${at},${points ?? ''},${due ?? ''}`), 'last,1,2026-01-01'].join('\n')
  const table = await bringIn(server, name, text)
  const change = async (request: object) => {
    const answer = await server.ask('POST', `/tables/${table.id}/changes`, request)
    if (answer.status !== 200) throw new Error(JSON.stringify(answer.body))
  }
  const feel = (worth: number) => `Points + ${worth} * (Due - today()).days`
  await change({ kind: 'add figure', name: 'Sum', unit: '', feel: feel(before.worth) })
  const columns = async () => ((await server.ask('GET', `/tables/${table.id}`)).body as Table).columns
  const idOf = async (column: string) => (await columns()).find((one) => one.name === column)!.id
  const gate = (cut: number) => plainScale(`Gate ${tables}`, givenNumber('Sum', ''), [{ at: String(cut), owner: 'above' }], [band('low'), band('high')])
  const made = (await server.ask('POST', '/gates', { draft: gate(before.cut), binding: { tableId: table.id, inputs: { Sum: { column: await idOf('Sum') } } } })).body as { id: number }
  await server.ask('POST', `/gates/${made.id}/versions`, { seen: 1 })
  const keep = async (version: number, asOf: string) => ended(server, (await keepRun(server, { gateId: made.id, version, tableId: table.id, binding: 1, asOf })).id)
  const first = await keep(1, before.today)
  const [points, due] = [await idOf('Points'), await idOf('Due')]
  for (const [at, now] of changed.entries()) {
    const fill = (column: number, value: string | number | null) => change({ kind: 'fill', reading: READING, column, text: String(value ?? ''), filters: [], records: [at + 1] })
    if (now.points !== records[at]!.points) await fill(points, now.points)
    if (now.due !== records[at]!.due) await fill(due, now.due)
  }
  if (after.worth !== before.worth) await change({ kind: 'change figure', column: await idOf('Sum'), name: 'Sum', unit: '', feel: feel(after.worth) })
  let version = 1
  if (after.cut !== before.cut) {
    await server.ask('PUT', `/gates/${made.id}/draft`, { draft: gate(after.cut), seen: 1 })
    version = ((await server.ask('POST', `/gates/${made.id}/versions`, { seen: 2 })).body as { latestVersion: number }).latestVersion
  }
  await more(table, made.id)
  return { first, second: await keep(version, after.today) }
}

const against = async <Answer>(first: Run, second: Run, path = '') => (await server.ask('GET', `/runs/${first.id}/against/${second.id}${path}`)).body as Answer
const movedOf = async (first: Run, second: Run, request: object = {}) =>
  (await server.ask('POST', `/runs/${first.id}/against/${second.id}/moved`, { move: null, reason: null, from: 0, count: 500, ...request })).body as Moved

const points = fc.option(fc.integer({ min: 0, max: 20 }), { nil: null, freq: 4 })
const due = fc.option(fc.constantFrom('2026-01-01', '2026-01-04', '2026-01-09'), { nil: null, freq: 4 })
const record = fc.record({ points, due })
const world = fc.record({ today: fc.constantFrom('2026-01-01', '2026-01-03'), worth: fc.constantFrom(1, 3), cut: fc.constantFrom(10, 13) })

test('every record that moves has the causes that the definition names, whatever changed', async () => {
  await fc.assert(fc.asyncProperty(fc.array(fc.tuple(record, fc.option(record, { nil: null })), { minLength: 8, maxLength: 12 }), world, world, async (pairs, before, after) => {
    const [was, now] = [pairs.map(([one]) => one), pairs.map(([one, other]) => other ?? one)]
    const { first, second } = await twoRuns(was, now, before, after)
    const [{ rows }, reasons] = [await movedOf(first, second), await against<MoveReason[]>(first, second, '/reasons')]
    const told = rows.filter(({ record: number }) => number <= pairs.length).map(({ record: number, reason }) => [number, new Set(reasons[reason!]!.sets.map((set) => set.join(' + ')))])
    const expected = was.flatMap((one, at) => (lands(one, before) === lands(now[at]!, after) ? [] : [[at + 1, new Set(reference(one, now[at]!, before, after).map((set) => set.join(' + ')))]]))
    expect(told).toEqual(expected)
    expect(reasons.reduce((sum, { records }) => sum + records, 0)).toBe(rows.length)
  }), { numRuns: 12 })
}, 120_000)

test('what stayed, what moved, what is new and what is gone come to both runs', async () => {
  const same: World = { today: '2026-01-01', worth: 1, cut: 10 }
  const { first, second } = await twoRuns([{ points: 9, due: '2026-01-01' }, { points: 12, due: '2026-01-01' }, { points: null, due: '2026-01-01' }], [{ points: 11, due: '2026-01-01' }, { points: 12, due: '2026-01-01' }, { points: 3, due: '2026-01-01' }], same, same, async ({ id, columns }) => {
    await server.ask('POST', `/tables/${id}/changes`, { kind: 'add records', reading: READING, rows: [[{ column: columns[1]!.id, text: '50' }, { column: columns[2]!.id, text: '2026-01-01' }]] })
    await server.ask('POST', `/tables/${id}/changes`, { kind: 'remove records', records: [4] })
  })
  const told = await against<Comparison>(first, second)
  const label = (text: string) => ({ kind: 'label', label: text })
  expect(told.stayed).toEqual([{ at: label('high'), records: 1 }])
  expect(new Set(told.moves.map((move) => JSON.stringify(move)))).toEqual(new Set([
    { from: label('low'), to: label('high'), records: 1 }, { from: label('low'), to: null, records: 1 }, { from: { kind: 'held' }, to: label('low'), records: 1 }, { from: null, to: label('high'), records: 1 },
  ].map((move) => JSON.stringify(move))))
  expect(told.differences).toMatchObject({ gate: null, asOf: null, binding: [], table: { from: 2 } })
  expect((await against<MoveReason[]>(first, second, '/reasons')).map(({ sets, records }) => [sets, records]).toSorted()).toEqual([[[['blank filled']], 1], [[['value']], 1]])
  expect(await movedOf(first, second, { move: { from: label('low'), to: label('high') } })).toMatchObject({ total: 1, rows: [{ record: 1, changes: [{ name: 'Sum', from: '9', to: '11' }] }] })
  const csv = await (await fetch(`${server.address}/api/v1/runs/${first.id}/against/${second.id}/moved.csv`)).text()
  expect(csv.trim().split(/\r?\n/)).toEqual(['Run 1,Run 2,Moved by,Who,Points,Due,Sum', 'low,high,value,r0,11,2026-01-01,11', 'held,low,blank filled,r2,3,2026-01-01,3', 'low,,gone,,,,', ',high,new,,50,2026-01-01,50'])
  const json = JSON.parse(await (await fetch(`${server.address}/api/v1/runs/${first.id}/against/${second.id}/moved.json`)).text()) as object
  expect(JSON.stringify(json)).toContain('"blank filled"')
  expect(await movedOf(first, second, { move: { from: null, to: label('high') } })).toMatchObject({ total: 1, rows: [{ record: 5, reason: null }] })
})

test('the same again gives the same, whatever has become of the table, the figure, the gate and the day; again now does not', async () => {
  const [before, after]: World[] = [{ today: '2026-01-01', worth: 1, cut: 10 }, { today: '2026-01-03', worth: 3, cut: 13 }]
  const was: Record[] = [{ points: 9, due: '2026-01-04' }, { points: 12, due: '2026-01-01' }, { points: null, due: '2026-01-01' }]
  const now: Record[] = [{ points: 2, due: '2026-01-04' }, { points: 12, due: null }, { points: 20, due: '2026-01-09' }]
  const { first, second } = await twoRuns(was, now, before!, after!)
  const again = async (as: string) => ended(server, ((await server.ask('POST', `/runs/${first.id}/again`, { as })).body as Run).id)
  const same = await again('same')
  expect(same).toMatchObject({ gateVersion: 1, tableVersion: first.tableVersion, asOf: first.asOf, state: 'done', counts: first.counts })
  expect(await against(first, same)).toMatchObject({ moves: [], differences: { gate: null, table: null, asOf: null, binding: [], figures: [] } })
  await server.ask('PUT', '/workspace', { asOf: after!.today })
  const latest = await again('now')
  expect(latest).toMatchObject({ gateVersion: 2, asOf: after!.today, counts: second.counts })
  expect((await against<Comparison>(second, latest)).moves).toEqual([])
  expect((await against<Comparison>(first, latest)).moves.length).toBeGreaterThan(0)
  expect((await server.ask('POST', `/runs/${first.id}/again`, { as: 'later' })).status).toBe(400)
})

test('a run knows by how many records it would come out otherwise now: by the table, the gate, the figure or the day; where nobody moves, and where it cannot be made', async () => {
  const [before, after]: World[] = [{ today: '2026-01-01', worth: 1, cut: 10 }, { today: '2026-01-03', worth: 1, cut: 10 }]
  const records: Record[] = [{ points: 9, due: '2026-01-04' }, { points: 12, due: '2026-01-01' }, { points: null, due: '2026-01-01' }]
  const fresh = async (run: Run) => (await server.ask('GET', `/runs/${run.id}/fresh`)).body as Fresh
  await server.ask('PUT', '/workspace', { asOf: before!.today })
  const { second } = await twoRuns(records, records, before!, before!)
  const run = await ended(server, ((await server.ask('POST', `/runs/${second.id}/again`, { as: 'now' })).body as Run).id)
  expect(await fresh(run)).toEqual({ differences: { gate: null, table: null, asOf: null, binding: [], feeding: [], figures: [] }, problem: null, otherwise: 0 })
  // The day moves: 9 + 3 was high, 9 + 1 is high, 12 + 0 was high, 12 - 2 is high; nobody moves.
  await server.ask('PUT', '/workspace', { asOf: after!.today })
  expect(await fresh(run)).toMatchObject({ differences: { asOf: { from: before!.today, to: after!.today } }, otherwise: 0 })
  await server.ask('PUT', '/workspace', { asOf: '2026-01-08' })
  expect(await fresh(run)).toMatchObject({ otherwise: 2 })
  // Of a run whose day was asked for, the day does not grow old.
  expect((await fresh(second)).differences!.asOf).toBeNull()
  await server.ask('PUT', '/workspace', { asOf: before!.today })
  const { columns } = (await server.ask('GET', `/tables/${run.tableId}`)).body as Table
  const change = (request: object) => server.ask('POST', `/tables/${run.tableId}/changes`, request)
  await change({ kind: 'fill', reading: READING, column: columns[1]!.id, text: '3', filters: [], records: [3] })
  await change({ kind: 'add records', reading: READING, rows: [[{ column: columns[1]!.id, text: '50' }, { column: columns[2]!.id, text: '2026-01-01' }]] })
  await change({ kind: 'remove records', records: [4] })
  expect(await fresh(run)).toMatchObject({ differences: { gate: null, table: { from: 2, to: 5 } }, otherwise: 3 })
  const { fresh: told } = (await server.ask('GET', '/desk')).body as { fresh: { [run: string]: Fresh } }
  expect(told[run.id]).toMatchObject({ otherwise: 3 })
  // Bound otherwise, and otherwise again: each is counted by itself.
  const sum = (column: string) => columns.find(({ name }) => name === column)!.id
  const bind = async (inputs: object) => {
    const { version: seen } = (await server.ask('GET', `/gates/${run.gateId}/bindings/${run.tableId}`)).body as { version: number }
    await server.ask('PUT', `/gates/${run.gateId}/bindings/${run.tableId}`, { inputs, seen })
  }
  await change({ kind: 'add figure', name: 'Nothing', unit: '', feel: 'Points - Points' })
  const nothing = ((await server.ask('GET', `/tables/${run.tableId}`)).body as Table).columns.find(({ name }) => name === 'Nothing')!.id
  await bind({ Sum: { column: sum('Points') } })
  const byPoints = (await fresh(run)).otherwise
  await bind({ Sum: { column: nothing } })
  expect([byPoints, (await fresh(run)).otherwise]).toEqual([4, 5])
  const { version } = (await server.ask('GET', `/gates/${run.gateId}/bindings/${run.tableId}`)).body as { version: number }
  await server.ask('PUT', `/gates/${run.gateId}/bindings/${run.tableId}`, { inputs: {}, seen: version })
  expect(await fresh(run)).toMatchObject({ differences: null, otherwise: null, problem: expect.stringContaining('no column') })
})

test('one record is told through all runs of its gate, the latest first, also where it was not there', async () => {
  const same: World = { today: '2026-01-01', worth: 1, cut: 10 }
  const { first, second } = await twoRuns([{ points: 9, due: '2026-01-01' }], [{ points: 11, due: '2026-01-01' }], same, same, async ({ id }) => {
    await server.ask('POST', `/tables/${id}/changes`, { kind: 'remove records', records: [2] })
  })
  const told = async (record: number) => ((await server.ask('GET', `/runs/${first.id}/records/${record}/runs`)).body as RecordInRun[]).map(({ runId, landing }) => [runId, landing])
  expect(await told(1)).toEqual([[second.id, { kind: 'label', label: 'high' }], [first.id, { kind: 'label', label: 'low' }]])
  expect(await told(2)).toEqual([[second.id, null], [first.id, { kind: 'label', label: 'low' }]])
})

test('two runs of two tables have nothing to compare, and a run that is not there is told', async () => {
  const same: World = { today: '2026-01-01', worth: 1, cut: 10 }
  const [one, other] = [await twoRuns([], [], same, same), await twoRuns([], [], same, same)]
  expect(await server.ask('GET', `/runs/${one.first.id}/against/${other.first.id}`)).toMatchObject({ status: 422, body: { message: expect.stringContaining('no record in common') } })
  expect((await server.ask('GET', `/runs/${one.first.id}/against/999999`)).status).toBe(404)
  expect(await against(one.first, one.second)).toMatchObject({ moves: [], differences: { gate: null, table: null, asOf: null, binding: [], feeding: [], figures: [] } })
})

describe('a run against the draft', () => {
  const same: World = { today: '2026-01-01', worth: 1, cut: 10 }
  const WAS = [{ points: 9, due: '2026-01-01' }, { points: 11, due: '2026-01-01' }, { points: 11, due: '2026-01-01' }]
  const NOW = [{ points: 10, due: '2026-01-01' }, { points: 11, due: '2026-01-01' }, { points: 14, due: '2026-01-01' }]
  /** A run, after which a value was corrected and the draft has another cut; no version of it is set. */
  async function draftMoved() {
    const { first, second } = await twoRuns(WAS, NOW, same, same)
    const gate = (await server.ask('GET', `/gates/${first.gateId}`)).body as { draft: { cuts: object[] }; draftVersion: number }
    await server.ask('PUT', `/gates/${first.gateId}/draft`, { draft: { ...gate.draft, cuts: [{ at: '12', owner: 'above' }] }, seen: gate.draftVersion })
    const { status, body } = await server.ask('POST', `/runs/${first.id}/draft`, {})
    expect(status).toBe(201)
    return { first, second, draft: await ended(server, (body as Run).id) }
  }

  test('tells what would move and why, as two runs do', async () => {
    const { first, second, draft } = await draftMoved()
    const at = (label: string) => ({ kind: 'label', label })
    expect(await against(first, draft)).toMatchObject({ moves: [{ from: at('high'), to: at('low'), records: 1 }], differences: { gate: { from: expect.stringMatching(/, version 1$/), to: expect.stringMatching(/, the draft$/) }, table: { from: first.tableVersion, to: second.tableVersion } } })
    expect(await against<MoveReason[]>(first, draft, '/reasons')).toEqual([{ sets: [['gate']], records: 1, examples: [2] }])
    expect((await against<Comparison>(draft, second)).moves).toMatchObject([{ from: at('low'), to: at('high'), records: 2 }])
    const text = await (await server.fetch(`/api/v1/runs/${first.id}/against/${draft.id}/moved.csv`)).text()
    expect(text.split('\r\n').slice(0, 2)).toEqual(['Run 1,Draft,Moved by,Who,Points,Due,Sum', 'high,low,gate,r1,11,2026-01-01,11'])
  })

  test('where the draft is as the version that was run, the gate is no difference', async () => {
    const { first, second } = await twoRuns(WAS, NOW, same, same)
    const draft = await ended(server, ((await server.ask('POST', `/runs/${first.id}/draft`, {})).body as Run).id)
    expect(await against(second, draft)).toMatchObject({ moves: [], differences: { gate: null } })
  })

  test('is kept by nobody: it is in no list and no review, has no number among runs, and is never run again or brought back', async () => {
    const { first, second, draft } = await draftMoved()
    const desk = (await server.ask('GET', '/desk')).body as { runs: Run[] }
    expect(desk.runs.filter(({ gateId }) => gateId === first.gateId).map(({ id }) => id)).toEqual([second.id, first.id])
    const review = (await server.ask('GET', '/review')).body as { runs: Run[] }
    expect(review.runs.filter(({ gateId }) => gateId === first.gateId).map(({ id }) => id)).toEqual([second.id])
    expect((await keepRun(server, { gateId: first.gateId, version: 1, tableId: first.tableId, binding: 1 })).number).toBe(second.number + 1)
    expect((await server.ask('POST', `/runs/${draft.id}/again`, { as: 'same' })).status).toBe(404)
    expect((await server.ask('POST', `/runs/${draft.id}/restoration`, {})).status).toBe(404)
    expect((await server.ask('DELETE', `/runs/${draft.id}`)).status).toBe(404)
  })

  test('goes an hour later, with all that was stored of it, as another is made', async () => {
    const { first, draft } = await draftMoved()
    const isThere = async () => (await server.database.query('select to_regclass($1) is not null as is', [`runs.r${draft.id}`])).rows[0].is as boolean
    await server.ask('POST', `/runs/${first.id}/draft`, {})
    expect(await isThere()).toBe(true)
    await server.database.query("update run set removed_at = removed_at - interval '61 minutes' where id = $1", [draft.id])
    await server.ask('POST', `/runs/${first.id}/draft`, {})
    expect([await isThere(), (await server.ask('GET', `/runs/${draft.id}`)).status]).toEqual([false, 404])
  })
})
