/** Changes to a table's data, and what is known of those that were made. */
import { z } from 'zod'
import { COLUMN_TYPES } from '@dime-gate/core/value/read-cell'
import { LONGEST_NAME, LONGEST_UNIT } from '@dime-gate/interchange/table/settings'
import { drawnSchema } from './drawn'
import { cellSchema, recordsSchema, setOfColumnsSchema, tableSchema, tableSettingsSchema } from './table'

/** Values that one change gives at most, and records that it names; a fill of all that a filter finds may give more. */
export const MOST_CELLS = 50_000
const LONGEST_TEXT = 100_000
const LONGEST_FEEL = 20_000

const record = z
  .int()
  .positive()
  .max(2 ** 31 - 1)
const column = z
  .int()
  .positive()
  .max(2 ** 31 - 1)
const text = z.string().max(LONGEST_TEXT)

/** How figures and dates are written by whoever types them. */
export const readingSchema = z.strictObject({ decimalMark: z.enum(['point', 'comma']), dateOrder: z.enum(['year', 'day', 'month']) })
export type Reading = z.infer<typeof readingSchema>

/** No value has a zero byte, and a question with one would end there on its way to the database. */
const sought = (most: number) =>
  z
    .string()
    .max(most)
    .refine((one) => !one.includes('\0'), 'No text can hold a zero byte.')

/** What a column's values have to be to be listed. */
export const filterSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('values'), column, values: z.array(sought(LONGEST_TEXT)).max(1000) }),
  /** From `low` to `high`, both included; null where that end is open. */
  z.strictObject({ kind: z.literal('range'), column, low: sought(400).nullable(), high: sought(400).nullable() }),
  z.strictObject({ kind: z.literal('contains'), column, text: sought(1000) }),
  z.strictObject({ kind: z.enum(['blank', 'unreadable', 'outside']), column }),
  /** In any column, as it is written. */
  z.strictObject({ kind: z.literal('found'), text: sought(1000) }),
])
export type Filter = z.infer<typeof filterSchema>

export const listingSchema = z.strictObject({
  filters: z.array(filterSchema).max(100),
  sorts: z.array(z.strictObject({ column, direction: z.enum(['rising', 'falling']) })).max(8),
})
export type Listing = z.infer<typeof listingSchema>

const columnSettings = {
  name: z.string().trim().min(1).max(LONGEST_NAME),
  unit: z.string().trim().max(LONGEST_UNIT),
  type: z.enum(COLUMN_TYPES),
  fullMarks: z
    .string()
    .regex(/^\d{1,9}(\.\d{1,9})?$/)
    .nullable(),
  isIdentity: z.boolean(),
  expectedLow: z.string().max(400).nullable(),
  expectedHigh: z.string().max(400).nullable(),
}

const feel = z.string().trim().min(1).max(LONGEST_FEEL)

/** One value of a record that is known. @property seen what stood there when it was decided to change it */
export const correctionSchema = z.strictObject({ column, text, seen: cellSchema, reading: readingSchema })
export type Correction = z.infer<typeof correctionSchema>

export const changeRequestSchema = z.discriminatedUnion('kind', [
  /** @property cells `seen` is what stood there when it was decided to change it */
  z.strictObject({
    kind: z.literal('values'),
    reading: readingSchema,
    cells: z
      .array(z.strictObject({ record, column, text, seen: cellSchema }))
      .min(1)
      .max(MOST_CELLS),
  }),
  z.strictObject({
    kind: z.literal('fill'),
    reading: readingSchema,
    column,
    text,
    filters: z.array(filterSchema).max(100),
    records: z.array(record).max(MOST_CELLS).nullable(),
  }),
  z.strictObject({
    kind: z.literal('add records'),
    reading: readingSchema,
    rows: z
      .array(z.array(z.strictObject({ column, text })))
      .min(1)
      .max(MOST_CELLS),
  }),
  z.strictObject({ kind: z.literal('remove records'), records: z.array(record).min(1).max(MOST_CELLS) }),
  z.strictObject({
    kind: z.literal('add column'),
    name: columnSettings.name,
    unit: columnSettings.unit,
    type: columnSettings.type,
    fullMarks: columnSettings.fullMarks,
  }),
  z.strictObject({ kind: z.literal('change column'), reading: readingSchema, column, settings: z.strictObject(columnSettings).partial() }),
  z.strictObject({ kind: z.literal('remove column'), column }),
  z.strictObject({ kind: z.literal('add figure'), name: columnSettings.name, unit: columnSettings.unit, feel }),
  z.strictObject({ kind: z.literal('change figure'), column, name: columnSettings.name, unit: columnSettings.unit, feel }),
  z.strictObject({ kind: z.literal('add drawn'), name: columnSettings.name, unit: columnSettings.unit, drawn: drawnSchema }),
  z.strictObject({ kind: z.literal('change drawn'), column, name: columnSettings.name, unit: columnSettings.unit, drawn: drawnSchema }),
  /** All sets of the table, as they are from then on. */
  z.strictObject({ kind: z.literal('column sets'), sets: z.array(setOfColumnsSchema).max(100) }),
])
export type ChangeRequest = z.infer<typeof changeRequestSchema>

