/** Blocks of cells: what is chosen, and what is copied and pasted. */
import { recordsOfText } from '@dime-gate/interchange/table/read-records'

/** A cell by its places in the list and among the columns that are shown. */
export interface Place {
  row: number
  column: number
}

/** All cells from one corner to another, both included. */
export interface Block {
  top: number
  left: number
  bottom: number
  right: number
}

export function blockOf(anchor: Place, active: Place): Block {
  return {
    top: Math.min(anchor.row, active.row),
    bottom: Math.max(anchor.row, active.row),
    left: Math.min(anchor.column, active.column),
    right: Math.max(anchor.column, active.column),
  }
}

export function isIn({ top, left, bottom, right }: Block, row: number, column: number): boolean {
  return row >= top && row <= bottom && column >= left && column <= right
}

/** Where the keys of arrows and their kin lead. @param page rows in view */
export function moved(
  { row, column }: Place,
  key: string,
  isFar: boolean,
  { rows, columns, page }: { rows: number; columns: number; page: number },
): Place | null {
  const to = (newRow: number, newColumn: number): Place => ({
    row: Math.max(0, Math.min(rows - 1, newRow)),
    column: Math.max(0, Math.min(columns - 1, newColumn)),
  })
  switch (key) {
    case 'ArrowUp':
      return to(isFar ? 0 : row - 1, column)
    case 'ArrowDown':
      return to(isFar ? rows - 1 : row + 1, column)
    case 'ArrowLeft':
      return to(row, isFar ? 0 : column - 1)
    case 'ArrowRight':
      return to(row, isFar ? columns - 1 : column + 1)
    case 'PageUp':
      return to(row - page, column)
    case 'PageDown':
      return to(row + page, column)
    case 'Home':
      return to(isFar ? 0 : row, 0)
    case 'End':
      return to(isFar ? rows - 1 : row, columns - 1)
    default:
      return null
  }
}

/** Cells as text that other programs take for cells: a line a row, tabs between them. */
export function blockText(rows: readonly (readonly string[])[]): string {
  const cell = (text: string) => (/["\t\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)
  return rows.map((row) => row.map(cell).join('\t')).join('\n')
}

/** What was copied from anywhere, as cells; all rows as long as the longest. */
export function cellsOfText(text: string): string[][] {
  const lines = text.replace(/(\r\n|\r|\n)$/, '')
  const width = widthOf(lines)
  // One column of lines may have empty ones, which are blanks there.
  if (width === 1 && !lines.includes('"')) return lines.split(/\r\n|\r|\n/).map((line) => [line])
  return recordsOfText(lines, '\t', true, { width, isPadded: true }).records
}

/** Cells of the longest row; a tab between marks of quotation is part of its cell. */
function widthOf(text: string): number {
  let [width, own, isQuoted] = [1, 1, false]
  for (const sign of text) {
    if (sign === '"') isQuoted = !isQuoted
    else if (isQuoted) continue
    else if (sign === '\t') width = Math.max(width, ++own)
    else if (sign === '\n' || sign === '\r') own = 1
  }
  return width
}

/** The block that pasted cells fill from a place on: one cell fills all that is chosen. @returns by row and column what goes where, within the list */
export function pastedInto(
  cells: readonly (readonly string[])[],
  chosen: Block,
  { rows, columns }: { rows: number; columns: number },
): { row: number; column: number; text: string }[] {
  const [height, width] = [cells.length, cells[0]?.length ?? 0]
  if (height === 0 || width === 0) return []
  const isOne = height === 1 && width === 1
  const [bottom, right] = isOne ? [chosen.bottom, chosen.right] : [chosen.top + height - 1, chosen.left + width - 1]
  const all: { row: number; column: number; text: string }[] = []
  for (let row = chosen.top; row <= Math.min(bottom, rows - 1); row++) {
    for (let column = chosen.left; column <= Math.min(right, columns - 1); column++) {
      all.push({ row, column, text: isOne ? cells[0]![0]! : cells[row - chosen.top]![column - chosen.left]! })
    }
  }
  return all
}
