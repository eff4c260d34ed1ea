/** Scales of the demo made from nothing through the page, by hand and by key, and what else is cut than numbers: counts are those of plain SQL. */
import type { Gate } from '@dime-gate/contract/gate'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { plainScale } from '@dime-gate/core/gate/scale-gate'
import { anInput, band } from '@dime-gate/core/testing/a-gate'
import { violationsOn } from './testing/axe'
import { type Demo, openDemo } from './testing/demo'
import { bandCounts, chooseFile, click, eventually, find, focus } from './testing/dime-gate'
import { handOn, type Hand } from './testing/hand'
import { keysOn } from './testing/keys'

let gate: Demo
beforeAll(async () => {
  gate = await openDemo()
})
afterAll(() => gate.close())

const TREES = 1
const COURSE = 2
const ask = <Answer>(path: string) => gate.ask<Answer>(path)
const keys = () => keysOn(gate.page, gate.address)
const focused = () => keys().focused()
const tabTo = (what: string) => keys().tabTo(what)
const draft = async () => (await ask<Gate>(`/gates/${/gates\/(\d+)/.exec(gate.page.url())![1]}`)).draft

/** Records for which a condition holds, with columns by their names between braces. */
async function sql(table: number, condition: string): Promise<number> {
  const { columns } = await ask<Table>(`/tables/${table}`)
  const written = condition.replaceAll(/\{([^}]+)\}/g, (_, name: string) => `c${columns.find((one) => one.name === name)!.id}`)
  const { rows } = await gate.database.query<{ records: string }>(`select count(*) as records from records.t${table} where until is null and ${written}`)
  return Number(rows[0]!.records)
}
/** One after the other, as a connection takes questions. */
async function counted(table: number, bands: readonly [label: string, condition: string][]): Promise<[string, number][]> {
  const found: [string, number][] = []
  for (const [label, condition] of bands) found.push([label, await sql(table, condition)])
  return found
}

async function newScale(by: Hand, table: number, column: string): Promise<void> {
  await gate.page.goto(`${gate.address}/tables/${table}`, { waitUntil: 'networkidle0' })
  await by.key('n')
  await find(gate.page, '[role=dialog] .start:not(:disabled)')
  await by.click('[role=dialog] [data-side=scale]')
  await by.click(`[role=dialog] .choice ::-p-text(${column})`)
  await find(gate.page, '[data-band]')
}

async function cutByChart(by: Hand, chart: string): Promise<void> {
  await by.click('::-p-text(Cut by …)')
  await by.click('.cuts .v-select')
  await by.click('.v-list-item ::-p-text(a chart that is pasted)')
  await eventually(focused, 'A chart of thresholds and labels')
  await by.type(chart)
  await find(gate.page, '.cuts ol li')
  await by.click('::-p-text(Cut so)')
}

const DECAY: [string, string][] = [['Failing', '{Decay} >= 40 and {Decay} <= 100'], ['Weak', '{Decay} >= 25 and {Decay} < 40'], ['Watch', '{Decay} >= 12 and {Decay} < 25'], ['Sound', '{Decay} >= 0 and {Decay} < 12']]

test('Decay band: a chart is pasted on the bench, and its ends are set', async () => {
  const by = handOn(gate.page)
  await newScale(by, TREES, 'Decay')
  await cutByChart(by, '40\tFailing\n25\tWeak\n12\tWatch\n0\tSound')
  await eventually(() => bandCounts(gate.page), await counted(TREES, DECAY.map(([label, condition]) => [label, condition.replace(' and {Decay} <= 100', '')])))
  await by.click('[data-end=ceiling] button')
  await eventually(focused, 'ceiling')
  await by.type('100')
  await by.key('Enter')
  await eventually(() => bandCounts(gate.page), await counted(TREES, DECAY))
  await eventually(async () => (await draft() as { ceiling: unknown }).ceiling !== null, true)
  expect(await draft()).toMatchObject({ form: 'scale', on: 'Decay', floor: { at: '0', included: true }, ceiling: { at: '100' }, outcomes: [{ labels: [{ value: 'Sound' }, { value: 'Watch' }, { value: 'Weak' }, { value: 'Failing' }] }] })
  expect(await violationsOn(gate.page)).toEqual([])
})

