/** The texts of a table as columns of the kinds that a gate's inputs have. */
import { evaluate } from '@dime-gate/core/expression/evaluate'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { freeNames } from '@dime-gate/core/expression/tree'
import type { Input } from '@dime-gate/core/gate/document'
import type { Cell } from '@dime-gate/core/table/cells'
import { type ColumnReading, readCell } from '@dime-gate/core/value/read-cell'
import type { DateOrder } from '@dime-gate/core/value/read-date'
import type { DecimalMark } from '@dime-gate/core/value/read-number'
import { parseDate } from '@dime-gate/core/value/temporal'
import { isList, kindOf, type Value } from '@dime-gate/core/value/value'
import { valueFromText } from '@dime-gate/core/value/value-text'

/** How the table's numbers and dates are written. */
export interface Writing {
  decimalMark: DecimalMark
  dateOrder: DateOrder
}

export type CellReader = (written: string) => Cell

/** Reads one value for this input: its canonical text, null for a blank, or what could not be read. */
export function cellReader({ type, unit }: Input, { decimalMark, dateOrder }: Writing): CellReader {
  const unreadable = (written: string) => ({ unreadable: written })
  if (type === 'number' || type === 'text' || type === 'date' || type === 'boolean') {
    const reading: ColumnReading = { type: type === 'number' && unit === '%' ? 'percent' : type, decimalMark, dateOrder, fraction: false }
    return (written) => {
      const read = readCell(written, reading)
      return read.state === 'readable' ? read.value : read.state === 'blank' ? null : unreadable(written)
    }
  }
  return (written) => {
    const text = written.trim()
    return text === '' ? null : valueFromText(text, type) === null ? unreadable(written) : text
  }
}

const ANY_DAY = parseDate('1970-01-01')!

/** A cell that holds a whole list, as in `[4, 3.5]`; a single value counts as the list of it. */
export function listFromCell(written: string, input: Input, read: CellReader): { list: readonly Value[] } | { unreadable: string } | null {
  const text = written.trim()
  if (text.startsWith('[')) {
    const parsed = parseExpression(text, [])
    const value = 'tree' in parsed && freeNames(parsed.tree).length === 0 ? evaluate(parsed.tree, { value: () => null, today: ANY_DAY }) : null
    const isRight = value !== null && isList(value) && value.every((item) => item === null || kindOf(item) === input.type)
    return isRight ? { list: value.filter((item) => item !== null) } : { unreadable: written }
  }
  const cell = read(written)
  if (cell === null || typeof cell !== 'string') return cell
  return { list: [valueFromText(cell, input.type)] }
}
