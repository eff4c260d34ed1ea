import type { Exception, Review } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { violationsOn } from './testing/axe'
import { type Demo, openDemo } from './testing/demo'
import { choose, click, eventually, find, textOf } from './testing/dime-gate'

let demo: Demo
let trees: Table
beforeAll(async () => {
  demo = await openDemo()
  await eventually(async () => (await demo.ask<Run>('/runs/1')).state, 'done')
  trees = await demo.ask<Table>('/tables/1')
})
afterAll(() => demo.close())

const idOf = (name: string) => trees.columns.find((column) => column.name === name)!.id
const open = (path: string) => demo.page.goto(`${demo.address}${path}`, { waitUntil: 'networkidle0' })
const inHand = () => textOf(demo.page, '.panel h2')
const stateOf = (who: string) => demo.page.$eval(`[data-exception="${who}"]`, (row) => (row as HTMLElement).dataset.state)
const rows = async (sql: string) => (await demo.database.query(sql)).rows as Record<string, unknown>[]
const press = (...keys: string[]) => keys.reduce((before, key) => before.then(() => demo.page.keyboard.press(key as 'Enter')), Promise.resolve())
/** Those that wait, as the API tells them, by who they are. */
async function all(): Promise<Exception[]> {
  for (;;) if ((await demo.ask<Review>('/review')).looking.length === 0) break
  const answer = await fetch(`${demo.address}/api/v1/review/listings`, { method: 'POST', body: JSON.stringify({ filter: { runs: null, people: null, kinds: null, states: null, text: null }, by: 'kind' }) })
  const numbers = new Int32Array(await answer.arrayBuffer())
  const of = Array.from({ length: numbers.length / 3 }, (_, at) => ({ runId: numbers[3 * at]!, record: numbers[3 * at + 1]! }))
  return demo.send<Exception[]>('/review/exceptions', 'POST', { of })
}

test('everything that somebody should look at of the last runs is there, as SQL counts it', async () => {
  await open('/review?gate=1')
  await find(demo.page, '[data-group]')
  const [counted] = await rows(`select count(*) filter (where u1 is not null)::int as unreadable, count(*) filter (where status = 1 and u1 is null)::int as unplaced, count(*) filter (where status = 2 and u1 is null)::int as held, count(*) filter (where i1 in (12, 25, 40))::int as edge from runs.r1`)
  const heads = (): Promise<Record<string, unknown>> => demo.page.$$eval('[data-group]', (groups) => Object.fromEntries(groups.map((one) => [(one as HTMLElement).dataset.group, Number(one.querySelector('.figure')!.textContent)])))
  await eventually(async () => { const { unreadable, unplaced, held } = await heads(); return { unreadable, unplaced, held } }, { unreadable: counted!.unreadable, unplaced: counted!.unplaced, held: counted!.held })
  await open('/review?gate=1&kind=on%20an%20edge')
  await eventually(async () => (await heads())['on an edge'], counted!.edge)
  expect(await violationsOn(demo.page)).toEqual([])
})

test('settled, overridden and corrected by the keyboard alone, one after the other; kept as they were said', async () => {
  await open('/review?gate=1&kind=on%20an%20edge')
  await find(demo.page, '.panel h2')
  const settled: string[] = []
  for (let number = 1; number <= 5; number++) {
    const who = await inHand()
    settled.push(who)
    await press('s')
    await find(demo.page, '.note input:focus')
    await demo.page.keyboard.type(`looked at, ${number}`)
    await press('Enter')
    await eventually(() => stateOf(who), 'settled')
    await eventually(async () => (await inHand()) === who, false)
  }
  const kept = await rows(`select m.who, a.note from review_mark m join review_act a on a.id = m.act_id where m.kind = 'settled' order by a.id`)
  expect(kept).toEqual(settled.map((who, at) => ({ who: JSON.stringify([who]), note: `looked at, ${at + 1}` })))
  const who = await inHand()
  await press('o')
  await find(demo.page, '.label input:focus')
  await demo.page.keyboard.type('Failing')
  await press('Enter', 'Tab')
  await demo.page.keyboard.type('It leans over the school')
  await press('Enter')
  await eventually(() => stateOf(who), 'overridden')
  expect(await rows(`select outcomes, note from review_mark m join review_act a on a.id = m.act_id where m.kind = 'overridden'`)).toEqual([{ outcomes: { Label: 'Failing' }, note: 'It leans over the school' }])
  await eventually(() => textOf(demo.page, '[data-tally]').then((text) => /5 settled · 1 overridden/.test(text)), true)
  // Taken back, and done again.
  await click(demo.page, '.review header')
  await press('u')
  await eventually(() => stateOf(who), 'open')
  expect(await violationsOn(demo.page)).toEqual([])
})