/** To a new scale and the list of its cuts, with nothing but keys. */
async function cutByKeys(table: number, column: string): Promise<void> {
  const { page } = gate
  await keys().newGate(table, 'Scale', [column], '[data-band]')
  await page.focus('main')
  await tabTo('Cut by')
  await page.keyboard.press('Enter')
  await eventually(focused, 'Cuts in a list')
}

test('Decay band by keyboard alone', async () => {
  const { page } = gate
  await cutByKeys(TREES, 'Decay')
  await page.keyboard.type('12, 25, 40')
  await page.keyboard.press('Enter')
  await eventually(async () => (await bandCounts(page)).length, 4)
  for (const label of ['Failing', 'Weak', 'Watch', 'Sound']) {
    await tabTo('Name of the band')
    await page.keyboard.down('Control')
    await page.keyboard.press('a')
    await page.keyboard.up('Control')
    await page.keyboard.type(label)
    await page.keyboard.press('Enter')
    await find(page, `[data-band="${label}"]`)
    await focus(page, `[data-band="${label}"] .shows`)
    await page.keyboard.press('Tab')
  }
  await page.focus('main')
  for (const end of ['floor', 'ceiling']) {
    await tabTo(`no ${end}`)
    await page.keyboard.press('Enter')
    await eventually(focused, end)
    await page.keyboard.type(end === 'floor' ? '0' : '100')
    await page.keyboard.press('Enter')
  }
  await eventually(() => bandCounts(page), await counted(TREES, DECAY))
})

test('a name stays as far as it is typed while a cut moves and the bands are counted anew', async () => {
  const { page } = gate
  const inSound = async () => (await bandCounts(page)).at(-1)![1]
  const before = await inSound()
  await focus(page, '[data-band="Sound"] input.name')
  await page.keyboard.down('Control')
  await page.keyboard.press('a')
  await page.keyboard.up('Control')
  await page.keyboard.type('Soun')
  const nudge = (key: string) => page.$eval('[data-post="0"]', (post, which) => post.dispatchEvent(new KeyboardEvent('keydown', { key: which, bubbles: true })), key)
  const cut = () => page.$eval('[data-cut="0"] input', (field) => (field as HTMLInputElement).value)
  await nudge('ArrowRight')
  await eventually(async () => (await cut()) !== '12' && (await inSound()) > before, true)
  await nudge('ArrowLeft')
  await eventually(inSound, before)
  await page.keyboard.type('est')
  await page.keyboard.press('Enter')
  await find(page, '[data-band="Sounest"]')
  await page.keyboard.press('u')
  await find(page, '[data-band="Sound"]')
})

test('a stretch is looked at more closely, its cuts are moved there, and all of it is seen again', async () => {
  const { page } = gate
  const shown = () => page.$$eval('.post', (posts) => posts.filter((post) => (post as SVGElement).style.display !== 'none').length)
  const line = (await (await find(page, '.cut-line svg')).boundingBox())!
  const [from, to] = await page.$$eval('.post', (posts) => posts.slice(0, 2).map((post) => post.getBoundingClientRect().x))
  expect(await shown()).toBe(3)
  // From within the lowest band to shortly before the second cut.
  await page.mouse.move(from! - 40, line.y + 60)
  await page.mouse.down()
  await page.mouse.move(to! - 30, line.y + 60, { steps: 5 })
  await page.mouse.up()
  await eventually(shown, 1)
  await focus(page, '[data-post="0"]')
  await page.keyboard.press('ArrowRight')
  const cut = await page.$eval('[data-cut="0"] input', (field) => (field as HTMLInputElement).value)
  await eventually(async () => (await bandCounts(page))[3], ['Sound', await sql(TREES, `{Decay} >= 0 and {Decay} < ${cut}`)])
  await page.keyboard.press('z')
  await eventually(shown, 3)
  await page.keyboard.press('z')
  await eventually(shown, 2)
  await click(page, '::-p-text(See all)')
  await eventually(shown, 3)
})

/** A new scale from a chart, with nothing but keys. */
async function scaleByKeys(table: number, column: string, chart: string): Promise<void> {
  const { page } = gate
  await cutByKeys(table, column)
  await page.keyboard.down('Shift')
  await page.keyboard.press('Tab')
  await page.keyboard.up('Shift')
  await page.keyboard.type('a c')
  await eventually(focused, 'A chart of thresholds and labels')
  await page.keyboard.type(chart)
  await find(page, '.cuts ol li')
  await tabTo('Cut so')
  await page.keyboard.press('Enter')
}

