/** The whole demo: all of its gates over all of their tables, through the page, held to plain SQL that is written here; its planted flaws; and what moved after planted changes. */
import type { Gate } from '@dime-gate/contract/gate'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { type Demo, openDemo } from './testing/demo'
import { choose, click, eventually, find, textOf } from './testing/dime-gate'

let demo: Demo
beforeAll(async () => {
  demo = await openDemo()
})
afterAll(() => demo.close())

const DAY = `date '2026-03-02'`
const tables = new Map<string, Table>()
async function tableNamed(name: string): Promise<Table> {
  const { tables: all } = await demo.ask<{ tables: { id: number; name: string }[] }>('/desk')
  return demo.ask<Table>(`/tables/${all.find((one) => one.name === name)!.id}`)
}
/** A table with its given columns under their own names. */
function of(name: string): string {
  const { id, columns } = tables.get(name)!
  const given = columns.filter(({ feel, drawn }) => feel === null && drawn === null)
  return `(select record, ${given.map((column) => `c${column.id} as "${column.name}"`).join(', ')} from records.t${id} where until is null) t`
}
/** Whether a value is there that could not be read. */
const unreadable = (name: string, column: string) => `(select count(*)::int from records.t${tables.get(name)!.id} where until is null and c${idOf(name, column)} is null and trim(written ->> '${idOf(name, column)}') <> '')`
const idOf = (name: string, column: string) => tables.get(name)!.columns.find((one) => one.name === column)!.id
/** By label how many: `labels` is SQL of one column. */
async function counted(labels: string): Promise<Record<string, number>> {
  const { rows } = await demo.database.query<{ label: string; records: number }>(`select label, count(*)::int as records from (${labels}) as labels(label) group by 1`)
  return Object.fromEntries(rows.map(({ label, records }) => [label, records]))
}
async function numbers(...parts: string[]): Promise<number[]> {
  const { rows } = await demo.database.query<Record<string, number>>(`select ${parts.map((part, at) => `${part} as n${at}`).join(', ')}`)
  return parts.map((_, at) => Number(rows[0]![`n${at}`]))
}

const BAND = `case when "Decay" between 0 and 100 then case when "Decay" >= 40 then 'Failing' when "Decay" >= 25 then 'Weak' when "Decay" >= 12 then 'Watch' else 'Sound' end end`
const SLENDERNESS = `round(100 * "Height" / nullif("Trunk", 0), 1)`
const STEM = `case when ${SLENDERNESS} < 50 then 'Stout' when ${SLENDERNESS} < 80 then 'Slender' when ${SLENDERNESS} is not null then 'Whip' end`
const LARGE = ['common lime', 'london plane', 'norway maple', 'common ash', 'horse chestnut', 'sycamore', 'pedunculate oak', 'sessile oak', 'black poplar', 'tulip tree', 'sweet gum', 'foxglove tree']
const SMALL = ['silver birch', 'hornbeam', 'field maple', 'wild cherry', 'rowan', 'whitebeam', 'turkish hazel', 'small-leaved lime', 'crab apple']
const any = (values: readonly string[]) => values.map((value) => `'${value}'`).join(', ')
const mean = (name: string, column: string) => `(select avg(one) from unnest(array[${tables.get(name)!.columns.filter((one) => one.name.startsWith(column) && one.feel === null).map((one) => `"${one.name}"`).join(', ')}]) as one)`
const award = (of: string) => `case when ${of} >= 4 then 'Crown' when ${of} >= 3 then 'Climb' when ${of} >= 2 then 'Ground' when ${of} is not null then 'Come again' end`
const YEARS = `extract(year from age(${DAY}, "Started"))`
/** What Felling decision gives a tree; null where it is held. Each rule is known, or unknown: then all that it could decide has to be the same. */
const FELLING = () => `select *, case when (r1 is null and final <> 'Fell') or (r2 is null and r1 is not true and final <> 'Fell') or (r3 is null and r1 is not true and r2 is not true and final <> 'Climb and look') then null else final end as felling
  from (select *, case when r1 then 'Fell' when r2 then 'Fell' when r3 then 'Climb and look' else 'Next round' end as final
  from (select *, band = 'Failing' and not ("Stands by" = 'verge') as r1, band in ('Weak', 'Failing') and (stem = 'Whip' or "Lean" > 15) as r2, band in ('Weak', 'Failing') or stem = 'Whip' and "Lean" > 8 as r3
  from (select *, ${BAND} as band, ${STEM} as stem from ${of('Street trees')}) b) r) f`
const PAST = `100.0 * count(*) filter (where "Next due" < ${DAY}) / count(*)`

