import type { Exception, Review } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import pg from 'pg'
import type { HTTPRequest } from 'puppeteer-core'
import { askAt, bringIn } from '../server/testing/bring-in'
import { type DimeGate, eventually, find, openDimeGate, textOf } from './testing/dime-gate'

const DECAYS = [...Array<string>(45).fill('20'), ...Array<string>(45).fill('19.5'), ...Array<string>(20).fill('')]
const TEXT = ['Tree,Decay', ...DECAYS.map((decay, at) => `T${String(at + 1).padStart(3, '0')},${decay}`)].join('\n')

let gate: DimeGate
let database: pg.Client
let run: Run
let column: number
const ask = async <Answer>(method: string, path: string, body?: unknown): Promise<Answer> => {
  const answer = await askAt(gate.address)(method, path, body)
  if (answer.status >= 400) throw new Error(JSON.stringify(answer.body))
  return answer.body as Answer
}
async function done(id: number): Promise<Run> {
  await eventually(async () => (await ask<Run>('GET', `/runs/${id}`)).state, 'done')
  return ask<Run>('GET', `/runs/${id}`)
}
beforeAll(async () => {
  gate = await openDimeGate()
  database = new pg.Client(gate.databaseUrl)
  await database.connect()
  const table = await bringIn({ ask: askAt(gate.address) }, 'Trees', TEXT, ({ columns }) => (columns[0]!.isIdentity = true))
  column = table.columns[1]!.id
  const draft = plainScale('Band', { ...givenNumber('Decay', '%'), tolerance: '1' }, [{ at: '20', owner: 'above' }], [band('sound'), band('weak')])
  const { id } = await ask<{ id: number }>('POST', '/gates', { draft, binding: { tableId: table.id, inputs: { Decay: { column } } } })
  await ask('POST', `/gates/${id}/versions`, { seen: 1 })
  run = await done((await ask<Run>('POST', '/runs', { gateId: id, version: 1, tableId: table.id, binding: 1 })).id)
})
afterAll(async () => {
  await database.end()
  await gate.close()
})

const press = async (...keys: string[]) => {
  for (const key of keys) await gate.page.keyboard.press(key as 'Enter')
}
const inHand = () => textOf(gate.page, '.panel h2')
const stateOf = (who: string) => gate.page.$eval(`[data-exception="${who}"]`, (row) => (row as HTMLElement).dataset.state)
const rows = async (sql: string) => (await database.query(sql)).rows as Record<string, unknown>[]
async function listed(): Promise<Exception[]> {
  for (;;) if ((await ask<Review>('GET', '/review')).looking.length === 0) break
  const answer = await fetch(`${gate.address}/api/v1/review/listings`, { method: 'POST', body: JSON.stringify({ filter: { runs: null, kinds: null, states: null, text: null }, by: 'kind' }) })
  const numbers = new Int32Array(await answer.arrayBuffer())
  return ask<Exception[]>('POST', '/review/exceptions', { of: Array.from({ length: numbers.length / 3 }, (_, at) => ({ runId: numbers[3 * at]!, record: numbers[3 * at + 1]! })) })
}

test('a hundred are gone through by the keyboard alone, and each is kept as it was said', async () => {
  await gate.page.goto(`${gate.address}/review`, { waitUntil: 'networkidle0' })
  await find(gate.page, '.panel h2')
  const said: [who: string, kind: string, note: string][] = []
  for (let at = 0; at < 100; at++) {
    const who = await inHand()
    const kind = at % 10 === 8 ? 'overridden' : at % 10 === 9 ? 'corrected' : 'settled'
    await press({ settled: 's', overridden: 'o', corrected: 'v' }[kind])
    await find(gate.page, { settled: '.note input:focus', overridden: '.label input:focus', corrected: '.value input:focus' }[kind])
    if (kind === 'overridden') {
      await gate.page.keyboard.type('weak')
      await press('Enter', 'Tab')
    }
    await gate.page.keyboard.type(kind === 'corrected' ? '12' : `seen, ${at}`)
    await press('Enter')
    await eventually(() => stateOf(who), kind)
    await eventually(async () => (await inHand()) === who, false)
    said.push([who, kind, kind === 'corrected' ? 'Decay' : `seen, ${at}`])
  }
  expect(new Set(said.map(([who]) => who)).size).toBe(100)
  const kept = await rows(`select m.who, m.kind, a.note from review_mark m join review_act a on a.id = m.act_id order by a.id`)
  expect(kept.map(({ who, kind, note }) => [(JSON.parse(who as string) as string[])[0], kind, kind === 'corrected' ? (note as string).slice(0, 5) : note])).toEqual(said)
  const corrected = said.filter(([, kind]) => kind === 'corrected').map(([who]) => who)
  const table = await rows(`select count(*)::int as n from records.t${run.tableId} where until is null and c${column} = 12`)
  expect(table).toEqual([{ n: corrected.length }])
})

