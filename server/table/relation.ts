import { WHITE_SPACE } from '@dime-gate/core/value/white-space'

/** Where a table's records lie. Names are made of ids alone, so they need no quoting. */
export function relationOf(tableId: number): string {
  return `records.t${whole(tableId)}`
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

function whole(id: number): number {
  if (!Number.isSafeInteger(id)) throw new TypeError(`not an id: ${id}`)
  return id
}
