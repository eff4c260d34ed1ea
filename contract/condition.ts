/** Named conditions as they are known everywhere: each with what it needs, and the gates that carry it. */
import { z } from 'zod'
import type { Parcel } from '@dime-gate/core/gate/named-conditions'
import { inputSchema, sharedConditionSchema } from './gate-document'

const parcel: z.ZodType<Parcel> = z.object({ conditions: z.array(sharedConditionSchema), inputs: z.array(inputSchema) })

export const knownConditionSchema = z.object({
  ...sharedConditionSchema.shape,
  /** All that it needs of the gate that said last what it says: itself last, after the conditions that it uses. */
  parcel,
  gates: z.array(
    z.object({
      id: z.int(),
      name: z.string(),
      /** The table that it is bound to last; null where it is bound to none. */
      table: z.int().nullable(),
      /** Places of the rules that use it by its name; a gate may carry it without. */
      rules: z.array(z.int()),
    }),
  ),
})
export type KnownCondition = z.infer<typeof knownConditionSchema>
