/** Sees to it that figures are what they come to before anybody reads them. */
import type { Table } from '@dime-gate/contract/table'
import type { Database } from '../database/database'
import { findTable } from '../table/tables'
import { ThreadPool } from '../threads/thread-pool'
import type { FigureTask } from './compute-figures'
import { figureColumns } from './stored-figures'

/** A table that changes all the time is told as it stands, with the figures of a moment ago left out. */
const TRIES = 3

export class Figures {
  private readonly pool: ThreadPool<FigureTask, void, void>
  /** Two who look at once wait for one. */
  private readonly underWay = new Map<number, Promise<void>>()

  /** @param url of the database, for the thread's own connections */
  constructor(
    private readonly database: Database,
    url: string,
  ) {
    this.pool = new ThreadPool(url, 1)
  }

  /** The table, with its figures as they are now. @throws Refusal `not-found` */
  async current(tableId: number): Promise<Table> {
    let table = await findTable(this.database, tableId)
    for (let tries = 0; tries < TRIES && table.figures === null && (table.rollUp !== null || figureColumns(table).length > 0); tries++) {
      const computed = this.underWay.get(tableId) ?? this.pool.do({ kind: 'figures', tableId }).finally(() => this.underWay.delete(tableId))
      this.underWay.set(tableId, computed)
      await computed
      table = await findTable(this.database, tableId)
    }
    return table
  }

  close(): Promise<unknown> {
    return this.pool.close()
  }
}