test('Stem slenderness and Course award by keyboard alone', async () => {
  await scaleByKeys(TREES, 'Slenderness', '80 Whip\n50 Slender\nbelow 50 Stout')
  const ratio = '{Height} * 100 / nullif({Trunk}, 0)'
  await eventually(() => bandCounts(gate.page), await counted(TREES, [['Whip', `${ratio} >= 80`], ['Slender', `${ratio} >= 50 and ${ratio} < 80`], ['Stout', `${ratio} < 50`]]))
  await scaleByKeys(COURSE, 'Mean of modules', '4 Crown\n3 Climb\n2 Ground\n0 Come again')
  await eventually(async () => (await bandCounts(gate.page)).map(([label]) => label), ['Crown', 'Climb', 'Ground', 'Come again'])
  await tabTo('Findings')
  await gate.page.keyboard.press('ArrowRight')
  await gate.page.keyboard.press('ArrowRight')
  await tabTo('Add an outcome')
  await gate.page.keyboard.press('Enter')
  await gate.page.focus('main')
  for (const [label, points] of [['Crown', '3'], ['Climb', '2'], ['Ground', '1'], ['Come again', '0']] as const) {
    await tabTo(`Wording of ${label}`)
    await gate.page.keyboard.type(points)
    await gate.page.keyboard.press('Enter')
  }
  await eventually(async () => ((await draft()) as { bands: { entries: unknown[] }[] }).bands.map(({ entries }) => entries[1]), ['0', '1', '2', '3'].map((points) => ({ is: points })))
})

test('Stem slenderness, on a figure of the table', async () => {
  const by = handOn(gate.page)
  await newScale(by, TREES, 'Slenderness')
  await cutByChart(by, '80\tWhip\n50\tSlender\nbelow 50\tStout')
  const ratio = '{Height} * 100 / nullif({Trunk}, 0)'
  await eventually(() => bandCounts(gate.page), await counted(TREES, [['Whip', `${ratio} >= 80`], ['Slender', `${ratio} >= 50 and ${ratio} < 80`], ['Stout', `${ratio} < 50`]]))
  // What is told in the middle of it stays: a cut that moves under the keys.
  await focus(gate.page, '[data-post="0"]')
  await by.key('ArrowRight')
  const cut = () => gate.page.$eval('[data-cut="0"] input', (field) => (field as HTMLInputElement).value)
  await eventually(async () => (await cut()) !== '50', true)
  await eventually(async () => (await bandCounts(gate.page))[2], ['Stout', await sql(TREES, `${ratio} < ${await cut()}`)])
})

test('Course award: the mean of a set of columns, with points beside the award', async () => {
  const by = handOn(gate.page)
  await newScale(by, COURSE, 'Mean of modules')
  await cutByChart(by, '4\tCrown\n3\tClimb\n2\tGround\n0\tCome again')
  await by.click('aside [data-side=labels]')
  await by.click('::-p-text(Add an outcome)')
  await eventually(async () => (await draft()).outcomes.length, 2)
  await by.click('.outcome .kind')
  await by.click('.v-list-item ::-p-text(number)')
  for (const [label, points] of [['Crown', '3'], ['Climb', '2'], ['Ground', '1'], ['Come again', '0']] as const) {
    await by.click(`[data-band="${label}"] .other [role=combobox]`)
    await by.type(points)
    await by.key('Enter')
    await eventually(() => gate.page.$eval(`[data-band="${label}"] .other [role=combobox]`, (field) => (field as HTMLInputElement).value), points)
  }
  await eventually(async () => ((await draft()) as { bands: { entries: unknown[] }[] }).bands.map(({ entries }) => entries[1]), ['0', '1', '2', '3'].map((points) => ({ is: points })))
  const modules = Array.from({ length: 6 }, (_, at) => `{Module ${at + 1}}`)
  const mean = `(select avg(one) from unnest(array[${modules.join()}]) one)`
  await eventually(() => bandCounts(gate.page), await counted(COURSE, [['Crown', `${mean} >= 4`], ['Climb', `${mean} >= 3 and ${mean} < 4`], ['Ground', `${mean} >= 2 and ${mean} < 3`], ['Come again', `${mean} >= 0 and ${mean} < 2`]]))
})

