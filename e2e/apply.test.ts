import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { violationsOn } from './testing/axe'
import { type Demo, openDemo } from './testing/demo'
import { choose, click, eventually, find, textOf } from './testing/dime-gate'

let demo: Demo
beforeAll(async () => {
  demo = await openDemo()
})
afterAll(() => demo.close())

const tableNamed = async (name: string) => {
  const { tables } = await demo.ask<{ tables: { id: number; name: string }[] }>('/desk')
  return demo.ask<Table>(`/tables/${tables.find((one) => one.name === name)!.id}`)
}
const check = (kind: 'gate' | 'table', name: string) => click(demo.page, `input[data-${kind}="${name}"]`)
const stateOf = (name: string) => textOf(demo.page, `[data-plan="${name}"] .state`)

/** Award of each record by plain SQL: the mean of the modules that are taken. */
async function awards({ id, columns }: Table, isModule: (name: string) => boolean): Promise<Record<string, number>> {
  const modules = columns.filter(({ name, feel }) => isModule(name) && feel === null).map((column) => `c${column.id}`)
  const mean = `(select avg(one) from unnest(array[${modules.join(', ')}]) as one)`
  const { rows } = await demo.database.query<{ award: string; n: number }>(`
    select case when m is null then 'held' when m >= 4 then 'Crown' when m >= 3 then 'Climb' when m >= 2 then 'Ground' else 'Come again' end as award, count(*)::int as n
    from (select ${mean} as m from records.t${id} where until is null) as means group by 1`)
  return Object.fromEntries(rows.map(({ award, n }) => [award, n]))
}

test('one gate on two tables whose columns are named otherwise: bound once, run at once, told beside one another', async () => {
  const [climbers, night] = [await tableNamed('Climber course'), await tableNamed('Night course')]
  await demo.page.goto(`${demo.address}/runs`, { waitUntil: 'networkidle0' })
  await demo.page.keyboard.press('r')
  await find(demo.page, '.apply fieldset')
  await check('gate', 'Course award')
  // The table that it is bound to comes with it.
  await eventually(() => stateOf('Course award on Climber course'), 'ready')
  await check('table', 'Night course')
  await eventually(() => stateOf('Course award on Night course'), 'something is missing')
  expect(await violationsOn(demo.page)).toEqual([])
  await choose(demo.page, '[data-plan="Course award on Night course"] .v-select', 'Mark … (6 columns)')
  await eventually(() => stateOf('Course award on Night course'), 'ready')
  await demo.page.keyboard.press('Escape')
  await click(demo.page, '.apply h1')
  await demo.page.keyboard.press('k')
  await find(demo.page, '[data-done="Course award"] [data-beside="Night course"]')
  await find(demo.page, '[data-beside="Climber course"]')
  const shown = async (name: string) => {
    const [heads, cells] = [await demo.page.$$eval('[data-done] thead .part', (all) => all.map((one) => one.textContent!.trim())), await demo.page.$$eval(`[data-beside="${name}"] td b`, (all) => all.map((one) => Number(one.textContent)))]
    return Object.fromEntries(heads.map((head, at) => [head, cells[at]!]).filter(([, n]) => n !== 0))
  }
  expect(await shown('Climber course')).toEqual(await awards(climbers, (name) => name.startsWith('Module ')))
  expect(await shown('Night course')).toEqual(await awards(night, (name) => name.startsWith('Mark ')))
  expect(await violationsOn(demo.page)).toEqual([])
  // Each run's own page has the other tables beside it, to the same scale.
  const { runs: [latest] } = await demo.ask<{ runs: Run[] }>('/desk')
  await demo.page.goto(`${demo.address}/runs/${latest!.id}?shows=tables`, { waitUntil: 'networkidle0' })
  await find(demo.page, '[data-beside="Climber course"]')
  expect(await demo.page.$$eval('[data-beside]', (all) => all.map((one) => (one as HTMLElement).dataset.beside).toSorted())).toEqual(['Climber course', 'Night course'])
  expect(await violationsOn(demo.page)).toEqual([])
  await demo.page.goBack({ waitUntil: 'networkidle0' })
  // A reload brings them back, and what was bound is remembered.
  await demo.page.reload({ waitUntil: 'networkidle0' })
  await find(demo.page, '[data-done="Course award"] [data-beside="Night course"]')
  await demo.page.goto(`${demo.address}/run-gates?gates=7&tables=${night.id}`, { waitUntil: 'networkidle0' })
  await eventually(() => stateOf('Course award on Night course'), 'ready')
  await find(demo.page, '[data-how=bound]')
  await click(demo.page, '.apply h1')
  await demo.page.goto(`${demo.address}/run-gates?gates=7&tables=${climbers.id},${night.id}`, { waitUntil: 'networkidle0' })
  await eventually(() => stateOf('Course award on Night course'), 'ready')
  await eventually(() => stateOf('Course award on Climber course'), 'ready')
})

test('gates that feed one another run each after those that feed it; a table that has nothing for an input is told, and the others run', async () => {
  const trees = await tableNamed('Street trees')
  const crews = await tableNamed('Crews')
  await demo.page.goto(`${demo.address}/run-gates?gates=6,1&tables=${trees.id},${crews.id}`, { waitUntil: 'networkidle0' })
  await eventually(() => stateOf('Felling decision on Street trees'), 'ready')
  await eventually(() => stateOf('Decay band on Crews'), 'something is missing')
  const before = (await demo.ask<{ runs: Run[] }>('/desk')).runs.length
  await click(demo.page, '.apply .head .primary')
  await eventually(async () => (await stateOf('Felling decision on Street trees')).endsWith('is done'), true)
  await eventually(async () => (await stateOf('Decay band on Street trees')).endsWith('is done'), true)
  const { runs } = await demo.ask<{ runs: Run[] }>('/desk')
  // The latest first: the gate that is fed was begun after the one that feeds it.
  expect(runs.slice(0, runs.length - before).map(({ gateName, tableName }) => [gateName, tableName])).toEqual([['Felling decision', 'Street trees'], ['Decay band', 'Street trees']])
  expect(await stateOf('Decay band on Crews')).toBe('something is missing')
})