/** By gate and table the labels that its records get, as SQL of one column. */
const WANTED: Record<string, () => string> = {
  'Decay band on Street trees': () => `select case when "Decay" is null then 'held' else coalesce(${BAND}, 'unplaced') end from ${of('Street trees')}`,
  'Stem slenderness on Street trees': () => `select coalesce(${STEM}, 'held') from ${of('Street trees')}`,
  'Inspection priority on Street trees': () => `select case when d is null then 'held' when d < 0 then 'Overdue' when d <= 7 then 'This week' when d <= 31 then 'This month' when d <= 92 then 'This season' else 'At the next round' end from (select "Next due" - ${DAY} as d from ${of('Street trees')}) as days`,
  'Leaf group on Street trees': () => `select case when s is null then 'held' when s in (${any(LARGE)}) then 'Broad leaf, large' when s in (${any(SMALL)}) then 'Broad leaf, small' when s in ('ginkgo', 'dawn redwood') then 'Fan or needle' else 'unplaced' end from (select lower(regexp_replace(trim("Species"), '\\s+', ' ', 'g')) as s from ${of('Street trees')}) as species`,
  'Hazard grid on Street trees': () => `select case when band is null and "Decay" is not null then 'unplaced' when band is null or "Stands by" is null then 'held' when band = 'Sound' then 'Low' when "Stands by" = 'verge' then case band when 'Watch' then 'Low' when 'Weak' then 'Middle' else 'High' end else case band when 'Watch' then 'Middle' when 'Weak' then 'High' else 'Extreme' end end from (select *, ${BAND} as band from ${of('Street trees')}) as banded`,
  'Felling decision on Street trees': () => `select coalesce(felling, 'held') from (${FELLING()}) as felled`,
  'Course award on Climber course': () => `select coalesce(${award('m')}, 'held') from (select ${mean('Climber course', 'Module ')} as m from ${of('Climber course')}) as means`,
  'Course award on Night course': () => `select coalesce(${award('m')}, 'held') from (select ${mean('Night course', 'Mark ')} as m from ${of('Night course')}) as means`,
  'Crew grade on Crews': () => `select case when "Started" is null then 'held' when ${YEARS} >= 8 then 'Crew lead' when ${YEARS} >= 5 then 'Climber' when ${YEARS} >= 2 then 'Ground crew' else 'First seasons' end from ${of('Crews')}`,
  'Repeat reports on Street trees': () => `select case when n >= 3 then 'Again and again' when n >= 1 then 'Reported' else 'Quiet' end from (select (select count(*) from ${of('Resident reports').replace(/ t$/, ' reports')} where reports."Tree no" = t."Tree no") as n from ${of('Street trees')}) as counts`,
  'Ward standing on Wards': () => `select case when past >= 17 then 'Far behind' when past >= 14 then 'Falling back' else 'Keeping up' end from (select ${PAST} as past from ${of('Street trees')} group by "Ward") as wards`,
  'Target standing on Office indicators': () => `select case when beyond >= 0 then 'Reached' when beyond >= -5 then 'Nearly' else 'Missed' end from (select case when "Better" = 'lower' then "Target" - value else value - "Target" end as beyond from ${of('Office indicators')} join (
    select 1 as at, ${PAST} as value from ${of('Street trees')} union all select 2, count(*) from (${FELLING()}) as felled where felling = 'Fell' union all select 3, avg("Decay") from ${of('Street trees')}
    union all select 4, count(*) from ${of('Resident reports')} where "Received" > ${DAY} - interval '1 month'
    union all select 5, 100.0 * count(*) filter (where m >= 3) / count(*) from (select ${mean('Climber course', 'Module ')} as m from ${of('Climber course')}) as means
    union all select 6, 100.0 * count(*) filter (where "Chainsaw ticket") / count(*) from ${of('Crews')}) as reckoned on at = record) as targets`,
}

const stateOf = (name: string) => textOf(demo.page, `[data-plan="${name}"] .state`)
/** The trays of the run that is shown, those with something in them. */
const trays = async () => Object.fromEntries((await demo.page.$$eval('[data-tube]', (all) => all.map((one): [string, number] => [(one as HTMLElement).dataset.tube!.replace(/^otherwise: /, ''), Number(one.querySelector('.records')!.textContent!.replaceAll(/\D/g, ''))]))).filter(([, records]) => records > 0))
/** What is to be looked at of it. */
const toLookAt = async () => Object.fromEntries((await demo.page.$$eval('[data-tray]', (all) => all.map((one): [string, number] => [(one as HTMLElement).dataset.tray!, Number(one.querySelector('.records')!.textContent!.replaceAll(/\D/g, ''))]))).filter(([, records]) => records > 0))
async function openRun(name: string): Promise<Run> {
  const { runs } = await demo.ask<{ runs: Run[] }>('/desk')
  const run = runs.find(({ gateName, tableName }) => `${gateName} on ${tableName}` === name)!
  await demo.page.goto(`${demo.address}/runs/${run.id}`, { waitUntil: 'networkidle0' })
  await find(demo.page, '[data-tray]')
  return run
}

