/** Columns of one table that are asked for in the same moment: its records are read once for all of them, which takes little longer than for one. */
import type { Column, Table } from '@dime-gate/contract/table'
import type { ThreadPool } from '../threads/thread-pool'
import type { AnswerTask, Grown } from './make-answer'
import type { Place } from './place'

/** Milliseconds that one waits for others: a page asks for all that it needs at once. */
const MOMENT = 5

export interface ColumnAsked {
  table: Table
  column: Column
  /** What counts as today, where it is a figure. */
  asOf: string
}

interface Together {
  asked: { column: Column; place: Place }[]
  made: Promise<void>
}

export class ColumnsTogether {
  /** By what they have in common, those that others can still join. */
  private readonly gathering = new Map<string, Together>()
  /** By table how many have asked for a column of whom it is not known yet what exactly they are to be given. */
  private readonly coming = new Map<number, number>()

  constructor(private readonly threads: ThreadPool<AnswerTask, Grown, void>) {}

  /**
   * Somebody will ask for a column of the table, and others wait for them: the first one looks up for longer what it is to be given
   * than those behind it. @returns to be called once they have asked, or never will; a second call does nothing
   */
  expect(tableId: number): () => void {
    this.coming.set(tableId, (this.coming.get(tableId) ?? 0) + 1)
    let isHere = false
    return () => {
      if (isHere) return
      isHere = true
      const left = this.coming.get(tableId)! - 1
      if (left > 0) this.coming.set(tableId, left)
      else this.coming.delete(tableId)
    }
  }

  /** @throws what went wrong with any of them */
  make(place: Place, { table, column, asOf }: ColumnAsked): Promise<void> {
    const by = JSON.stringify([table.id, table.version, table.figures, asOf])
    const before = this.gathering.get(by)
    if (before) {
      before.asked.push({ column, place })
      return before.made
    }
    const asked = [{ column, place }]
    const made = this.gathered(table.id).then(() => {
      this.gathering.delete(by)
      return this.threads.do(
        { kind: 'answer', fds: asked.map(({ place: { fd } }) => fd), answer: { kind: 'columns', table, columns: asked.map((one) => one.column), asOf } },
        { heard: ([at, size]) => asked[at]!.place.grown(size), signal: allOf(asked.map((one) => one.place.left)) },
      )
    })
    this.gathering.set(by, { asked, made })
    return made
  }

  private async gathered(tableId: number): Promise<void> {
    do await new Promise((resolve) => setTimeout(resolve, MOMENT))
    while (this.coming.has(tableId))
  }
}

/** Aborts once all of them have. */
function allOf(signals: readonly AbortSignal[]): AbortSignal {
  const all = new AbortController()
  const look = () => signals.every(({ aborted }) => aborted) && all.abort()
  for (const signal of signals) signal.addEventListener('abort', look, { once: true })
  look()
  return all.signal
}
