/** Tables, their columns and records, as they cross the wire. */
import { z } from 'zod'
import { COLUMN_TYPES } from '@dime-gate/core/value/read-cell'
import { ENCODINGS } from '@dime-gate/interchange/table/decode'
import { DELIMITERS, LONGEST_VALUE } from '@dime-gate/interchange/table/read-records'
import { FILE_KINDS, LONGEST_NAME, LONGEST_UNIT, MOST_COLUMNS, type TableSettings } from '@dime-gate/interchange/table/settings'
import { drawnSchema, KEY_PARTS } from './drawn'

const format = {
  kind: z.enum(FILE_KINDS),
  sheet: z.string().max(400).nullable(),
  skip: z.int().min(0).max(10_000),
  encoding: z.enum(ENCODINGS),
  delimiter: z.enum(DELIMITERS),
  hasHeader: z.boolean(),
  hasFullMarks: z.boolean(),
  decimalMark: z.enum(['point', 'comma']),
  dateOrder: z.enum(['year', 'day', 'month']),
}

const decimal = z.string().regex(/^\d{1,9}(\.\d{1,9})?$/)

/** What can be said of a column before it comes in. */
const plan = {
  name: z.string().trim().min(1).max(LONGEST_NAME),
  unit: z.string().trim().max(LONGEST_UNIT),
  type: z.enum(COLUMN_TYPES),
  fraction: z.boolean(),
  fullMarks: decimal.nullable(),
  isIdentity: z.boolean(),
  isLeftOut: z.boolean(),
}

export const tableSettingsSchema: z.ZodType<TableSettings> = z.strictObject({
  ...format,
  columns: z.array(z.strictObject({ header: z.string().max(LONGEST_VALUE), ...plan })).min(1).max(MOST_COLUMNS),
})

/** What is decided of a file so far: of the whole, and of columns by their place; the rest is detected. */
export const fileChoiceSchema = z.strictObject({
  format: z.strictObject(format).omit({ kind: true }).partial().default({}),
  columns: z.record(z.string().regex(/^\d{1,4}$/), z.strictObject(plan).partial()).default({}),
})
export type FileChoice = z.input<typeof fileChoiceSchema>

/** A file that was sent, and waits to become a table. */
export const stagedFileSchema = z.object({ id: z.string(), name: z.string(), size: z.int() })
export type StagedFile = z.infer<typeof stagedFileSchema>

export const fileProblemSchema = z.object({ code: z.string(), message: z.string(), line: z.int().nullable(), column: z.int().nullable() })

const exampleSchema = z.object({ record: z.int(), text: z.string() })

/** What all of a column's values come to, as it would be read. */
export const columnStatisticsSchema = z.object({
  blank: z.int(),
  unreadable: z.int(),
  /** Some that could not be read. */
  examples: z.array(exampleSchema),
  /** Of percents: those with the sign, and bare ones up to one and over it, with an example each. */
  percents: z.object({ signed: z.int(), upToOne: z.int(), overOne: z.int(), examples: z.array(exampleSchema) }).nullable(),
  /**
   * Of dates in figures that end in their year: those that read either way, and one way alone, with an example each.
   * `timed` have a time of day, which does not count.
   */
  dates: z.object({ either: z.int(), dayFirst: z.int(), monthFirst: z.int(), timed: z.int(), examples: z.array(exampleSchema) }).nullable(),
})
export type ColumnStatistics = z.infer<typeof columnStatisticsSchema>

/** A file, looked at from its beginning to its end. */
export const fileLookSchema = z.object({
  settings: tableSettingsSchema,
  sheets: z.array(z.string()),
  /** The first ones. */
  records: z.array(z.array(z.string())),
  problem: fileProblemSchema.nullable(),
  /** How many records there are, and what is in them; null where a problem stands in the way. */
  statistics: z.object({ records: z.int(), columns: z.array(columnStatisticsSchema) }).nullable(),
})
export type FileLook = z.infer<typeof fileLookSchema>

/** How far something is that takes long; `isWaiting` for others to end. */
export const progressSchema = z.object({ records: z.int(), share: z.number().nullable(), isWaiting: z.boolean() })
export type Progress = z.infer<typeof progressSchema>

export const importRequestSchema = z.strictObject({
  file: z.string(),
  name: z.string().trim().min(1).max(120),
  settings: tableSettingsSchema,
})
export type ImportRequest = z.infer<typeof importRequestSchema>

export const tableChangeSchema = z.strictObject({ name: z.string().trim().min(1).max(120) })

