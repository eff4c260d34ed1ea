/** Cells of one column as COPY wants them; what a column says again and again is read once. */
import { type ColumnReading, readCell } from '@dime-gate/core/value/read-cell'
import { COPY_NULL, toCopyText } from '../database/copy-text'

export interface EncodedCell {
  state: 'readable' | 'blank' | 'unreadable'
  /** In COPY's text. */
  value: string
  /** The text as written, where it is not the value's own. */
  written: string | null
}

const EMPTY: EncodedCell = { state: 'blank', value: COPY_NULL, written: null }
/** Texts that are remembered of a column, and the lookups after which a column that seldom repeats itself is no longer asked. */
const REMEMBERED = 4096
const PROBATION = 8192

export function cellEncoder(reading: ColumnReading): (written: string) => EncodedCell {
  let known: Map<string, EncodedCell> | null = new Map()
  let [lookups, hits] = [0, 0]

  return (written) => {
    if (written === '') return EMPTY
    if (known === null) return encode(written, reading)
    const before = known.get(written)
    lookups++
    if (before) {
      hits++
      return before
    }
    const cell = encode(written, reading)
    if (known.size < REMEMBERED) known.set(written, cell)
    if (lookups > PROBATION && hits < lookups / 2) known = null
    return cell
  }
}

function encode(written: string, reading: ColumnReading): EncodedCell {
  const cell = readCell(written, reading)
  if (cell.state !== 'readable') return { state: cell.state, value: COPY_NULL, written }
  return { state: 'readable', value: toCopyText(cell.value), written: cell.value === written ? null : written }
}
