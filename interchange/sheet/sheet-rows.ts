/** Rows of a sheet on their way to plain text. The first ones are held back: what stands in merged cells counts for all of them. */
import type { ColumnPlan } from '../table/settings'
import { fileError } from '../table/problem'
import { type PlainRows, plainRows } from '../table/plain-rows'

export interface SheetCell {
  text: string
  /** What the sheet says that it is; `kept text` was marked as text by whoever made it. */
  kind: 'text' | 'kept text' | 'figure'
}

/** What the first rows may hold heads in. */
const HELD = 50
/** Wider tables cannot be brought in. */
const MOST_COLUMNS = 1200
const PIECE = 1 << 18

export interface PlainSheet {
  /** What comes before all that was written. */
  head: Uint8Array
  width: number
  records: number
  declared: (Partial<ColumnPlan> | null)[]
}

export class SheetRows {
  private readonly held: (readonly (SheetCell | undefined)[] | null)[] = []
  private readonly body: PlainRows = plainRows()
  private width = 0
  private records = 0
  private readonly kept: number[] = []
  private readonly others: number[] = []

  /** @param write takes what comes behind the head. @param told is told of rows, now and then */
  constructor(
    private readonly write: (piece: Uint8Array) => void,
    private readonly told: (rows: number) => void,
  ) {}

  /** @param row counted from 0; rows come in order, and blank ones may be left out. @param cells by column, sparse */
  add(row: number, cells: readonly (SheetCell | undefined)[]): void {
    const width = filledWidth(cells)
    if (width > MOST_COLUMNS)
      throw fileError(
        'too-many-columns',
        `Row ${row + 1} of the sheet has values in ${width} columns; a table holds at most ${MOST_COLUMNS}. Split the sheet, or delete what stands far to the right.`,
        row + 1,
        MOST_COLUMNS + 1,
      )
    if (row < HELD) {
      this.held[row] = cells.slice(0, width)
      return
    }
    if (width === 0) return
    this.tally(cells)
    this.writeRow(this.body, cells, width)
    if (this.body.size < PIECE) return
    this.write(this.body.take())
    this.told(this.records)
  }

  /** Cells from one corner to the other, both included, counted from 0, show what the first of them holds. */
  merge(top: number, left: number, bottom: number, right: number): void {
    const first = this.held[top]?.[left]
    if (!first || first.text === '') return
    for (let row = top; row <= Math.min(bottom, HELD - 1); row++) {
      const cells = [...(this.held[row] ?? [])]
      for (let column = left; column <= Math.min(right, MOST_COLUMNS - 1); column++) if (!cells[column]?.text) cells[column] = first
      this.held[row] = cells
    }
  }

  finish(): PlainSheet {
    const rows = Array.from(this.held, (cells) => cells ?? []).filter((cells) => filledWidth(cells) > 0)
    // Heads are texts whatever is below them.
    for (const cells of rows.slice(1)) this.tally(cells)
    this.width = rows.reduce((width, cells) => Math.max(width, filledWidth(cells)), this.width)
    const head = plainRows()
    for (const cells of rows) this.writeRow(head, cells, filledWidth(cells))
    this.write(this.body.take())
    const declared = Array.from({ length: this.width }, (_, at): Partial<ColumnPlan> | null =>
      (this.kept[at] ?? 0) > 0 && (this.others[at] ?? 0) === 0 ? { type: 'text' } : null,
    )
    return { head: head.take(), width: this.width, records: this.records, declared }
  }

  private tally(cells: readonly (SheetCell | undefined)[]): void {
    cells.forEach((cell, at) => {
      if (!cell || cell.text === '') return
      const counts = cell.kind === 'kept text' ? this.kept : this.others
      counts[at] = (counts[at] ?? 0) + 1
    })
  }

  private writeRow(rows: PlainRows, cells: readonly (SheetCell | undefined)[], width: number): void {
    for (let at = 0; at < width; at++) rows.text(cells[at]?.text ?? '')
    rows.endRow()
    this.width = Math.max(this.width, width)
    this.records++
  }
}

function filledWidth(cells: readonly (SheetCell | undefined)[]): number {
  let width = cells.length
  while (width > 0 && !cells[width - 1]?.text) width--
  return width
}