test('the data changes, and it is run again: what was said is carried or lapses as a short reference says', async () => {
  const before = await listed()
  const some = before.filter(({ state }) => state === 'settled' || state === 'overridden').filter((_, at) => at % 4 === 0)
  await ask('POST', `/tables/${run.tableId}/changes`, { kind: 'fill', reading: { decimalMark: 'point', dateOrder: 'year' }, column, text: '20.5', filters: [], records: some.map(({ record }) => record) })
  run = await done((await ask<Run>('POST', `/runs/${run.id}/again`, { as: 'now' })).id)
  const value = new Map((await rows(`select record, trim_scale(i1)::text as decay from runs.r${run.id}`)).map(({ record, decay }) => [record as number, decay as string | null]))
  const edges = (decay: string | null) => (decay === null ? ['held'] : decay === '20' ? ['on'] : Math.abs(Number(decay) - 20) <= 1 ? ['near'] : [])
  const after = await listed()
  for (const { record, mark, basis } of before) {
    const now = after.find((one) => one.record === record)
    // Whatever is another than it was is looked at again; what is no exception any more is none.
    const isSame = value.get(record) === mark?.basis.values.Decay
    const moved = basis.landed !== now?.basis.landed
    expect([record, now?.state]).toEqual([record, now === undefined ? undefined : mark === null ? 'open' : isSame && !moved ? mark.kind : 'lapsed'])
    if (edges(value.get(record)!).length > 0) expect(now).toBeDefined()
  }
  expect(after.filter(({ state }) => state === 'lapsed').length).toBeGreaterThanOrEqual(some.length)
})

test('the server is killed before a settlement reaches it: it is not there, that is told, and no word is lost', async () => {
  await gate.page.goto(`${gate.address}/review`, { waitUntil: 'networkidle0' })
  const who = await find(gate.page, '.panel h2').then(inHand)
  const marks = () => rows('select count(*)::int as n from review_mark where ended_at is null')
  const before = await marks()
  await press('s')
  await find(gate.page, '.note input:focus')
  await gate.page.keyboard.type('said before the end')
  await gate.killServer()
  await press('Enter')
  await find(gate.page, '[role=alert]')
  await gate.restartServer()
  await eventually(() => gate.page.$('.away').then((line) => line === null), true)
  expect(await marks()).toEqual(before)
  await eventually(inHand, who)
  expect(await gate.page.$eval('.note input', (field) => (field as HTMLInputElement).value)).toBe('said before the end')
  await gate.page.click('[data-do]')
  await eventually(() => stateOf(who), 'settled')
})

test('the server is killed between a settlement and its answer: it is there, and that is told', async () => {
  await gate.page.goto(`${gate.address}/review`, { waitUntil: 'networkidle0' })
  const who = await find(gate.page, '.panel h2').then(inHand)
  await press('s')
  await find(gate.page, '.note input:focus')
  await gate.page.keyboard.type('said, and not answered')
  await gate.page.setRequestInterception(true)
  const onTheWay = (request: HTTPRequest) => {
    if (request.method() !== 'POST' || !request.url().endsWith('/review/acts')) return void request.continue()
    // It arrives and is kept; then the server ends, and the answer never comes.
    void fetch(request.url(), { method: 'POST', body: request.postData()! }).then(async (answer) => {
      expect(answer.status).toBe(201)
      await gate.killServer()
      await request.abort('connectionreset')
    })
  }
  gate.page.on('request', onTheWay)
  await press('Enter')
  await find(gate.page, '.away')
  gate.page.off('request', onTheWay)
  await gate.page.setRequestInterception(false)
  await gate.restartServer()
  await eventually(() => gate.page.$('.away').then((line) => line === null), true)
  expect((await rows(`select a.note from review_mark m join review_act a on a.id = m.act_id where m.ended_at is null and m.who = '["${who}"]'`))).toEqual([{ note: 'said, and not answered' }])
  // It waits no more, and is shown as settled to whoever looks at all.
  await gate.page.goto(`${gate.address}/review?shows=settled&text=${who}`, { waitUntil: 'networkidle0' })
  await eventually(() => gate.page.$eval(`[data-exception="${who}"]`, (row) => row.textContent!.includes('said, and not answered')), true)
})
