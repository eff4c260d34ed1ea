/** Decides records away from the page, so that the page never waits: live on the bench, as kept on a run. */
import { expose } from 'comlink'
import { decisionsFromTable } from '@dime-gate/contract/column-wire'
import { isComputed } from '@dime-gate/contract/table'
import type { Tray } from '@dime-gate/core/result/tray'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'
import { arrowTable, loadColumn } from './load-column'
import { type FigureAsked, neededColumns, type Previewed, previewFigure } from '../figure/preview'
import type { ColumnAddress } from './column-address'
import { type Asked, Session } from './session'

const session = new Session(loadColumn)

const worker = {
  open: (addresses: ColumnAddress[], progress?: (records: number) => void) => session.open(addresses, progress),
  refresh: (...asked: Parameters<Session['refresh']>) => session.refresh(...asked),
  decide: (asked: Asked) => session.decide(asked),
  further: (sequence: number) => session.further(sequence),
  findings: () => session.findings(),
  spread: (...asked: Parameters<Session['spread']>) => session.spread(...asked),
  /** @param asked of another state of the gate; columns that are not here yet are fetched */
  async compare(asked: Asked, sequence: number, columns: ColumnAddress[]) {
    await session.open(columns)
    return session.compare(asked, sequence)
  },
  /** @param columns that the two look at, of any table: they are not kept */
  async movesApart(before: Asked, after: Asked, columns: ColumnAddress[]) {
    const apart = new Session(loadColumn)
    await apart.open(columns)
    return apart.movesBetween(before, after)
  },
  parts: (rule: number) => session.parts(rule),
  partsOfCondition: (name: string) => session.partsOfCondition(name),
  conditions: () => session.conditions(),
  beside: (...asked: Parameters<Session['beside']>) => session.beside(...asked),
  highlight: (...asked: Parameters<Session['highlight']>) => session.highlight(...asked),
  toldHighlights: (...asked: Parameters<Session['toldHighlights']>) => session.toldHighlights(...asked),
  highlightChoices: (input: string) => session.highlightChoices(input),
  missing: () => session.missing(),
  firstIn: (tray: Tray) => session.firstIn(tray),
  count: (tray: Tray) => session.count(tray),
  countsWithin: (...asked: Parameters<Session['countsWithin']>) => session.countsWithin(...asked),
  /** By condition, how many records it holds for. */
  countsWhere: (conditions: string[]) => conditions.map((condition) => session.count({ kind: 'where', condition, rule: null })),
  propose: (...asked: Parameters<Session['propose']>) => session.propose(...asked),
  values: (input: string) => session.values(input),
  choices: (input: string) => session.choices(input),
  firstScale: (...asked: Parameters<Session['firstScale']>) => session.firstScale(...asked),
  firstSide: (...asked: Parameters<Session['firstSide']>) => session.firstSide(...asked),
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