test('all gates are run at once over all tables; what does not fit is told before, and the others come to what SQL counts', async () => {
  for (const name of ['Street trees', 'Species', 'Resident reports', 'Climber course', 'Night course', 'Crews', 'Office indicators', 'Wards']) tables.set(name, await tableNamed(name))
  const { gates } = await demo.ask<{ gates: Gate[] }>('/desk')
  const { page } = demo
  await page.goto(`${demo.address}/run-gates?gates=${gates.map(({ id }) => id).join()}&tables=${[...tables.values()].map(({ id }) => id).join()}`, { waitUntil: 'networkidle0' })
  await click(page, '[data-rest]')
  await choose(page, '[data-plan="Course award on Night course"] .v-select', 'Mark … (6 columns)')
  for (const name of Object.keys(WANTED)) await eventually(() => stateOf(name), 'ready')
  expect(await stateOf('Decay band on Crews')).toBe('something is missing')
  await click(page, '.apply .head .primary')
  for (const name of Object.keys(WANTED)) await eventually(async () => (await stateOf(name)).endsWith('is done'), true)
  const told: Record<string, Record<string, number>> = {}
  const wanted: Record<string, Record<string, number>> = {}
  for (const [name, labels] of Object.entries(WANTED)) {
    await openRun(name)
    told[name] = await trays()
    wanted[name] = await counted(labels())
  }
  expect(told).toEqual(wanted)
  expect(Object.keys(told)).toHaveLength(12)
})

test('the flaws that were planted are what is to be looked at; what is expected is met, and missed, as it was planted', async () => {
  await openRun('Decay band on Street trees')
  const trees = of('Street trees')
  const decay = await numbers(`(select count(*) from ${trees} where "Decay" is null)`, `(select count(*) from ${trees} where "Decay" > 100)`, unreadable('Street trees', 'Decay'), `(select count(*) from ${trees} where "Decay" in (12, 25, 40))`)
  expect(await toLookAt()).toEqual({ held: decay[0], unplaced: decay[1], unreadable: decay[2], 'on an edge': decay[3] })
  expect(decay.slice(1, 3)).toEqual([1, 2])
  expect(await textOf(demo.page, '[data-expected=missed]')).toContain('2 too many')
  expect(await demo.page.$$eval('[data-expected]', (all) => all.map((one) => (one as HTMLElement).dataset.expected))).toEqual(['missed', 'met', 'met', 'met'])
  // A trunk was written with its unit.
  await openRun('Stem slenderness on Street trees')
  const stem = await numbers(`(select count(*) from ${trees} where ${SLENDERNESS} is null)`, unreadable('Street trees', 'Trunk'), `(select count(*) from ${trees} where ${SLENDERNESS} in (50, 80))`)
  expect(await toLookAt()).toEqual({ held: stem[0], unreadable: stem[1], 'on an edge': stem[2] })
  expect(stem[1]).toBeGreaterThan(0)
  // One species is in no list; strays of case and space are folded.
  await openRun('Leaf group on Street trees')
  const [oaks] = await numbers(`(select count(*) from ${trees} where lower(trim("Species")) = 'holm oak')`)
  expect(await toLookAt()).toEqual({ unplaced: oaks })
  await openRun('Inspection priority on Street trees')
  const due = await numbers(`(select count(*) from ${trees} where "Next due" is null)`, `(select count(*) from ${trees} where "Next due" - ${DAY} in (0, 7, 31, 92))`)
  expect(await toLookAt()).toEqual(Object.fromEntries(Object.entries({ held: due[0], 'on an edge': due[1] }).filter(([, n]) => n! > 0)))
  await openRun('Course award on Climber course')
  const course = of('Climber course')
  const m = mean('Climber course', 'Module ')
  const means = await numbers(`(select count(*) from ${course} where ${m} is null)`, `(select count(*) from ${course} where ${m} in (2, 3, 4))`, `(select count(*) from ${course} where ${m} > 5)`,
    `(select count(*) from ${course} where ${m} not in (2, 3, 4) and least(abs(${m} - 2), abs(${m} - 3), abs(${m} - 4)) <= 0.05)`)
  expect(await toLookAt()).toEqual(Object.fromEntries(Object.entries({ held: means[0], outside: means[2], 'on an edge': means[1], 'near an edge': means[3] }).filter(([, n]) => n! > 0)))
  expect(means[1]).toBeGreaterThan(0)
})