export const CHANGE_KINDS = [
  'values',
  'fill',
  'add records',
  'remove records',
  'add column',
  'change column',
  'remove column',
  'add figure',
  'change figure',
  'add drawn',
  'change drawn',
  'column sets',
  'append',
  'replace',
] as const
export type ChangeKind = (typeof CHANGE_KINDS)[number]

/** A change that was made: how many records it met, and in which columns. */
export const tableChangeMadeSchema = z.object({
  version: z.int(),
  kind: z.enum(CHANGE_KINDS),
  records: z.int(),
  columns: z.array(z.string()),
  undoes: z.int().nullable(),
  changedAt: z.string(),
})
export type TableChangeMade = z.infer<typeof tableChangeMadeSchema>

/** A value that was changed by somebody else in between. */
export const conflictSchema = z.object({ record: z.int(), column: z.int(), now: cellSchema })
export type Conflict = z.infer<typeof conflictSchema>

/** Either it is done, or nothing of it is, since values were changed elsewhere. */
export const changeAnswerSchema = z.object({
  conflicts: z.array(conflictSchema),
  change: tableChangeMadeSchema.nullable(),
  table: tableSchema,
  /** The records that it met, as they are now, where they are few. */
  records: recordsSchema,
})
export type ChangeAnswer = z.infer<typeof changeAnswerSchema>

export const tableHistorySchema = z.array(tableChangeMadeSchema)

/** What became of one record: by version the values before and after, of the columns that changed. */
export const recordHistorySchema = z.array(
  z.object({
    version: z.int(),
    changedAt: z.string().nullable(),
    kind: z.enum(['there from the start', 'added', 'changed', 'removed']),
    values: z.array(z.object({ column: z.int(), name: z.string(), before: cellSchema.nullable(), after: cellSchema.nullable() })),
  }),
)
export type RecordHistory = z.infer<typeof recordHistorySchema>

/** A file that goes into a table that exists: its records are found again by what tells who they are. */
export const mergeRequestSchema = z.strictObject({
  file: z.string(),
  settings: tableSettingsSchema,
  /** Whether records that the file does not have go, and its blanks count; otherwise it only adds, and changes what it says. */
  isReplacing: z.boolean(),
  /** Whether it is only told what would become of it. */
  isTrial: z.boolean(),
})
export type MergeRequest = z.infer<typeof mergeRequestSchema>

/** What a file does to a table, or would do. */
export const mergePlanSchema = z.object({
  /** The columns that tell who a record is, in both; none where records cannot be found again, and then all are added. */
  identity: z.array(z.string()),
  added: z.int(),
  changed: z.int(),
  same: z.int(),
  removed: z.int(),
  /** Records of the file, or of the table, that others cannot be told from. */
  ambiguous: z.int(),
  newColumns: z.array(z.string()),
  /** Columns of the table that the file does not have; they stay as they are. */
  untouched: z.array(z.string()),
  examples: z.object({
    added: z.array(z.string()),
    removed: z.array(z.string()),
    changed: z.array(z.object({ who: z.string(), column: z.string(), before: z.string().nullable(), after: z.string().nullable() })),
    ambiguous: z.array(z.string()),
  }),
})
export type MergePlan = z.infer<typeof mergePlanSchema>

export const mergeAnswerSchema = z.object({ plan: mergePlanSchema, change: tableChangeMadeSchema.nullable(), table: tableSchema })
export type MergeAnswer = z.infer<typeof mergeAnswerSchema>

/** @property changed of the records, those that were changed since; null where the table has to be looked at anew */
export const tableSinceSchema = z.object({ table: tableSchema, changed: recordsSchema.nullable() })
export type TableSince = z.infer<typeof tableSinceSchema>