test('a value is corrected where the exception is; the table has it, with its history, and the run says that it is no longer fresh', async () => {
  await open('/review?kind=unplaced&gate=1')
  await eventually(inHand, '0871')
  await press('v')
  await find(demo.page, '.value input:focus')
  await demo.page.keyboard.type('14')
  await press('Enter')
  await eventually(() => stateOf('0871'), 'corrected')
  const [now] = await rows(`select c${idOf('Decay')}::text as decay from records.t1 where until is null and c${idOf('Tree no')} = '0871'`)
  expect(now).toEqual({ decay: '14' })
  const told = (await all()).find(({ who, runId }) => who[0] === '0871' && runId === 1)!
  expect([told.state, told.mark!.note]).toEqual(['corrected', 'Decay 140 → 14'])
})

test('all that are alike in one step, after their number is told, and back in one', async () => {
  await open('/review?kind=held&gate=1')
  await find(demo.page, '.panel h2')
  const held = (await rows('select count(*)::int as n from runs.r1 where status = 2 and u1 is null'))[0]!.n as number
  await eventually(() => textOf(demo.page, '.alike'), `with the ${held - 1} others alike`)
  await press('a', 's')
  await find(demo.page, '.note input:focus')
  await demo.page.keyboard.type('not measured this year')
  await press('Enter')
  await eventually(async () => (await rows(`select count(*)::int as n from review_mark where ended_at is null and kind = 'settled'`))[0]!.n, 5 + held)
  await click(demo.page, '.v-snackbar ::-p-text(Take it back)')
  await eventually(async () => (await rows(`select count(*)::int as n from review_mark where ended_at is null and kind = 'settled'`))[0]!.n, 5)
})

test('two who look at the same see what the other does; the second to settle is told, and loses no word', async () => {
  await open('/review?gate=1&kind=on%20an%20edge&by=table')
  const who = await inHand()
  const other = await demo.page.browser().newPage()
  await other.goto(`${demo.address}/review?gate=1&kind=on%20an%20edge`, { waitUntil: 'networkidle0' })
  await eventually(() => textOf(other, '.panel h2'), who)
  await other.keyboard.press('s')
  await find(other, '.note input:focus')
  await other.keyboard.type('mine, not yet said')
  const { runId, record } = (await all()).find((one) => one.who[0] === who && one.runId === 1)!
  // The first page's request arrives while the second page has not heard of it, and does not before it asks for the same.
  let isHeldBack = true
  await other.setRequestInterception(true)
  other.on('request', (request) => {
    if (request.url().endsWith('/review/acts')) isHeldBack = false
    void (isHeldBack && /\/review(\/(runs|exceptions|listings)|$)/.test(request.url()) ? request.abort() : request.continue())
  })
  await demo.page.bringToFront()
  await press('s')
  await find(demo.page, '.note input:focus')
  await demo.page.keyboard.type('theirs')
  await press('Enter')
  await eventually(() => stateOf(who), 'settled')
  await other.bringToFront()
  await click(other, '[data-do]')
  await eventually(async () => (await other.$eval('.v-snackbar', (one) => one.textContent ?? '').catch(() => '')).includes('theirs'), true)
  expect(await other.$eval('.note input', (field) => (field as HTMLInputElement).value)).toBe('mine, not yet said')
  await eventually(() => textOf(other, '.told').then((text) => text.includes('settled: theirs')), true)
  expect(await rows(`select count(*)::int as n from review_mark where record = ${record} and run_id = ${runId} and ended_at is null`)).toEqual([{ n: 1 }])
  await other.close()
})

