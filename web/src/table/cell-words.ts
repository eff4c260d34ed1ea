/** A cell in words, and in the text that somebody would type for it. */
import { type Cell, type Column, isComputed } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { date, FIGURE_PLACES, number, roundedText } from '../shared/format'
import { TYPE_WORDS } from '../shared/words'

export type CellState = 'value' | 'blank' | 'unreadable' | 'outside'

export function stateOf(cell: Cell | undefined, column: Column): CellState {
  if (!cell) return 'value'
  const [value, written] = cell
  if (value === null) return written?.trim() ? 'unreadable' : 'blank'
  return isOutside(value, column) ? 'outside' : 'value'
}

/** Whether a value is not what is expected of its column. Doubles do: what is exactly on an end is not outside in either. */
function isOutside(value: string, { type, fullMarks, expectedLow, expectedHigh }: Column): boolean {
  const [low, high] = [expectedLow ?? (fullMarks === null ? null : '0'), expectedHigh ?? fullMarks]
  if (type === 'date') return (low !== null && value < low) || (high !== null && value > high)
  return isNumeric(type) && ((low !== null && Number(value) < Number(low)) || (high !== null && Number(value) > Number(high)))
}

export function cellWords(cell: Cell | undefined, { type }: Pick<Column, 'type'>): string {
  if (!cell) return '…'
  const [value, written] = cell
  if (value === null) return written?.trim() ? written : 'blank'
  if (type === 'date') return date(value)
  if (type === 'boolean') return value === 'true' ? 'yes' : 'no'
  return isNumeric(type) ? number(value) : value
}

/** The same as far as it is told in a list: what is computed can have more digits than anybody reads. */
export function listedWords(cell: Cell | undefined, column: Pick<Column, 'type' | 'feel' | 'drawn'>): string {
  const value = cell?.[0] ?? null
  return value !== null && isComputed(column) && isNumeric(column.type) ? number(roundedText(value, FIGURE_PLACES)) : cellWords(cell, column)
}

/** What a column holds, as its head tells it: its unit or its kind, and of a computed one that it is, or from which state of a gate it comes. */
export function headWords({ type, unit, fullMarks, feel, drawn }: Pick<Column, 'type' | 'unit' | 'fullMarks' | 'feel' | 'drawn'>): string {
  const kind = unit || TYPE_WORDS[type]
  if (drawn?.kind === 'label') return `${drawn.outcome === 0 ? 'label' : kind}, ${drawn.from === 'draft' ? 'draft' : 'last version'}`
  if (isComputed({ feel, drawn })) return `${kind}, computed`
  return fullMarks === null ? kind : `of ${number(fullMarks)}${unit ? ` ${unit}` : ''}`
}

/** What stands in the field when a cell is opened: as it was written, and figures under the reader's own decimal mark. */
export function cellInput([value, written]: Cell, { type }: Pick<Column, 'type'>): string {
  if (value === null) return written ?? ''
  if (type === 'boolean') return value === 'true' ? 'yes' : 'no'
  return isNumeric(type) ? number(value).replace('\u2212', '-') : type === 'date' ? value : (written ?? value)
}

/** What is expected, for somebody whose value does not fit. */
export function expectedWords({ type, fullMarks, expectedLow, expectedHigh }: Column): string {
  const kind = {
    number: 'a number',
    percent: 'a number of percent',
    date: 'a date, as 2 Mar 2026 or 2026-03-02',
    text: 'a text',
    boolean: 'yes or no',
  }[type]
  const words = type === 'date' ? date : number
  const [low, high] = [expectedLow ?? (fullMarks === null ? null : '0'), expectedHigh ?? fullMarks]
  if (low !== null && high !== null) return `${kind} from ${words(low)} to ${words(high)}`
  return low !== null ? `${kind} from ${words(low)}` : high !== null ? `${kind} up to ${words(high)}` : kind
}
