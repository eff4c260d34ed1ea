/** The first records of a run, told before all that it kept is here. */
import { z } from 'zod'
import { AFTER_RULES } from '@dime-gate/core/bulk/decisions'
import { STATUSES } from '@dime-gate/core/rule/rules'
import type { ListedRecord } from '@dime-gate/core/result/listed-record'
import type { Reason } from '@dime-gate/core/result/reason'
import type { Tray } from '@dime-gate/core/result/tray'

/** Trays of a run's own, which any of its records tells by itself. */
export const ownTraySchema = z.union([
  z.strictObject({ kind: z.literal('label'), label: z.string().nullable() }),
  z.strictObject({ kind: z.enum(['rule', 'alone', 'only']), rule: z.int().nonnegative() }),
  z.strictObject({ kind: z.literal('edge'), of: z.string(), at: z.string(), side: z.enum(['on', 'short', 'past']) }),
  z.strictObject({ kind: z.enum(['all', 'exceptions', 'on an edge', 'near an edge', 'unreadable', 'outside', ...AFTER_RULES]) }),
]) satisfies z.ZodType<Tray>

/** As many as anybody sees at a glance. */
const MOST_FIRST = 200
export const firstRecordsRequestSchema = z.strictObject({ tray: ownTraySchema, count: z.int().positive().max(MOST_FIRST) })
export type FirstRecordsRequest = z.infer<typeof firstRecordsRequestSchema>

/** In the order of the records. */
export const listedRecordsSchema: z.ZodType<ListedRecord[]> = z.array(z.object({
  record: z.int(), status: z.enum(STATUSES), rule: z.int(), label: z.string().nullable(),
  reasons: z.array(z.custom<Reason>((value) => typeof value === 'object' && value !== null && 'kind' in value)),
  computed: z.array(z.string().nullable()), highlights: z.array(z.int()),
}))