/** What a tree gets that is due so many days after the first as-of date, a shift of that date later, where a cut is moved; null is a blank. */
const priority = (due: number | null, shift: number, cut: number) => {
  if (due === null) return 'held'
  const left = due - shift
  return left < 0 ? 'Overdue' : left <= 7 ? 'This week' : left <= cut ? 'This month' : left <= 92 ? 'This season' : 'At the next round'
}
const CAUSES = ['date', 'gate', 'value'] as const
/** The smallest sets of what changed that lead where the later run leads, as the page names them. */
function reference(before: number | null, after: number | null): string {
  const value = before === null ? 'blank filled' : 'value'
  const sets = [1, 2, 3, 4, 5, 6, 7].map((bits) => CAUSES.filter((_, at) => bits & (1 << at)))
  const leads = (set: readonly string[]) => priority(set.includes('value') ? after : before, set.includes('date') ? 10 : 0, set.includes('gate') ? 60 : 31) === priority(after, 10, 60)
  for (let size = 1; size <= 3; size++) {
    const found = sets.filter((set) => set.length === size && leads(set))
    if (found.length > 0) return found.map((set) => set.map((one) => (one === 'value' ? value : one)).toSorted().join(' + ')).toSorted().join(' or ')
  }
  throw new Error('nothing leads there')
}

test('after a dozen planted changes of values, records, the gate and the date, each record that moves is told with what moved it', async () => {
  const run = await openRun('Inspection priority on Street trees')
  const [table, due] = [tables.get('Street trees')!.id, idOf('Street trees', 'Next due')]
  const days = async () => new Map((await demo.database.query<{ record: number; days: number | null }>(`select record, "Next due" - ${DAY} as days from ${of('Street trees')} order by record`)).rows.map(({ record, days }) => [record, days]))
  const before = await days()
  const far = [...before].flatMap(([record, left]) => (left !== null && left > 150 ? [record] : []))
  const reading = { decimalMark: 'point', dateOrder: 'year' }
  const change = (body: object) => demo.send(`/tables/${table}/changes`, 'POST', body)
  const fill = (text: string, records: number[]) => change({ kind: 'fill', reading, column: due, text, filters: [], records })
  // Values: past their date; to within the week by the later date alone; blank.
  await fill('2026-03-01', far.slice(0, 3))
  await fill('2026-03-19', far.slice(3, 5))
  await fill('', far.slice(5, 7))
  await change({ kind: 'remove records', records: far.slice(7, 9) })
  await change({ kind: 'add records', reading, rows: [[{ column: due, text: '2026-03-20' }], [{ column: due, text: '' }]] })
  const gate = await demo.ask<Gate>(`/gates/${run.gateId}`)
  const cuts = (gate.draft as ScaleGate).cuts.map((cut) => (cut.at === '31' ? { ...cut, at: '60' } : cut))
  await demo.send(`/gates/${run.gateId}/draft`, 'PUT', { draft: { ...gate.draft, cuts }, seen: gate.draftVersion })
  await demo.send(`/gates/${run.gateId}/versions`, 'POST', { seen: gate.draftVersion + 1 })
  await demo.send('/workspace', 'PUT', { asOf: '2026-03-12' })

  await openRun('Inspection priority on Street trees')
  await demo.page.keyboard.press('n')
  await find(demo.page, '.comparison [data-reason]')
  const after = await days()
  const expected: Record<string, number> = {}
  const count = (reason: string) => (expected[reason] = (expected[reason] ?? 0) + 1)
  for (const [record, was] of before) {
    const is = after.get(record)
    if (is !== undefined && priority(was, 0, 31) !== priority(is, 10, 60)) count(reference(was, is))
  }
  const told = Object.fromEntries(await demo.page.$$eval('[data-reason]', (all) => all.map((one) => {
    const name = (one as HTMLElement).dataset.reason!.split(' or ').map((set) => set.split(' + ').sort().join(' + ')).sort().join(' or ')
    return [name, Number(one.querySelector('b')!.textContent!.replaceAll(/\D/g, ''))]
  })))
  expect(told).toEqual(expected)
  expect(Object.keys(told)).toEqual(expect.arrayContaining(['date', 'gate', 'value']))
  expect(await textOf(demo.page, '.whole')).toMatch(/, 2 new, 2 gone\./)
})
