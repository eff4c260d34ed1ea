import { existsSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Gate } from '@dime-gate/contract/gate'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { violationsOn } from './testing/axe'
import { type Demo, openDemo } from './testing/demo'
import { click, eventually, find, textOf } from './testing/dime-gate'

let demo: Demo
let trees: Table
beforeAll(async () => {
  demo = await openDemo()
  await eventually(async () => (await demo.ask<Run>('/runs/1')).state, 'done')
  trees = await demo.ask<Table>('/tables/1')
})
afterAll(() => demo.close())

const idOf = (name: string) => trees.columns.find((column) => column.name === name)!.id
const open = async (path: string) => {
  await demo.page.goto(`${demo.address}${path}`, { waitUntil: 'networkidle0' })
}
const figures = (selector: string) => demo.page.$$eval(selector, (all) => all.map((one) => (one as HTMLElement).innerText.trim()))
const fill = (column: string, text: string, records: number[]) =>
  demo.send(`/tables/1/changes`, 'POST', { kind: 'fill', reading: { decimalMark: 'point', dateOrder: 'year' }, column: idOf(column), text, filters: [], records })

test('by group: what stands in the page is what SQL counts, sorted by any, and one step from the records', async () => {
  const { rows } = await demo.database.query<{ ward: string; records: number; failing: number }>(`
    select t.c${idOf('Ward')} as ward, count(*)::int as records, count(*) filter (where r.o1 = 'Failing')::int as failing from records.t1 t join runs.r1 r using (record) where t.until is null group by 1 order by 1`)
  await open(`/runs/1?by=${idOf('Ward')}&of=label%20Failing`)
  await find(demo.page, '[data-group="Quayside"]')
  const shown = Object.fromEntries(await demo.page.$$eval('tr[data-group]', (all) => all.map((row) => [(row as HTMLElement).dataset.group!, [...row.querySelectorAll('td.figure')].map((cell) => cell.textContent!.trim())])))
  const share = (part: number, whole: number) => `${((100 * part) / whole).toFixed(1)} %`
  expect(shown).toEqual(Object.fromEntries(rows.map(({ ward, records, failing }) => [ward, [String(records), share(failing, records)]])))
  await click(demo.page, '.share button')
  const highest = rows.toSorted((a, b) => b.failing / b.records - a.failing / a.records)[0]!
  await eventually(async () => (await figures('tbody th'))[0], highest.ward)
  await click(demo.page, `[data-group="${highest.ward}"] th button`)
  await find(demo.page, `.chip ::-p-text(Ward: ${highest.ward})`)
  await eventually(async () => (await textOf(demo.page, '.tools [role=status]')).startsWith(String(highest.records)), true)
  // What is chosen comes back with the address.
  await demo.page.reload({ waitUntil: 'networkidle0' })
  await find(demo.page, `.chip ::-p-text(Ward: ${highest.ward})`)
  await eventually(async () => (await figures('tbody th'))[0], highest.ward)
  await click(demo.page, `[data-group="${highest.ward}"] [aria-label^="${highest.ward}, Failing:"]`)
  await eventually(async () => (await textOf(demo.page, '.tools [role=status]')).startsWith(String(highest.failing)), true)
  expect(await violationsOn(demo.page)).toEqual([])
  await click(demo.page, '[data-side=figures]')
  await find(demo.page, 'td.wide')
  expect(await violationsOn(demo.page)).toEqual([])
})