export const columnSchema = z.object({
  id: z.int(),
  header: z.string(),
  name: z.string(),
  unit: z.string(),
  type: z.enum(COLUMN_TYPES),
  fullMarks: z.string().nullable(),
  isIdentity: z.boolean(),
  /** What is expected of its values, in canonical text; null where that end is open. */
  expectedLow: z.string().nullable(),
  expectedHigh: z.string().nullable(),
  blank: z.int(),
  unreadable: z.int(),
  /** How it is computed, in FEEL over the names of the table; null for one whose values are given. */
  feel: z.string().nullable(),
  /** From where its values are drawn; null for one whose values are given, or computed of its own record. */
  drawn: drawnSchema.nullable(),
})
export type Column = z.infer<typeof columnSchema>

/** Whether a column's values follow from others, and are not typed. */
export function isComputed({ feel, drawn }: Pick<Column, 'feel' | 'drawn'>): boolean {
  return feel !== null || drawn !== null
}

/** A column of which nothing else is said. */
export function plainColumn(id: number, name: string, more: Partial<Column> = {}): Column {
  const nothing = { header: name, unit: '', fullMarks: null, isIdentity: false, expectedLow: null, expectedHigh: null, blank: 0, unreadable: 0 }
  return { id, name, type: 'number', feel: null, drawn: null, ...nothing, ...more }
}

/** Columns under one name: those that were chosen, or all whose names are like it (`Module *`), also such as come later. */
export const setOfColumnsSchema = z.strictObject({
  name: z.string().trim().min(1).max(LONGEST_NAME),
  by: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('columns'), columns: z.array(z.int()).max(MOST_COLUMNS) }),
    z.strictObject({ kind: z.literal('names'), like: z.string().trim().min(1).max(LONGEST_NAME) }),
  ]),
})
export type SetOfColumns = z.infer<typeof setOfColumnsSchema>

export const tableSummarySchema = z.object({
  id: z.int(),
  name: z.string(),
  version: z.int(),
  records: z.int(),
  columns: z.int(),
  unreadable: z.int(),
  fileName: z.string(),
  importedAt: z.string(),
})
export type TableSummary = z.infer<typeof tableSummarySchema>

/** Of which table the records are groups, and by which of its columns, each with its own here. */
export const rollUpSchema = z.strictObject({ table: z.int(), by: z.array(z.strictObject({ column: z.int(), part: z.enum(KEY_PARTS), own: z.int() })).min(1).max(8) })
export type RollUp = z.infer<typeof rollUpSchema>

/**
 * @property figures moves whenever they are computed anew; null where there are none, or they are not computed yet
 * @property rollUp of a table whose records are groups of another's; null for any other
 * @property standsOn other tables that its values are drawn from
 */
export const tableSchema = tableSummarySchema.extend({
  columns: z.array(columnSchema),
  sets: z.array(setOfColumnsSchema),
  figures: z.int().nullable(),
  rollUp: rollUpSchema.nullable(),
  standsOn: z.array(z.int()),
})
export type Table = z.infer<typeof tableSchema>

/** How the values of a column are spread: bins of numbers or dates, or its commonest values. */
export const columnProfileSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('bins'), from: z.string(), to: z.string(), bins: z.array(z.int()) }),
  z.object({ kind: z.literal('values'), distinct: z.int(), common: z.array(z.object({ value: z.string(), records: z.int() })) }),
  z.object({ kind: z.literal('none') }),
])
export type ColumnProfile = z.infer<typeof columnProfileSchema>
/** With how many of its values are outside what is expected. */
export const tableProfileSchema = z.record(z.string(), z.object({ spread: columnProfileSchema, outside: z.int() }))
export type TableProfile = z.infer<typeof tableProfileSchema>

/** Enough for the records in view and some to spare. */
export const MOST_RECORDS_AT_ONCE = 500
export const recordsRequestSchema = z.strictObject({
  records: z.array(z.int().positive()).max(MOST_RECORDS_AT_ONCE),
  /** As a run kept them: the table as it stood, and what the run saw of its figures. */
  run: z.int().positive().max(2 ** 31 - 1).optional(),
  /** What counts as today in figures; what counts everywhere where none is said. */
  asOf: z.iso.date().optional(),
  /** Of the table as it stood; as it is now where none is said. */
  version: z.int().positive().max(2 ** 31 - 1).optional(),
})
export type RecordsRequest = z.infer<typeof recordsRequestSchema>

/**
 * A value as read, in canonical text, and as written where that differs.
 * Unreadable: no value, but a text. Blank: neither, or white space alone.
 */
export const cellSchema = z.tuple([z.string().nullable(), z.string().nullable()])
export type Cell = z.infer<typeof cellSchema>
export const recordsSchema = z.array(z.object({ record: z.int(), cells: z.array(cellSchema) }))
export type TableRecord = z.infer<typeof recordsSchema>[number]
