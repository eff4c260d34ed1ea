/** Tables, their columns and records, as they cross the wire. */
import { z } from 'zod'
import { COLUMN_TYPES } from '@dime-gate/core/value/read-cell'
import { ENCODINGS } from '@dime-gate/interchange/table/decode'
import { DELIMITERS } from '@dime-gate/interchange/table/read-records'
import { MOST_COLUMNS, type TableSettings } from '@dime-gate/interchange/table/settings'

const format = {
  encoding: z.enum(ENCODINGS),
  delimiter: z.enum(DELIMITERS),
  hasHeader: z.boolean(),
  decimalMark: z.enum(['point', 'comma']),
  dateOrder: z.enum(['year', 'day', 'month']),
}

export const tableSettingsSchema: z.ZodType<TableSettings> = z.strictObject({
  ...format,
  columns: z.array(z.strictObject({
    header: z.string().max(2000),
    name: z.string().trim().min(1).max(200),
    unit: z.string().trim().max(40),
    type: z.enum(COLUMN_TYPES),
    fraction: z.boolean(),
  })).min(1).max(MOST_COLUMNS),
})

export const fileFormatChoiceSchema = z.strictObject(format).partial()
export type FileFormatChoice = z.infer<typeof fileFormatChoiceSchema>

export const fileProblemSchema = z.object({ code: z.string(), message: z.string(), line: z.int().nullable(), column: z.int().nullable() })

export const tablePreviewSchema = z.object({
  settings: tableSettingsSchema,
  records: z.array(z.array(z.string())),
  problem: fileProblemSchema.nullable(),
})
export type TablePreviewBody = z.infer<typeof tablePreviewSchema>

export const importRequestSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  fileName: z.string().max(400),
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
  blank: z.int(),
  unreadable: z.int(),
})
export type Column = z.infer<typeof columnSchema>

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

export const tableSchema = tableSummarySchema.extend({ columns: z.array(columnSchema) })
export type Table = z.infer<typeof tableSchema>

/** How the values of a column are spread: bins of numbers or dates, or its commonest values. */
export const columnProfileSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('bins'), from: z.string(), to: z.string(), bins: z.array(z.int()) }),
  z.object({ kind: z.literal('values'), distinct: z.int(), common: z.array(z.object({ value: z.string(), records: z.int() })) }),
  z.object({ kind: z.literal('none') }),
])
export type ColumnProfile = z.infer<typeof columnProfileSchema>
export const tableProfileSchema = z.record(z.string(), columnProfileSchema)

/** Enough for the records in view and some to spare. */
export const MOST_RECORDS_AT_ONCE = 500
export const recordsRequestSchema = z.strictObject({ records: z.array(z.int().positive()).max(MOST_RECORDS_AT_ONCE) })

/**
 * A value as read, in canonical text, and as written where that differs.
 * Unreadable: no value, but a text. Blank: neither, or white space alone.
 */
export const cellSchema = z.tuple([z.string().nullable(), z.string().nullable()])
export type Cell = z.infer<typeof cellSchema>
export const recordsSchema = z.array(z.object({ record: z.int(), cells: z.array(cellSchema) }))
export type TableRecord = z.infer<typeof recordsSchema>[number]