test('what is expected of a group, or of one record, is checked as the draft is worked on', async () => {
  const [quayside] = (await demo.database.query<{ failing: number; all: number }>(`select count(*) filter (where r.o1 = 'Failing')::int as failing, count(*)::int as all from records.t1 t join runs.r1 r using (record) where t.until is null and t.c${idOf('Ward')} = 'Quayside'`)).rows
  const [sound] = (await demo.database.query<{ tree: string }>(`select c${idOf('Tree no')} as tree from records.t1 t join runs.r1 r using (record) where t.until is null and r.o1 = 'Sound' limit 1`)).rows
  const within = { column: idOf('Ward'), value: 'Quayside' }
  const kept = await demo.send<{ id: number }[]>('/gates/1/expectations', 'POST', { add: [
    { tableId: 1, expectation: { kind: 'count', of: { kind: 'label', label: 'Failing' }, bounds: { as: 'count', low: null, high: String(quayside!.failing - 1) }, within } },
    { tableId: 1, expectation: { kind: 'record', who: [{ column: idOf('Tree no'), value: sound!.tree }], label: 'Sound' } },
  ] })
  await open('/gates/1?on=1')
  const told = (words: string) => demo.page.$$eval('[data-expected]', (all, part) => all.filter((one) => one.textContent!.includes(part)).map((one) => (one as HTMLElement).dataset.expected)[0], words)
  await eventually(() => told('Quayside'), 'missed')
  await eventually(() => told(sound!.tree), 'met')
  // Fewer fail where the last cut lies higher.
  await demo.page.click('[data-cut="2"] input', { clickCount: 3 })
  await demo.page.keyboard.type('95')
  await demo.page.keyboard.press('Enter')
  await eventually(() => told('Quayside'), 'met')
  await demo.page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await demo.page.keyboard.press('u')
  await eventually(() => told('Quayside'), 'missed')
  for (const { id } of kept.slice(-2)) await demo.send(`/gates/1/expectations/${id}`, 'DELETE', {})
})

test('months of a date, found text, and sorting by a column that the gate does not look at', async () => {
  const { rows } = await demo.database.query<{ year: string; records: number }>(`select to_char(c${idOf('Planted')}, 'YYYY') as year, count(*)::int as records from records.t1 where until is null and c${idOf('Planted')} is not null group by 1 order by 1`)
  await open(`/runs/1?by=${idOf('Planted')}&part=year&tray=${encodeURIComponent('{"kind":"all"}')}`)
  await find(demo.page, '[data-group="2001"]')
  expect(await demo.page.$$eval('tr[data-group]', (all) => all.map((row) => [(row as HTMLElement).dataset.group!, Number(row.querySelector('td.figure')!.textContent)]).filter(([name]) => name !== 'blank'))).toEqual(rows.map(({ year, records }) => [year, records]))
  await demo.page.keyboard.press('f')
  await demo.page.keyboard.type('ginkgo')
  await demo.page.keyboard.press('Enter')
  const found = (await demo.database.query<{ n: number }>(`select count(*)::int as n from records.t1 where until is null and c${idOf('Species')} ilike '%ginkgo%'`)).rows[0]!.n
  await eventually(async () => (await textOf(demo.page, '.tools [role=status]')).startsWith(String(found)), true)
  await click(demo.page, '.records [role=columnheader] button[title="Sort by Height"]')
  const tallest = (await demo.database.query<{ no: string }>(`select c${idOf('Tree no')} as no from records.t1 where until is null and c${idOf('Species')} ilike '%ginkgo%' order by c${idOf('Height')} desc nulls last, record limit 1`)).rows[0]!.no
  await eventually(async () => (await textOf(demo.page, '.records .body [role=row][aria-rowindex="2"]')).includes(tallest), true)
})

test('the chart is taken as a picture, with the counts that stand in the page', async () => {
  await open('/runs/1')
  await click(demo.page, '.trays .link')
  await click(demo.page, '.v-list-item ::-p-text(SVG)')
  const file = join(demo.folder, 'Decay band, run 1.svg')
  await eventually(async () => existsSync(file), true)
  const sound = (await demo.database.query<{ n: number }>("select count(*)::int as n from runs.r1 where o1 = 'Sound'")).rows[0]!.n
  expect(await readFile(file, 'utf8')).toContain(`<title>Sound: ${sound}, `)
  await click(demo.page, '.trays .link')
  await click(demo.page, '.v-list-item ::-p-text(PNG)')
  await eventually(async () => (await readFile(join(demo.folder, 'Decay band, run 1.png'))).subarray(1, 4).toString(), 'PNG')
})

