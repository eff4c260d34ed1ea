/** A table of groups, as it is asked for. */
import { z } from 'zod'
import { LONGEST_NAME, LONGEST_UNIT } from '@dime-gate/interchange/table/settings'
import { calculationSchema, KEY_PARTS } from './drawn'

const name = z.string().trim().min(1).max(LONGEST_NAME)
const id = z
  .int()
  .positive()
  .max(2 ** 31 - 1)

/** @property figures what each group is told with, over the records that are in it */
export const rollUpRequestSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  by: z
    .array(z.strictObject({ column: id, part: z.enum(KEY_PARTS) }))
    .min(1)
    .max(8),
  figures: z.array(calculationSchema.omit({ table: true }).extend({ name, unit: z.string().trim().max(LONGEST_UNIT) })).max(100),
})
export type RollUpRequest = z.infer<typeof rollUpRequestSchema>

/** What related figures of a table of groups come to over all records beneath, by column. */
export const totalsSchema = z.array(z.object({ column: id, value: z.string().nullable() }))
export type Totals = z.infer<typeof totalsSchema>
