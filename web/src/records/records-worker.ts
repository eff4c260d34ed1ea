/** Decides records away from the page, so that the page never waits: live on the bench, as kept on a run. */
import { type RecordBatch, RecordBatchReader, Table } from 'apache-arrow'
import { expose } from 'comlink'
import { columnFromTable, decisionsFromTable } from '@dime-gate/contract/column-wire'
import { isComputed } from '@dime-gate/contract/table'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { type FigureAsked, neededColumns, type Previewed, previewFigure } from '../figure/preview'
import { type Asked, type ColumnAddress, Session } from './session'

async function arrowTable(path: string, progress: (records: number) => void = () => undefined): Promise<Table> {
  const response = await fetch(path)
  if (!response.ok) throw new Error('The records could not be fetched. Try again.')
  const reader = await RecordBatchReader.from(response)
  const batches: RecordBatch[] = []
  let records = 0
  for await (const batch of reader) {
    batches.push(batch)
    records += batch.numRows
    progress(records)
  }
  return new Table(reader.schema, batches)
}

const session = new Session(async ({ path, kind }, progress) => columnFromTable(await arrowTable(path, progress), kind))

const worker = {
  open: (addresses: ColumnAddress[], progress?: (records: number) => void) => session.open(addresses, progress),
  refresh: (addresses: ColumnAddress[]) => session.refresh(addresses),
  decide: (asked: Asked) => session.decide(asked),
  further: (sequence: number) => session.further(sequence),
  findings: () => session.findings(),
  spread: (input: string) => session.spread(input),
  /** @param asked of another state of the gate; columns that are not here yet are fetched */
  async compare(asked: Asked, sequence: number, columns: ColumnAddress[]) {
    await session.open(columns)
    return session.compare(asked, sequence)
  },
  parts: (rule: number) => session.parts(rule),
  choices: (input: string) => session.choices(input),
  firstScale: (...asked: Parameters<Session['firstScale']>) => session.firstScale(...asked),
  list: (...asked: Parameters<Session['list']>) => session.list(...asked),
  window: (from: number, to: number) => session.window(from, to),

  /** What a figure would come to. @param path of the table's columns */
  async previewFigure(asked: FigureAsked, path: string): Promise<Previewed> {
    const needed = neededColumns(asked)
    if (Array.isArray(needed)) await session.open(needed.map(({ id, type }) => ({ id, kind: kindOfColumn(type), path: `${path}/${id}` })))
    // Without any column there would be no record to compute it for.
    if (Array.isArray(needed) && needed.length === 0) await session.open(asked.columns.filter((column) => !isComputed(column)).slice(0, 1).map(({ id, type }) => ({ id, kind: kindOfColumn(type), path: `${path}/${id}` })))
    return session.withColumns((records, columnOf) => previewFigure(asked, records, columnOf))
  },
  /** Forgets the columns, which have changed. */
  forget: () => session.forget(),

  /** Opens what a run kept. @param path of its decisions */
  async openRun(asked: Asked, path: string, columns: ColumnAddress[], progress?: (records: number) => void) {
    const [kept] = await Promise.all([arrowTable(path), session.open(columns, progress)])
    return session.show(asked, decisionsFromTable(kept))
  },
}

export type RecordsWorker = typeof worker
expose(worker)