test('what is expected is stated by keyboard, told at once where it is missed, on the desk, and taken back', async () => {
  await open('/runs/1')
  await find(demo.page, '[data-expected=missed]')
  const missed = async () => (await figures('[data-expected=missed] .words')).toSorted()
  expect(await missed()).toEqual(['unreadable none'])
  await demo.page.keyboard.press('x')
  await find(demo.page, '.v-dialog input')
  await demo.page.keyboard.type('Weak')
  await find(demo.page, '.v-list-item')
  await demo.page.keyboard.press('ArrowDown')
  await demo.page.keyboard.press('Enter')
  await click(demo.page, '.v-dialog .v-text-field:not(.v-select) input[inputmode=decimal]')
  await demo.page.keyboard.type('90')
  await find(demo.page, '.told ::-p-text(Weak at most 90)')
  expect(await violationsOn(demo.page)).toEqual([])
  await demo.page.keyboard.press('Enter')
  await eventually(missed, ['Weak at most 90', 'unreadable none'])
  const weak = (await demo.database.query<{ n: number }>("select count(*)::int as n from runs.r1 where o1 = 'Weak'")).rows[0]!.n
  expect((await figures('[data-expected=missed] .came')).toSorted()).toEqual(['2, 2 too many', `${weak}, ${weak - 90} too many`].toSorted())
  await find(demo.page, 'header ::-p-text(2 expectations missed)')
  // Those nearest to an end of the band come first.
  await click(demo.page, '[data-expected=missed] .link')
  await eventually(() => textOf(demo.page, '[data-tab=nearest]'), `nearest to leaving Weak ${weak - 90}`)
  const nearest = (await demo.database.query<{ record: number }>("select record from runs.r1 where o1 = 'Weak' order by least(i1 - 25, 40 - i1), record limit $1", [weak - 90])).rows.map(({ record }) => record)
  const listed = () => demo.page.$$eval('.records .body [data-record]', (all) => all.map((row) => Number((row as HTMLElement).dataset.record)))
  await eventually(listed, nearest)
  await open('/')
  await find(demo.page, '[data-run="Decay band 1"] ::-p-text(2 expectations missed)')
  await open('/gates/1?on=1')
  await eventually(missed, ['Weak at most 90', 'unreadable none'])
  // The draft is as the version that was run, and so are those that would mend it.
  await click(demo.page, '[data-expected=missed] .link')
  await eventually(listed, nearest)
  expect(await violationsOn(demo.page)).toEqual([])
  await click(demo.page, '[aria-label="No longer expect: Weak at most 90"]')
  await eventually(missed, ['unreadable none'])
  await click(demo.page, '.v-snackbar ::-p-text(Take it back)')
  await eventually(missed, ['Weak at most 90', 'unreadable none'])
})

test('a run suggests what to expect of the next ones, and meets it', async () => {
  await open('/runs/1')
  await find(demo.page, '[data-expected=missed]')
  await demo.page.keyboard.press('x')
  await click(demo.page, '.v-dialog [data-side=proposed]')
  await click(demo.page, '.v-dialog ::-p-text(Expect these)')
  // All but the two that were missed before, and there are more of them now.
  const before = 5
  await eventually(async () => {
    const { length } = await demo.ask<object[]>('/runs/1/checks')
    return length > before && Number((await figures('.beside summary'))[0]!.split(' ')[0]) === length - 2
  }, true)
})

