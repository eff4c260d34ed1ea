/** A table on its way out: its columns, and its records some at a time. */
import { readHeader } from '@dime-gate/core/table/suggest-column'
import type { ColumnType } from '@dime-gate/core/value/read-cell'

/** @property colours of texts that are labels, `#rrggbb`, for formats that can show them */
export interface OutColumn {
  name: string
  unit: string
  type: ColumnType
  /** As a decimal; null where nothing is said. */
  fullMarks: string | null
  isIdentity: boolean
  colours?: ReadonlyMap<string, string>
  /** Of numbers: digits before and behind the point that their values need, and whether some of its texts are no value. */
  digits?: { whole: number; fraction: number }
  hasUnreadable?: boolean
}

/** A value in canonical text, and what was written where that is no value; neither where it is blank. */
export interface OutCell {
  value: string | null
  unreadable: string | null
}

export type OutRow = readonly OutCell[]

export interface OutTable {
  name: string
  columns: readonly OutColumn[]
}

/** The head under which a column goes out, from which its name, unit and full marks are read again. */
export function headOf({ name, unit, fullMarks }: Pick<OutColumn, 'name' | 'unit' | 'fullMarks'>): string {
  const note = fullMarks === null ? unit : `out of ${fullMarks}`
  if (note === '') return name
  const head = `${name} (${note})`
  const read = readHeader(head)
  return read.name === name && (fullMarks === null ? read.unit === unit : read.fullMarks === fullMarks) ? head : name
}

/** What the formats say of a column that have a place for it. */
export function noteOf({
  name,
  unit,
  type,
  fullMarks,
  isIdentity,
}: OutColumn): Pick<OutColumn, 'name' | 'unit' | 'type' | 'fullMarks' | 'isIdentity'> {
  return { name, unit, type, fullMarks, isIdentity }
}

/** Heads of all columns; alike ones are numbered, for most formats know a column by its head alone. */
export function headsOf(columns: readonly OutColumn[]): string[] {
  const taken = new Set<string>()
  return columns.map((column) => {
    const wanted = headOf(column)
    let head = wanted
    for (let number = 2; taken.has(head); number++) head = `${wanted} ${number}`
    taken.add(head)
    return head
  })
}