test('what was given by hand stands wherever the label does: on the bench, and in a column of the table that holds it', async () => {
  const one = (await all()).find(({ runId, landing }) => runId === 3 && landing.kind === 'label')!
  await demo.send('/review/acts', 'POST', { kind: 'overridden', of: { runId: 3, record: one.record, mark: null }, isAlike: false, note: 'seen at work', by: 'Ilo', outcomes: { Label: 'Crown' } })
  await open('/tables/2')
  await eventually(() => textOf(demo.page, `[data-record="${one.record}"] [data-by-hand]`), 'Crown')
  expect(await violationsOn(demo.page)).toEqual([])
  await open(`/gates/7?on=2`)
  await find(demo.page, '[data-tray]')
  await eventually(() => demo.page.$eval(`.records [data-record="${one.record}"] .was`, (was) => was.textContent), one.landing.kind === 'label' ? one.landing.label : '')
})

test('handed to somebody it waits for them, and is listed by person; one can see what waits for oneself', async () => {
  await open('/review?gate=1&kind=held')
  await find(demo.page, '.panel h2')
  const who = await inHand()
  await press('w')
  await find(demo.page, '.person input:focus')
  await demo.page.keyboard.type('Mara Ashcombe')
  await press('Enter')
  await eventually(() => demo.page.$eval(`[data-exception="${who}"]`, (row) => row.textContent!.includes('for Mara Ashcombe')), true)
  await eventually(async () => (await inHand()) === who, false)
  await choose(demo.page, '.filters > :nth-child(1)', 'by person')
  await eventually(() => demo.page.$$eval('[data-group] b', (all) => all.map((one) => one.textContent)), ['Nobody yet'])
  await choose(demo.page, '.filters > :nth-child(6)', 'for Mara Ashcombe')
  await eventually(() => demo.page.$$eval('[data-exception]', (all) => all.map((one) => (one as HTMLElement).dataset.exception)), [who])
  expect(await violationsOn(demo.page)).toEqual([])
})

test('after data has changed and it is run again: what was settled is carried or lapses as a short reference says', async () => {
  const before = (await all()).filter(({ runId, mark }) => runId === 1 && mark !== null)
  const moved = before.filter(({ state }) => state === 'settled').slice(0, 2)
  await demo.send('/tables/1/changes', 'POST', { kind: 'fill', reading: { decimalMark: 'point', dateOrder: 'year' }, column: idOf('Decay'), text: '40', filters: [], records: moved.map(({ record }) => record) })
  const { id } = await demo.send<Run>('/runs/1/again', 'POST', { as: 'now' })
  await eventually(async () => (await demo.ask<Run>(`/runs/${id}`)).state, 'done')
  const after = (await all()).filter(({ runId }) => runId === id)
  // A mark holds where the value that it was made for is the same; nothing else changed.
  const decay = new Map((await rows(`select record, trim_scale(i1)::text as decay from runs.r${id}`)).map(({ record, decay }) => [record as number, decay as string | null]))
  for (const { record, mark } of before) {
    const now = after.find((one) => one.record === record)
    if (now) expect([record, now.state]).toEqual([record, decay.get(record) === mark!.basis.values.Decay ? mark!.kind : 'lapsed'])
  }
  expect(after.filter(({ state }) => state === 'lapsed').map(({ record }) => record)).toEqual(expect.arrayContaining(moved.map(({ record }) => record)))
  await open('/review?shows=lapsed&gate=1')
  await find(demo.page, '[data-group=lapsed]')
  await eventually(() => textOf(demo.page, '.told').then((text) => /Lapsed was .* Decay .* → /.test(text.replace(/\s+/g, ' '))), true)
  expect(await violationsOn(demo.page)).toEqual([])
  await choose(demo.page, '.filters > :nth-child(2)', 'settled')
  await eventually(async () => (await demo.page.$$eval('[data-exception]', (all) => all.every((one) => (one as HTMLElement).dataset.state === 'settled'))), true)
})