test('after planted changes a run made again, now, says what moved and why, each cause by its records; the same again gives the same', async () => {
  const gate = await demo.ask<Gate>('/gates/1')
  const landed = async (id: number) => new Map((await demo.database.query<{ record: number; at: string }>(`select record, coalesce(o1, status::text) as at from runs.r${id} order by record`)).rows.map(({ record, at }) => [record, at]))
  const before = await landed(1)
  const sound = [...before].filter(([, at]) => at === 'Sound').map(([record]) => record)
  const held = [...before].filter(([, at]) => !['Sound', 'Watch', 'Weak', 'Failing'].includes(at)).map(([record]) => record)
  // Six values, three blanks, a cut from 40 to 41 with records on it, and three records that need both.
  await fill('Decay', '90', sound.slice(0, 6))
  const blanks = (await demo.database.query<{ record: number }>(`select record from records.t1 where until is null and c${idOf('Decay')} is null and record = any($1) and (written ->> '${idOf('Decay')}') is null limit 3`, [held])).rows.map(({ record }) => record)
  await fill('Decay', '5', blanks)
  await fill('Decay', '40.5', sound.slice(6, 9))
  const draft = { ...(gate.draft as ScaleGate), cuts: (gate.draft as ScaleGate).cuts.map((cut) => (cut.at === '40' ? { ...cut, at: '41' } : cut)) }
  await demo.send('/gates/1/draft', 'PUT', { draft, seen: gate.draftVersion })
  await demo.send('/gates/1/versions', 'POST', { seen: gate.draftVersion + 1 })
  await open('/runs/1')
  await find(demo.page, '.trays')
  await demo.page.keyboard.press('n')
  await find(demo.page, '.comparison .whole')
  const id = Number(new URL(demo.page.url()).pathname.split('/').at(-1))
  const after = await landed(id)
  const moved = [...after].filter(([record, at]) => before.get(record) !== at).map(([record]) => record)
  expect(await textOf(demo.page, '.whole')).toContain(`${after.size - moved.length}`.replace(/^1(\d{3})$/, '1,$1'))
  await find(demo.page, '[data-reason]')
  const told = Object.fromEntries(await demo.page.$$eval('[data-reason]', (all) => all.map((one) => [(one as HTMLElement).dataset.reason!, Number(one.querySelector('b')!.textContent)])))
  const planted = new Set([...sound.slice(0, 9), ...blanks])
  // With the old cut 40.5 would be failing, with the new one it is weak: it takes both.
  expect(told).toEqual({ gate: moved.filter((record) => !planted.has(record)).length, value: 6, 'blank filled': 3, 'gate + value': 3 })
  expect(await violationsOn(demo.page)).toEqual([])
  await click(demo.page, '[data-reason="blank filled"]')
  await eventually(async () => (await demo.page.$$eval('[data-moved]', (all) => all.map((one) => Number((one as HTMLElement).dataset.moved)))).toSorted((a, b) => a - b), blanks.toSorted((a, b) => a - b))
  expect(await textOf(demo.page, `[data-moved="${blanks[0]}"]`)).toContain('Decay blank → 5')
  await demo.page.keyboard.press('Escape')
  await eventually(() => textOf(demo.page, '.shown .here'), `all that moved ${moved.length}`)
  await click(demo.page, 'header ::-p-text(Swap)')
  await eventually(async () => new URL(demo.page.url()).pathname, `/runs/${id}/against/1`)
  await find(demo.page, '[data-reason="gate"]')
  await open('/runs/1')
  await find(demo.page, `header .fresh ::-p-text(${moved.length} records would now get something else)`)
  // One of them: what it got and why, its value then and now, and what it got in both runs.
  await click(demo.page, '[data-tab=all]')
  await click(demo.page, `[data-record="${sound[0]}"] [data-cell=label]`)
  await find(demo.page, '.record [data-value="Decay (%)"] ::-p-text(now 90)')
  await find(demo.page, '.record [data-in-run="1"] ::-p-text(Sound)')
  await find(demo.page, '.record [data-in-run="2"] ::-p-text(Failing)')
  expect(await violationsOn(demo.page)).toEqual([])
  // Against the draft, of which no version is set yet: those that moved before, and those that another cut takes.
  await demo.send('/gates/1/draft', 'PUT', { draft: { ...draft, cuts: draft.cuts.map((cut) => (cut.at === '25' ? { ...cut, at: '22' } : cut)) }, seen: gate.draftVersion + 1 })
  await click(demo.page, 'header ::-p-text(Compare with)')
  await click(demo.page, '.v-list-item ::-p-text(as it is now)')
  await find(demo.page, 'h1 ::-p-text(the draft)')
  await find(demo.page, 'aside ::-p-text(the draft)')
  const taken = (await demo.database.query<{ n: number }>(`select count(*)::int as n from runs.r${id} where i1 >= 22 and i1 < 25`)).rows[0]!.n
  await eventually(() => textOf(demo.page, '.shown .here'), `all that moved ${moved.length + taken}`)
  await find(demo.page, '[role=columnheader] ::-p-text(Draft)')
  expect(await violationsOn(demo.page)).toEqual([])
  await open('/runs/1')
  await click(demo.page, 'header ::-p-text(Again)')
  await click(demo.page, '.v-list-item ::-p-text(The same again)')
  await find(demo.page, '.whole ::-p-text(Every one of 1,240 records got the same.)')
  await find(demo.page, 'aside ::-p-text(Nothing: both were made of the same.)')
})

