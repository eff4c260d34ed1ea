/** The records that moved between two runs, as a file: as the later run saw them, with where they were, where they are, and by what. */
import type { Run } from '@dime-gate/contract/run'
import type { Cause } from '@dime-gate/core/compare/causes'
import type { OutColumn } from '@dime-gate/interchange/table/out'
import type { OutFormat } from '@dime-gate/interchange/table/out-formats'
import { writeTable } from '@dime-gate/interchange/table/write-table'
import type { Connection } from '../database/database'
import { recordsOfRun } from '../run/run-relation'
import { csvPieces, type CsvField, writtenField } from '../table/csv-pieces'
import { outColumns, type OutField, outField, outRows } from '../table/out-rows'
import type { MovedOne } from './explain-moves'

/** @property by the causes of its reason in words, or that it is new or gone */
export type MovedLine = Pick<MovedOne, 'record' | 'from' | 'to'> & { by: string }

export interface MovedTable {
  before: Run
  after: Run
  lines: MovedLine[]
}

/** Each set of causes by itself explains it. */
export function byWords(sets: Cause[][]): string {
  return sets.map((set) => set.join(' + ')).join(' or ')
}

/** What one of the two is called at the head of a column. */
export function sideWords({ isDraft, number }: Pick<Run, 'isDraft' | 'number'>): string {
  return isDraft ? 'Draft' : `Run ${number}`
}

const ADDED = ['was', 'now', 'by'] as const
/** The text of a label, or what else became of the record. */
const landed = (field: string) => `case when ${field} like '=%' then substr(${field}, 2) else ${field} end`

export async function* movedTable(connection: Connection, { before, after, lines }: MovedTable, format: OutFormat): AsyncGenerator<Uint8Array> {
  const names = after.columns.map(({ name }) => name)
  const heads = [sideWords(before), sideWords(after), 'Moved by'].map((head) => (names.includes(head) ? `${head} (moved)` : head))
  const rows = JSON.stringify(lines.map(({ record, from, to, by }) => ({ record, was: from, now: to, by })))
  const from = `jsonb_to_recordset(${connection.escapeLiteral(rows)}::jsonb) as moved (record integer, was text, now text, by text) left join ${recordsOfRun(after)} using (record)`
  const added = ADDED.map((field) => (field === 'by' ? `moved.${field}` : landed(`moved.${field}`)))
  if (format === 'csv') {
    const fields: CsvField[] = [...added.map((text) => ({ text, isPlain: 'false' })), ...after.columns.map(writtenField)]
    return yield* csvPieces(connection, [...heads, ...after.columns.map(({ header, name }) => header || name)], fields, from)
  }
  const plain = heads.map((name): OutColumn => ({ name, unit: '', type: 'text', fullMarks: null, isIdentity: false, hasUnreadable: false }))
  const fields: OutField[] = [...added.map((value) => ({ value, unreadable: null })), ...after.columns.map(outField)]
  yield* writeTable(format, { name: `${after.gateName}, moved`, columns: [...plain, ...(await outColumns(connection, after.columns, recordsOfRun(after)))] }, outRows(connection, fields, from))
}
