/** Records that are found by who they are, in any table. */
import { z } from 'zod'

/** As many as anybody looks through, of one table. */
export const MOST_OF_A_TABLE = 5

/** @property column the identity column whose value it is found by @property value as it stands in it, in canonical text */
export const foundRecordSchema = z.object({
  tableId: z.int(), tableName: z.string(), record: z.int(), column: z.int(), columnName: z.string(), value: z.string(),
  /** Whether it is an exception of the last run of a gate. */
  isException: z.boolean(),
})
export type FoundRecord = z.infer<typeof foundRecordSchema>