test('highlights: one label in a step, a condition of one’s own, on records and values, in order, on the bench too; kept, and in what is taken out', async () => {
  await open(`/runs/1?tray=${encodeURIComponent('{"kind":"all"}')}`)
  await click(demo.page, '[data-highlights] .point')
  await click(demo.page, '.v-list-item ::-p-text(Failing)')
  const failing = (await demo.database.query<{ n: number }>(`select count(*)::int as n from runs.r1 where o1 = 'Failing'`)).rows[0]!.n
  const shownOf = (name: string) => textOf(demo.page, `[data-highlight="${name}"] .records`).then((text) => Number(text.split(' ')[0]))
  await eventually(() => shownOf('Failing'), failing)
  // By the keyboard: a name, what it points out, a test.
  await demo.page.keyboard.press('h')
  await find(demo.page, '.highlight input:focus')
  await demo.page.keyboard.type('Near a cut')
  await click(demo.page, '.highlight .on')
  await click(demo.page, '.v-list-item ::-p-text(Decay)')
  await click(demo.page, '.highlight [data-field=subject] input')
  await demo.page.keyboard.type('Decay from')
  await demo.page.keyboard.press('Enter')
  await find(demo.page, '.highlight [data-field="value 0"]')
  await click(demo.page, '.highlight [data-field=relation] input')
  await demo.page.keyboard.type('at most')
  await demo.page.keyboard.press('Enter')
  await click(demo.page, '.highlight [data-field="value 0"]')
  await demo.page.keyboard.type('0.5')
  await demo.page.keyboard.press('Tab')
  const near = (await demo.database.query<{ n: number }>(`select count(*)::int as n from runs.r1 where least(abs(i1 - 12), abs(i1 - 25), abs(i1 - 40)) <= 0.5`)).rows[0]!.n
  await eventually(() => textOf(demo.page, '.highlight [role=status]'), `${near} records here`)
  expect(await violationsOn(demo.page)).toEqual([])
  await click(demo.page, '.highlight [type=submit]')
  await eventually(() => shownOf('Near a cut'), near)
  // Listed by what is pointed out, each row says so.
  await click(demo.page, '.chips ::-p-text(Near a cut)')
  await eventually(async () => (await demo.page.$$eval('.records .body [data-cell=label]', (all) => all.every((one) => one.getAttribute('data-met')?.includes('Near a cut')))), true)
  await eventually(() => textOf(demo.page, '[data-tab=highlighted]'), `Near a cut ${near}`)
  expect(await violationsOn(demo.page)).toEqual([])
  await demo.page.reload({ waitUntil: 'networkidle0' })
  await eventually(() => textOf(demo.page, '[data-tab=highlighted]'), `Near a cut ${near}`)
  // The order is one's own, and comes back.
  await click(demo.page, '[data-highlight="Near a cut"] .more')
  await click(demo.page, '.v-list-item ::-p-text(Further up)')
  await eventually(() => demo.page.$$eval('[data-highlight]', (all) => all.map((one) => (one as HTMLElement).dataset.highlight)), ['Near a cut', 'Failing'])
  const csv = await (await fetch(`${demo.address}/api/v1/runs/1/labelled.csv`)).text()
  expect(csv.split('\r\n').filter((line) => /Near a cut/.test(line)).length).toBe(near)
  // The bench points out what its draft gives of the records as they are by now.
  await open('/gates/1')
  const decay = `c${idOf('Decay')}`
  const { cuts } = (await demo.ask<Gate>('/gates/1')).draft as ScaleGate
  const distance = `least(${cuts.map(({ at }) => `abs(${decay} - ${at})`).join(', ')})`
  const worst = `${decay} ${cuts.at(-1)!.owner === 'above' ? '>=' : '>'} ${cuts.at(-1)!.at} and ${decay} <= 100`
  const [draft] = (await demo.database.query<{ near: number; failing: number }>(`select count(*) filter (where ${distance} <= 0.5)::int as near, count(*) filter (where ${worst})::int as failing from records.t1 where until is null`)).rows
  await eventually(() => textOf(demo.page, '.chips').then((text) => text.replace(/\s+/g, ' ')), `Near a cut ${draft!.near} Failing ${draft!.failing}`)
  // Removed, and taken back.
  await click(demo.page, '[data-highlight="Near a cut"] .more')
  await click(demo.page, '.v-list-item ::-p-text(Remove it)')
  await eventually(() => demo.page.$$eval('[data-highlight]', (all) => all.length), 1)
  await click(demo.page, 'button ::-p-text(Take it back)')
  await eventually(() => demo.page.$$eval('[data-highlight]', (all) => all.length), 2)
})