test('another table is laid over the line, as the gate is bound there; where it is not, that is said', async () => {
  const { page } = gate
  const { gates, tables } = await ask<{ gates: { id: number; name: string }[]; tables: { id: number; name: string }[] }>('/desk')
  const { id } = gates.find(({ name }) => name === 'Course award')!
  const night = tables.find(({ name }) => name === 'Night course')!.id
  await page.goto(`${gate.address}/gates/${id}?on=${COURSE}`, { waitUntil: 'networkidle0' })
  const lay = async () => {
    await click(page, '::-p-text(another table over it)')
    await click(page, '.v-list-item ::-p-text(Night course)')
  }
  await lay()
  await find(page, '::-p-text(Night course has no column named Modules)')
  const { columns } = await ask<Table>(`/tables/${night}`)
  const marks = columns.filter(({ name }) => name.startsWith('Mark ')).map((one) => one.id)
  await fetch(`${gate.address}/api/v1/gates/${id}/bindings/${night}`, { method: 'PUT', body: JSON.stringify({ inputs: { Modules: { columns: marks } }, seen: 0 }) })
  await lay()
  await find(page, '.outline')
  expect(await violationsOn(page)).toEqual([])
  await click(page, '[aria-label="Take Night course off the line"]')
  await eventually(async () => (await page.$('.outline')) === null, true)
  // One table after another is drawn as it would be by itself.
  const trees = (await ask<Table>(`/tables/${TREES}`)).columns
  const lengths = ['Height', 'Lean'].map((name) => trees.find((one) => one.name === name)!.id)
  await fetch(`${gate.address}/api/v1/gates/${id}/bindings/${TREES}`, { method: 'PUT', body: JSON.stringify({ inputs: { Modules: { columns: lengths } }, seen: 0 }) })
  const drawn = async () => {
    await click(page, '::-p-text(another table over it)')
    await click(page, '.v-list-item ::-p-text(Street trees)')
    return (await find(page, '.outline')).evaluate((path) => path.getAttribute('d'))
  }
  const after = await drawn()
  await page.reload({ waitUntil: 'networkidle0' })
  expect(await drawn()).toBe(after)
  // In a stretch without values of it there is nothing to draw, and it is there again with all.
  await focus(page, '[data-post="0"]')
  await page.keyboard.press('z')
  await find(page, '::-p-text(See all)')
  await find(page, '[aria-label="Take Street trees off the line"]')
})

test('a file of one’s own to five named bands and a kept run', async () => {
  const by = handOn(gate.page)
  const heights = Array.from({ length: 90 }, (_, at) => (at * 7) % 50)
  const path = await gate.file('Hedges.csv', `Hedge,Height (m)\n${heights.map((height, at) => `H${at},${height}`).join('\n')}\n`)
  await gate.page.goto(gate.address, { waitUntil: 'networkidle0' })
  await by.doing(() => chooseFile(gate.page, path))
  await eventually(() => gate.page.$eval('.incoming .v-btn.primary', (button) => !(button as HTMLButtonElement).disabled), true)
  await by.click('::-p-text(Bring it in)')
  await find(gate.page, 'h1::-p-text(Hedges)')
  await by.key('n')
  await find(gate.page, '[role=dialog] .start:not(:disabled)')
  await by.click('[role=dialog] [data-side=scale]')
  await by.click('[role=dialog] .choice ::-p-text(Height)')
  await find(gate.page, '[data-band]')
  await cutByChart(by, '40\tgiant\n30\ttall\n20\tmiddling\n10\tlow\n0\ttiny')
  const bands: [string, number][] = [['giant', 40], ['tall', 30], ['middling', 20], ['low', 10], ['tiny', 0]].map(([label, from], at, all) => [label as string, heights.filter((height) => height >= (from as number) && (at === 0 || height < (all[at - 1]![1] as number))).length])
  await eventually(() => bandCounts(gate.page), bands)
  await by.key('s')
  await find(gate.page, '::-p-text(same as version 1)')
  await by.key('k')
  await find(gate.page, 'h1::-p-text(run 1)')
  const { runs } = await ask<{ runs: { id: number; gateName: string }[] }>('/desk')
  const kept = () => ask<Run>(`/runs/${Math.max(...runs.map(({ id }) => id))}`)
  await eventually(async () => (await kept()).counts?.caught.toReversed(), bands.map(([, records]) => records))
  process.stdout.write(`A file of one's own to five named bands and a kept run: ${by.count()} actions\n`)
  expect(by.count()).toBeLessThanOrEqual(12)
})

