/** Records of a file as rows of the database: their numbers, values, and what is kept as written. */
import type { Records } from '@dime-gate/interchange/table/records'
import { leadingRecords, readingOf, type TableSettings } from '@dime-gate/interchange/table/settings'
import { BinaryRows } from '../database/copy-binary'
import { cellEncoder, type CellFate } from './cell-encoder'
import { TYPE_IDS } from './column-types'

export interface Tally {
  records: number
  /** By column. */
  blank: number[]
  unreadable: number[]
}

export interface RecordEncoder {
  /** Where records are written to, a row each: number, values, and what is kept as written. */
  rows: BinaryRows
  write(records: Records): void
  tally: Tally
}

/**
 * @param columnIds by column of the file; null for one that is left out
 * @param inPart columns that are one composite value; null where each is a field by itself
 */
export function recordEncoder(settings: TableSettings, columnIds: (number | null)[], inPart: number | null): RecordEncoder {
  const columns = settings.columns.map((column) => cellEncoder(readingOf(settings, column)))
  const tally: Tally = { records: 0, blank: columns.map(() => 0), unreadable: columns.map(() => 0) }
  const rows = new BinaryRows()
  const kinds = settings.columns.map(({ type }) => TYPE_IDS[type])
  const width = columnIds.filter((id) => id !== null).length
  const fields = (inPart === null ? width : Math.ceil(width / inPart)) + 2
  let leading = leadingRecords(settings)

  const write = (records: Records): void => {
    const { bytes, starts, ends, width: inFile, length } = records
    for (let record = Math.min(leading, length), place = record * inFile; record < length; record++) {
      let kept: Record<number, string> | null = null
      rows.row(fields)
      rows.integer(++tally.records)
      let [written, part] = [0, 0]
      for (let at = 0; at < inFile; at++, place++) {
        const id = columnIds[at]!
        if (id === null) continue
        if (inPart !== null) {
          if (written % inPart === 0) {
            if (written > 0) rows.endComposite(part)
            part = rows.composite(Math.min(inPart, width - written))
          }
          rows.kind(kinds[at]!)
          written++
        }
        const { state, isKept }: CellFate = columns[at]!(bytes, starts[place]!, ends[place]!, rows)
        if (state !== 'readable') tally[state][at]!++
        if (isKept) (kept ??= {})[id] = records.text(record, at)
      }
      if (inPart !== null) rows.endComposite(part)
      if (kept) rows.json(kept)
      else rows.null()
    }
    leading = Math.max(0, leading - length)
  }
  return { rows, tally, write }
}
