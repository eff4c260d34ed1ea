/** Watches the values of a column on their way by: how many cannot be read, and how many could be meant in two ways. */
import type { ColumnStatistics } from '@dime-gate/contract/table'
import { beforeTimeOfDay, DATE_IN_FIGURES } from '@dime-gate/core/value/read-date'
import type { ColumnPlan } from '@dime-gate/interchange/table/settings'
import type { BinaryRows } from '../database/copy-binary'
import type { CellEncoder } from '../table/cell-encoder'

export interface ColumnWatcher {
  readonly statistics: ColumnStatistics
  /** @param record counted from 1 */
  look(bytes: Uint8Array, start: number, end: number, rows: BinaryRows, record: number): void
}

const MOST_EXAMPLES = 5
/** Characters of a text that is shown. */
const SHOWN = 80
const [PERCENT, MINUS] = [0x25, 0x2d]
const ISO_DATE = '2026-03-02'.length

export function columnWatcher(encode: CellEncoder, { type }: ColumnPlan): ColumnWatcher {
  const statistics: ColumnStatistics = {
    blank: 0,
    unreadable: 0,
    examples: [],
    percents: type === 'percent' ? { signed: 0, upToOne: 0, overOne: 0, examples: [] } : null,
    dates: type === 'date' ? { either: 0, dayFirst: 0, monthFirst: 0, timed: 0, examples: [] } : null,
  }
  const { percents, dates, examples } = statistics
  return {
    statistics,
    look(bytes, start, end, rows, record) {
      const { state } = encode(bytes, start, end, rows)
      if (state === 'blank') statistics.blank++
      else if (state === 'unreadable' && statistics.unreadable++ < MOST_EXAMPLES) examples.push({ record, text: textOf(bytes, start, end) })
      if (dates && state !== 'blank' && !(end - start === ISO_DATE && bytes[start + 4] === MINUS))
        lookAtDate(dates, textOf(bytes, start, end), record, state === 'readable')
      if (percents && state === 'readable') lookAtPercent(percents, bytes, start, end, record)
    },
  }
}

function lookAtDate(dates: NonNullable<ColumnStatistics['dates']>, text: string, record: number, isReadable: boolean): void {
  const day = beforeTimeOfDay(text.trim())
  if (day !== null && isReadable) dates.timed++
  const parts = DATE_IN_FIGURES.exec(day ?? text)
  if (!parts) return
  const [first, second] = [Number(parts[1]), Number(parts[2])]
  const way = first > 12 ? 'dayFirst' : second > 12 ? 'monthFirst' : first === second ? null : 'either'
  if (way && dates[way]++ === 0) dates.examples.push({ record, text })
}

function lookAtPercent(
  percents: NonNullable<ColumnStatistics['percents']>,
  bytes: Uint8Array,
  start: number,
  end: number,
  record: number,
): void {
  const way = hasSign(bytes, start, end)
    ? 'signed'
    : Math.abs(Number(textOf(bytes, start, end).replace(',', '.'))) <= 1
      ? 'upToOne'
      : 'overOne'
  if (percents[way]++ === 0) percents.examples.push({ record, text: textOf(bytes, start, end) })
}

function hasSign(bytes: Uint8Array, start: number, end: number): boolean {
  let last = end - 1
  while (last > start && bytes[last]! <= 0x20) last--
  return bytes[last] === PERCENT
}

function textOf(bytes: Uint8Array, start: number, end: number): string {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset + start, Math.min(end - start, 4 * SHOWN)).toString('utf8')
  return text.slice(0, SHOWN)
}