test('days are cut as numbers are: by a list, by hand, by key; and a run shows them so', async () => {
  const by = handOn(gate.page)
  await newScale(by, TREES, 'Planted')
  await by.click('::-p-text(Cut by …)')
  await eventually(focused, 'Cuts in a list')
  await gate.page.$eval('[aria-label="Cuts in a list"]', (field) => (field as HTMLInputElement).select())
  await by.type('1 Jan 1980; 2000-01-01')
  await by.key('Enter')
  const old = (from: string | null, to: string | null) => [from && `{Planted} >= '${from}'`, to && `{Planted} < '${to}'`].filter((part) => part !== null).join(' and ')
  const expected = (first: string) => counted(TREES, [['High', old('2000-01-01', null)], ['Middle', old(first, '2000-01-01')], ['Low', old(null, first)]])
  await eventually(() => bandCounts(gate.page), await expected('1980-01-01'))
  await focus(gate.page, '[data-post="0"]')
  await by.key('ArrowRight')
  await eventually(() => gate.page.$eval('[data-cut="0"] input', (field) => (field as HTMLInputElement).value), '1 Feb 1980')
  await eventually(() => bandCounts(gate.page), await expected('1980-02-01'))
  await gate.page.keyboard.press('u')
  await eventually(() => bandCounts(gate.page), await expected('1980-01-01'))
  // What is no day is told, and what holds stays.
  await click(gate.page, '[data-cut="0"] input')
  await gate.page.keyboard.type('someday')
  await gate.page.keyboard.press('Enter')
  await eventually(() => gate.page.$eval('[data-cut="0"] input', (field) => field.getAttribute('aria-invalid')), 'true')
  await gate.page.keyboard.press('Escape')
  expect(await violationsOn(gate.page)).toEqual([])
  const bench = gate.page.url()
  await focus(gate.page, '[data-post="0"]')
  await gate.page.keyboard.press('s')
  await find(gate.page, '::-p-text(same as version 1)')
  await gate.page.keyboard.press('k')
  await click(gate.page, '::-p-text(As it was decided)')
  await find(gate.page, '.cut-line .standing ::-p-text(1 Jan 1980)')
  await gate.page.goto(bench, { waitUntil: 'networkidle0' })
  await eventually(() => bandCounts(gate.page), await expected('1980-01-01'))
})

test('ages are cut as numbers are, told and typed in years and months', async () => {
  const { page } = gate
  const { asOf } = await ask<{ asOf: string }>('/desk')
  const standing = anInput('Standing', 'years and months duration', { source: { kind: 'figure', feel: 'years and months duration(Planted, today())' } })
  const scale = plainScale('Standing', standing, ['P10Y', 'P25Y6M'].map((at) => ({ at, owner: 'above' as const })), ['Young', 'Grown', 'Old'].map(band))
  const planted = (await ask<Table>(`/tables/${TREES}`)).columns.find(({ name }) => name === 'Planted')!.id
  const { id } = await gate.send<Gate>('/gates', 'POST', { draft: { ...scale, inputs: [anInput('Planted', 'date'), standing] }, binding: { tableId: TREES, inputs: { Planted: { column: planted } } } })
  await page.goto(`${gate.address}/gates/${id}`, { waitUntil: 'networkidle0' })
  const months = `(extract(year from age('${asOf}', {Planted})) * 12 + extract(month from age('${asOf}', {Planted})))`
  const expected = (first: number, second: number) => counted(TREES, [['Old', `${months} >= ${second}`], ['Grown', `${months} >= ${first} and ${months} < ${second}`], ['Young', `${months} < ${first}`]])
  await eventually(() => bandCounts(page), await expected(120, 306))
  await find(page, '::-p-text(10 years to under 25 years 6 months)')
  await find(page, '[data-cut="1"] input')
  await click(page, '[data-cut="1"] input')
  await page.$eval('[data-cut="1"] input', (field) => (field as HTMLInputElement).select())
  await page.keyboard.type('40 years 3 months')
  await page.keyboard.press('Enter')
  await eventually(() => bandCounts(page), await expected(120, 483))
  await focus(page, '[data-post="0"]')
  await page.keyboard.press('ArrowRight')
  const at = () => page.$eval('[data-cut="0"] input', (field) => (field as HTMLInputElement).value)
  await eventually(async () => (await at()) !== '10 y', true)
  const [years, rest] = (/^(\d+) y(?: (\d+) m)?$/.exec(await at()) ?? []).slice(1).map((part) => Number(part ?? 0)) as [number, number]
  await eventually(() => bandCounts(page), await expected(12 * years + rest, 483))
  await eventually(async () => ((await draft()) as ScaleGate).cuts[0]!.at, rest > 0 ? `P${years}Y${rest}M` : `P${years}Y`)
  expect(await violationsOn(page)).toEqual([])
})

