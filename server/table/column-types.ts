import type { ColumnType } from '@dime-gate/core/value/read-cell'

/** How the database holds the values of a column. */
export const SQL_TYPES: Record<ColumnType, string> = {
  number: 'numeric',
  percent: 'numeric',
  date: 'date',
  text: 'text',
  boolean: 'boolean',
}