test('the report says what SQL counts, with what became of the exceptions; it is light and bare in print, and its parts are chosen', async () => {
  const [latest] = await rows(`select max(id)::int as id from run where gate_id = 1 and state = 'done'`)
  const { id } = latest as { id: number }
  await demo.send('/gates/1/highlights', 'PUT', { seen: 0, highlights: [{ name: 'Nearly hollow', condition: 'Decay >= 60 and Status = "labelled"', colour: '#8e3424', mark: 'star', on: null, isException: false }] })
  await open(`/runs/${id}/report?by=${idOf('Ward')}`)
  await find(demo.page, '.paper[data-ready]')
  const labels = await rows(`select o1 as label, count(*)::int as records from runs.r${id} where o1 is not null group by 1`)
  const shown = await demo.page.$$eval('[data-section=counts] [data-label]', (all) => Object.fromEntries(all.map((row) => [(row as HTMLElement).dataset.label, Number(row.querySelector('td')!.textContent!.replaceAll(',', ''))])))
  expect(shown).toMatchObject(Object.fromEntries(labels.map(({ label, records }) => [label, records])))
  const [{ n: hollow } = {}] = await rows(`select count(*)::int as n from runs.r${id} where status = 0 and i1 >= 60`)
  expect(await demo.page.$eval('[data-section=highlights] tr', (row) => [row.querySelector('th')!.textContent!.trim(), Number(row.querySelector('.right')!.textContent)])).toEqual(['Nearly hollow', hollow])
  const wards = await rows(`select t.c${idOf('Ward')} as ward, count(*)::int as records from records.t1 t join runs.r${id} r using (record) where t.until is null group by 1 order by 1`)
  await find(demo.page, '[data-section=groups] tbody tr')
  expect(await demo.page.$$eval('[data-section=groups] tbody tr', (all) => all.map((row) => [row.querySelector('th')!.textContent, Number(row.querySelector('td')!.textContent)]))).toEqual(wards.map(({ ward, records }) => [ward, records]))
  const settled = (await all()).filter(({ runId, state }) => runId === id && state === 'settled')
  expect(await demo.page.$$eval('[data-section=exceptions] tbody tr', (all) => all.filter((row) => row.textContent!.includes('settled: ') && !row.textContent!.includes('was settled')).length)).toBe(settled.length)
  expect(await violationsOn(demo.page)).toEqual([])
  await demo.page.emulateMediaType('print')
  // Paper does not scroll.
  expect((await violationsOn(demo.page)).filter((one) => !one.startsWith('scrollable-region-focusable'))).toEqual([])
  expect(await demo.page.$eval('.top', (top) => getComputedStyle(top).display)).toBe('none')
  expect(await demo.page.$eval('.paper', (paper) => getComputedStyle(paper).backgroundColor)).toBe('rgb(255, 255, 255)')
  expect((await demo.page.pdf({ format: 'a4' })).length).toBeGreaterThan(10_000)
  await demo.page.emulateMediaType('screen')
  await click(demo.page, '.choices ::-p-text(Exceptions)')
  await eventually(() => demo.page.$$eval('[data-section=exceptions]', (all) => all.length), 0)
  await demo.page.reload({ waitUntil: 'networkidle0' })
  await find(demo.page, '.paper[data-ready]')
  expect(await demo.page.$$eval('[data-section]', (all) => all.map((one) => (one as HTMLElement).dataset.section))).not.toContain('exceptions')
})
