/** Computed columns as rows of a relation of theirs, in the text format of COPY. */
import type { Column as TableColumn } from '@dime-gate/contract/table'
import { type Column, valueTextAt } from '@dime-gate/core/table/table'
import { COPY_NULL, toCopyText } from '../database/copy-text'
import { SQL_TYPES } from '../table/column-types'
import { valueOf } from '../table/relation'

export function fieldsOf(columns: readonly TableColumn[]): string[] {
  return ['record integer not null', ...columns.map(({ id, type }) => `${valueOf(id)} ${SQL_TYPES[type]}`)]
}

export function linesOf(rows: { length: number; whole(row: number, field: number): number }, values: readonly Column[]): Buffer | null {
  const lines = Array.from({ length: rows.length }, (_, at) =>
    [rows.whole(at, 0), ...values.map((column) => copied(valueTextAt(column, at)))].join('\t'),
  )
  return lines.length === 0 ? null : Buffer.from(`${lines.join('\n')}\n`)
}

function copied(text: string | null): string {
  return text === null ? COPY_NULL : toCopyText(text)
}
