import { type Column, isComputed, type Table } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { WHITE_SPACE } from '@dime-gate/core/value/white-space'
import { figureRelation } from '../figure/stored-figures'
import { SQL_TYPES } from './column-types'

/** Where a table's records lie. Names are made of ids alone, so they need no quoting. */
export function relationOf(tableId: number): string {
  return `records.t${whole(tableId)}`
}

/** The records of a table as they are now, with their figures where these are computed, and nothing in their place where they are not. */
export function recordsWithFigures({ id, columns, figures }: Pick<Table, 'id' | 'columns' | 'figures'>): string {
  return withColumns({ id, figures }, columns.filter(isComputed), recordsNow(id))
}

/** What is not computed of a record itself: the given values, and those that are drawn from elsewhere, where there are any. */
export function recordsWithDrawn({ id, columns, figures }: Pick<Table, 'id' | 'columns' | 'figures'>, given = recordsNow(id)): string {
  return withColumns({ id, figures }, columns.filter(({ drawn }) => drawn !== null), given)
}

function withColumns({ id, figures }: Pick<Table, 'id' | 'figures'>, computed: readonly Column[], given: string): string {
  if (computed.length === 0) return given
  const from = figures === null ? '' : `left join ${figureRelation(id, figures)} figures using (record)`
  const values = computed.map((column) => (figures === null ? `null::${SQL_TYPES[column.type]} as ${valueOf(column.id)}` : `figures.${valueOf(column.id)}`))
  return `(select given.*, ${values.join(', ')} from ${given.replace(/ as records$/, ' as given')} ${from}) as records`
}

/** The given values of a table's records as they are now, to be read from. */
export function recordsNow(tableId: number): string {
  return `(select * from ${relationOf(tableId)} where until is null) as records`
}

/** The given values of a table's records as they stood in one of its versions. */
export function recordsAt(tableId: number, version: number): string {
  return `(select * from ${relationOf(tableId)} where since <= ${whole(version)} and (until is null or until > ${whole(version)})) as records`
}

/** The typed values of a column. */
export function valueOf(columnId: number): string {
  return `c${whole(columnId)}`
}

/**
 * The text of a column as written, where it differs from the value's own text; null elsewhere. A record
 * keeps all of its own in one JSON object by column id: most records have none, and then it costs nothing.
 */
export function writtenOf(columnId: number): string {
  return `(written ->> '${whole(columnId)}')`
}

/** The text of a column as it was written, whether it could be read or not. */
export function writtenText(columnId: number): string {
  return `coalesce(${writtenOf(columnId)}, ${valueOf(columnId)}::text)`
}

const WHITE_SPACE_IN_SQL = `E'${Array.from(WHITE_SPACE, (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`).join('')}'`

/** Whether a record's text in this column could not be read: no value, yet more than white space. */
export function isUnreadable(columnId: number): string {
  return `(${valueOf(columnId)} is null and btrim(${writtenOf(columnId)}, ${WHITE_SPACE_IN_SQL}) <> '')`
}

/** Whether a value is outside what is expected of its column, or of full marks; null where nothing is expected. */
export function isOutside({ id, type, expectedLow, expectedHigh, fullMarks }: Pick<Column, 'id' | 'type' | 'expectedLow' | 'expectedHigh' | 'fullMarks'>): string | null {
  const kind = type === 'date' ? 'date' : isNumeric(type) ? 'numeric' : null
  if (kind === null) return null
  const [low, high] = [expectedLow ?? (fullMarks === null ? null : '0'), expectedHigh ?? fullMarks]
  const ends = [low === null ? [] : [`${valueOf(id)} < '${checked(low)}'::${kind}`], high === null ? [] : [`${valueOf(id)} > '${checked(high)}'::${kind}`]].flat()
  return ends.length === 0 ? null : `(${ends.join(' or ')})`
}

/** A decimal or a date in canonical text, which needs no quoting. */
function checked(text: string): string {
  if (!/^-?[\d.-]+$/.test(text)) throw new TypeError(`neither a number nor a date: ${text}`)
  return text
}

function whole(id: number): number {
  if (!Number.isSafeInteger(id)) throw new TypeError(`not an id: ${id}`)
  return id
}