test('a gate in another form labels every record as before, and comes back as it was', async () => {
  const before = await draft()
  const counts = await bandCounts(gate.page)
  await click(gate.page, '[aria-label^="Form:"]')
  await find(gate.page, '[data-form=match]:disabled ::-p-text(a match list looks up single values)')
  await click(gate.page, '[data-form=rules]:not(:disabled)')
  await find(gate.page, '[data-rule]')
  const ruled = () => gate.page.$$eval('[data-rule] [data-cell=count]', (all) => all.map((one) => Number((one as HTMLElement).innerText.replaceAll(/\D/g, ''))))
  // What was held stands before them, and what no rule takes after.
  await eventually(async () => (await ruled()).slice(1, -1), counts.map(([, records]) => records).toReversed())
  await click(gate.page, '[aria-label^="Form:"]')
  await find(gate.page, '[data-form=scale]:not(:disabled)')
  expect(await violationsOn(gate.page)).toEqual([])
  await click(gate.page, '[data-form=scale]')
  await eventually(() => bandCounts(gate.page), counts)
  await eventually(draft, before)
})

test('a formula takes the place of what is on the bench, and can be taken back', async () => {
  const before = await draft()
  await gate.page.keyboard.press('g')
  await eventually(focused, 'The text')
  await gate.page.keyboard.type('=IF(Decay>=40;"Fell";IF(Decay>=12;"Climb";"Leave"))')
  await find(gate.page, '[data-branch="2"]')
  await click(gate.page, '[data-branch="1"]')
  expect(await gate.page.$eval('[aria-label="The text"]', (field) => { const { value, selectionStart, selectionEnd } = field as HTMLTextAreaElement; return value.slice(selectionStart, selectionEnd) })).toBe('Decay>=12;"Climb"')
  expect(await violationsOn(gate.page)).toEqual([])
  await click(gate.page, '::-p-text(Put it here)')
  await eventually(() => bandCounts(gate.page), await counted(TREES, [['Fell', '{Decay} >= 40'], ['Climb', '{Decay} >= 12 and {Decay} < 40'], ['Leave', '{Decay} < 12']]))
  expect((await draft()).name).toBe(before.name)
  await click(gate.page, '::-p-text(Take it back)')
  await eventually(draft, before)
})

test('a side of a grid is cut by days', async () => {
  const { page } = gate
  await page.goto(`${gate.address}/tables/${TREES}`, { waitUntil: 'networkidle0' })
  await page.keyboard.press('n')
  await find(page, '[role=dialog] .start:not(:disabled)')
  await click(page, '[role=dialog] [data-side=grid]')
  await click(page, '[role=dialog] .choice ::-p-text(Planted)')
  await click(page, '[role=dialog] .choice ::-p-text(Stands by)')
  await find(page, '.board [role=gridcell]')
  const { down, across } = (await draft()) as unknown as { down: { cuts: { at: string }[] }; across: { lines: string[][] } }
  const [first, second] = down.cuts.map(({ at }) => at)
  const spans = [`{Planted} < '${first}'`, `{Planted} >= '${first}' and {Planted} < '${second}'`, `{Planted} >= '${second}'`]
  const expected: number[][] = []
  for (const span of spans) expected.push((await counted(TREES, across.lines.map(([place]) => [place!, `${span} and {Stands by} = '${place}'`]))).map(([, records]) => records))
  const counts = () => page.$$eval('.board [role=row]', (rows) => rows.map((row) => [...row.querySelectorAll('[data-cell=count]')].map((one) => Number((one as HTMLElement).innerText.replaceAll(/\D/g, '') || NaN))))
  await eventually(counts, expected)
})
