/** The tree office's tables, gates and first runs, for an empty database. */
import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import { join } from 'node:path'
import type { Bound } from '@dime-gate/contract/binding'
import { feedingSeen } from '@dime-gate/contract/gate'
import type { Calculation, Drawn } from '@dime-gate/contract/drawn'
import type { SetOfColumns, Table } from '@dime-gate/contract/table'
import { DEMO_AS_OF } from '@dime-gate/demo/chance'
import { BENCH_GATES, type BenchGate, LATER_GATES } from '@dime-gate/demo/bench-gates'
import { DEMO_INDICATORS, DEMO_LABELS, DEMO_RELATED, DEMO_ROLL_UP, type DemoCalculation, INDICATOR_DISTANCE } from '@dime-gate/demo/drawn'
import { DEMO_FIGURES, type DemoFigures } from '@dime-gate/demo/figures'
import { DEMO_TABLES } from '@dime-gate/demo/tables'
import { PREVIEW_BYTES, previewTable } from '@dime-gate/interchange/table/preview'
import { changeTable } from './change/change-table'
import { type Database, rowOf } from './database/database'
import { feedingGates } from './gate/feeding'
import { addExpectations } from './expectation/expectations'
import { listGates, setVersion } from './gate/gates'
import { createGate } from './gate/new-gate'
import type { Jobs } from './jobs'
import type { RunJobs } from './run/run-jobs'
import { keepRun } from './run/runs'
import { changeSentence } from './slip/sentences'
import { importTable } from './table/import-table'
import { rollUpTable } from './table/roll-up'
import { findTable, listTables } from './table/tables'
import { changeWorkspace } from './workspace'

/** @param folder holds the demo's CSV files. Tables that are there already are left as they are, so a load that was cut short is finished; one that was whole is never done again. */
export async function loadDemo(database: Database, { runs, figures: computed }: Pick<Jobs, 'runs' | 'figures'>, folder: string): Promise<void> {
  const [tables, gates] = await Promise.all([listTables(database), listGates(database)])
  const asFar = new Set(tables.map(({ name }) => name))
  const isDemoAlone = tables.every(({ name }) => DEMO_TABLES.some((demo) => demo.name === name))
  const { isLoaded } = (await rowOf<{ isLoaded: boolean }>(database, 'select is_demo_loaded as "isLoaded" from workspace'))!
  if (isLoaded || !isDemoAlone || gates.length > 0) return
  await changeWorkspace(database, { asOf: DEMO_AS_OF })
  for (const { name, file } of DEMO_TABLES) {
    if (asFar.has(name)) continue
    const path = join(folder, file)
    await importTable(database, createReadStream(path), { name, fileName: file, settings: await settingsOf(path) })
  }
  const stored = await listTables(database)
  for (const { table, sets, figures } of DEMO_FIGURES) await addFigures(database, stored.find(({ name }) => name === table)!.id, sets, figures)
  for (const gate of BENCH_GATES) await addGate(database, runs, gate)
  await addDrawnColumns(database)
  // How many wards there are is told on the desk, before anybody looks at them.
  await computed.current((await tableNamed(database, DEMO_ROLL_UP.name)).id)
  for (const gate of LATER_GATES) await addGate(database, runs, gate)
  await database.query('update workspace set is_demo_loaded = true')
}

async function addGate(database: Database, jobs: RunJobs, { document, table, isRun, expected = [], sentence }: BenchGate): Promise<void> {
  const itself = await tableNamed(database, table)
  const { id: tableId, columns } = itself
  const idOf = (column: string) => columns.find(({ name }) => name === column)!.id
  const given = document.inputs.filter(({ source }) => source.kind === 'given')
  const inputs = Object.fromEntries(given.map(({ name, isSet }): [string, Bound] => [name, isSet ? { set: name } : { column: idOf(name) }]))
  const { id } = await createGate(database, { draft: document, binding: { tableId, inputs } })
  const { latestVersion } = await setVersion(database, id, 1)
  if (expected.length > 0) await addExpectations(database, id, { add: expected.map((one) => ({ tableId: null, expectation: { kind: 'count', ...one, within: null } })) })
  if (sentence) await changeSentence(database, id, { seen: 0, sentence })
  const feeding = feedingSeen(await feedingGates(database, document, itself))
  if (isRun) await keepRun(database, jobs, { gateId: id, version: latestVersion, tableId, binding: 1, feeding })
}