test('a highlight looks at a column that the gate does not, and points it out beside what the gate looks at, on the run and on the bench', async () => {
  await open(`/runs/1?tray=${encodeURIComponent('{"kind":"all"}')}`)
  await find(demo.page, '[data-highlights]')
  await demo.page.keyboard.press('h')
  await find(demo.page, '.highlight input:focus')
  await demo.page.keyboard.type('By a school')
  await click(demo.page, '.highlight [data-field=subject] input')
  await demo.page.keyboard.type('Stands')
  await demo.page.keyboard.press('Enter')
  await find(demo.page, '.highlight [data-field="value 0"]')
  await click(demo.page, '.highlight [data-field="value 0"]')
  await demo.page.keyboard.type('school')
  await demo.page.keyboard.press('Enter')
  const standsBy = `c${idOf('Stands by')}`
  const schools = async () => (await demo.database.query<{ n: number }>(`select count(*)::int as n from records.t1 where until is null and ${standsBy} = 'school'`)).rows[0]!.n
  await eventually(() => textOf(demo.page, '.highlight [role=status]'), `${await schools()} records here`)
  // There is no list behind the dialog that could show what a test holds for: it is told, and is no button.
  expect(await demo.page.$$eval('.highlight .holds', (all) => all.map((one) => one.tagName))).toEqual(['SPAN'])
  await click(demo.page, '.highlight .on')
  await demo.page.keyboard.type('Stands')
  await click(demo.page, '.v-list-item ::-p-text(Stands by)')
  await click(demo.page, '.highlight [type=submit]')
  await click(demo.page, '.chips ::-p-text(By a school)')
  await eventually(() => textOf(demo.page, '[data-tab=highlighted]'), `By a school ${await schools()}`)
  const isBeside = () => demo.page.$$eval('.records [role=columnheader]', (all) => all.slice(0, 5).some((one) => one.textContent!.includes('Stands by')))
  await eventually(isBeside, true)
  await open('/gates/1')
  await click(demo.page, '.chips ::-p-text(By a school)')
  await eventually(() => textOf(demo.page, '[data-tab=highlighted]'), `By a school ${await schools()}`)
  await eventually(isBeside, true)
})
