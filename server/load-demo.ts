/** The tree office's tables, gates and first runs, for an empty database. */
import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import { join } from 'node:path'
import type { Bound } from '@dime-gate/contract/binding'
import { feedingSeen } from '@dime-gate/contract/gate'
import type { SetOfColumns } from '@dime-gate/contract/table'
import { DEMO_AS_OF } from '@dime-gate/demo/chance'
import { BENCH_GATES } from '@dime-gate/demo/bench-gates'
import { DEMO_FIGURES, type DemoFigures } from '@dime-gate/demo/figures'
import { DEMO_TABLES } from '@dime-gate/demo/tables'
import { PREVIEW_BYTES, previewTable } from '@dime-gate/interchange/table/preview'
import { changeTable } from './change/change-table'
import { type Database, rowOf } from './database/database'
import { feedingGates } from './gate/feeding'
import { setVersion } from './gate/gates'
import { createGate } from './gate/new-gate'
import type { RunJobs } from './run/run-jobs'
import { keepRun } from './run/runs'
import { importTable } from './table/import-table'
import { findTable, listTables } from './table/tables'
import { changeWorkspace, readDesk } from './workspace'

/** @param folder holds the demo's CSV files. Tables that are there already are left as they are, so a load that was cut short is finished; one that was whole is never done again. */
export async function loadDemo(database: Database, jobs: RunJobs, folder: string): Promise<void> {
  const { tables, gates } = await readDesk(database, jobs)
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
  for (const { document, table, isRun } of BENCH_GATES) {
    const { id: tableId } = stored.find(({ name }) => name === table)!
    const columns = (await findTable(database, tableId)).columns
    const idOf = (column: string) => columns.find(({ name }) => name === column)!.id
    const given = document.inputs.filter(({ source }) => source.kind === 'given')
    const inputs = Object.fromEntries(given.map(({ name, isSet }): [string, Bound] => [name, isSet ? { set: name } : { column: idOf(name) }]))
    const { id } = await createGate(database, { draft: document, binding: { tableId, inputs } })
    const { latestVersion } = await setVersion(database, id, 1)
    const feeding = feedingSeen(await feedingGates(database, document, tableId))
    if (isRun) await keepRun(database, jobs, { gateId: id, version: latestVersion, tableId, binding: 1, feeding })
  }
  await database.query('update workspace set is_demo_loaded = true')
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
