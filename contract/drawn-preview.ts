/** What a column that is drawn from elsewhere would come to, while somebody chooses. */
import { z } from 'zod'
import { COLUMN_TYPES } from '@dime-gate/core/value/read-cell'
import { drawnSchema } from './drawn'
import { columnProfileSchema } from './table'

const id = z
  .int()
  .positive()
  .max(2 ** 31 - 1)

/** @property record whose own value is told; null for none */
export const drawnPreviewRequestSchema = z.strictObject({
  drawn: drawnSchema,
  column: id.nullable(),
  record: id.nullable(),
})

/** Records whose keys meet nothing, or meet several; with the keys themselves, as far as they are few. */
const keysSchema = z.object({ records: z.int(), values: z.array(z.string()) })

export const drawnPreviewSchema = z.object({
  type: z.enum(COLUMN_TYPES),
  computed: z.int(),
  blank: z.int(),
  spread: columnProfileSchema,
  /** Of the record that was asked for. */
  value: z.string().nullable(),
  /** Of records matched by one key: those here that meet nothing, those there that nobody asks for, and keys that are not one record's alone on either side. */
  keys: z.object({ alone: keysSchema, theirsAlone: keysSchema, twice: keysSchema, theirsTwice: keysSchema }).nullable(),
})
export type DrawnPreview = z.infer<typeof drawnPreviewSchema>
