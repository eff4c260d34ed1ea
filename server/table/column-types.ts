import type { ColumnType } from '@dime-gate/core/value/read-cell'

/** How the database holds the values of a column. */
export const SQL_TYPES: Record<ColumnType, string> = {
  number: 'numeric',
  percent: 'numeric',
  date: 'date',
  text: 'text',
  boolean: 'boolean',
}

/** The same types by their numbers in the database's catalog, which never change. Source: PostgreSQL, pg_type.dat. */
export const TYPE_IDS: Record<ColumnType, number> = { number: 1700, percent: 1700, date: 1082, text: 25, boolean: 16 }