async function tableNamed(database: Database, wanted: string): Promise<Table> {
  return findTable(database, (await listTables(database)).find(({ name }) => name === wanted)!.id)
}

const idIn = ({ columns }: Table, wanted: string): number => columns.find(({ name }) => name === wanted)!.id

const withoutTable = (name: string, unit: string, { take, of, where }: Calculation) => ({ name, unit, take, of, where })

/** In an order in which each finds what it is drawn from. What is there already was made before the load was cut short. */
async function addDrawnColumns(database: Database): Promise<void> {
  const add = async (table: Table, name: string, unit: string, drawn: Drawn): Promise<void> => {
    if (!table.columns.some((column) => column.name === name)) await changeTable(database, table.id, { kind: 'add drawn', name, unit, drawn }, null)
  }
  const calculation = async ({ from, take, of, where }: DemoCalculation): Promise<Calculation> => {
    const there = await tableNamed(database, from)
    return { table: there.id, take, of: of === undefined ? null : idIn(there, of), where: where ?? null }
  }
  for (const { table, gate: name } of DEMO_LABELS) {
    const { id } = (await rowOf<{ id: number }>(database, "select id from gate where draft ->> 'name' = $1 and removed_at is null", [name]))!
    await add(await tableNamed(database, table), name, '', { kind: 'label', gate: id, from: 'version', outcome: 0 })
  }
  for (const { table, name, unit, key, none, ...taken } of DEMO_RELATED) {
    const [here, there] = [await tableNamed(database, table), await tableNamed(database, taken.from)]
    await add(here, name, unit, { kind: 'related', ...(await calculation(taken)), keys: [{ own: idIn(here, key[0]), theirs: idIn(there, key[1]), part: 'whole' }], none })
  }
  const beneath = await tableNamed(database, DEMO_ROLL_UP.table)
  const figures = await Promise.all(DEMO_ROLL_UP.figures.map(async ({ name, unit, ...taken }) => withoutTable(name, unit, await calculation({ ...taken, from: beneath.name }))))
  if (!(await listTables(database)).some(({ name }) => name === DEMO_ROLL_UP.name))
    await rollUpTable(database, beneath.id, { name: DEMO_ROLL_UP.name, by: [{ column: idIn(beneath, DEMO_ROLL_UP.by), part: 'whole' }], figures })
  const indicators = await tableNamed(database, 'Office indicators')
  const calculations = await Promise.all(DEMO_INDICATORS.map(async (one, at) => ({ record: at + 1, ...(await calculation(one)), places: one.take === 'count' ? 0 : 1, unit: one.unit })))
  await add(indicators, 'Value', '', { kind: 'own', calculations })
  await addFigures(database, indicators.id, {}, [INDICATOR_DISTANCE])
}

/** What is there already was made before the load was cut short. */
async function addFigures(database: Database, tableId: number, sets: DemoFigures['sets'], figures: DemoFigures['figures']): Promise<void> {
  const table = await findTable(database, tableId)
  const made = Object.entries(sets).map(([name, like]): SetOfColumns => ({ name, by: { kind: 'names', like } }))
  if (made.length > 0 && table.sets.length === 0) await changeTable(database, tableId, { kind: 'column sets', sets: made }, null)
  for (const figure of figures) {
    if (!table.columns.some(({ name }) => name === figure.name)) await changeTable(database, tableId, { kind: 'add figure', ...figure }, null)
  }
}

async function settingsOf(path: string) {
  const file = await open(path)
  try {
    const { bytesRead, buffer } = await file.read(Buffer.alloc(PREVIEW_BYTES), 0, PREVIEW_BYTES, 0)
    return previewTable(buffer.subarray(0, bytesRead), bytesRead < PREVIEW_BYTES).settings
  } finally {
    await file.close()
  }
}
