/** Expectations: what runs of a gate must come to. They are kept beside the gate, and hold for every version of it. */
import { z } from 'zod'
import { AFTER_RULES } from '@dime-gate/core/bulk/decisions'
import { type Bounds, type Expected, LOOKED_AT } from '@dime-gate/core/expectation/expectation'

const LONGEST_VALUE = 1000
const id = z.int().positive().max(2 ** 31 - 1)
const value = z.string().max(LONGEST_VALUE).refine((text) => !text.includes('\0'), 'No text can hold a zero byte.')
const end = z.string().regex(/^\d{1,12}(\.\d{1,12})?$/).nullable()

const expectedSchema: z.ZodType<Expected> = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('label'), label: value }),
  z.strictObject({ kind: z.literal('status'), status: z.enum(AFTER_RULES) }),
  z.strictObject({ kind: z.literal('to look at'), of: z.enum(LOOKED_AT) }),
])

const boundsSchema: z.ZodType<Bounds> = z.strictObject({ as: z.enum(['count', 'share']), low: end, high: end })

/** How many at most a gate has: more than anybody reads. */
export const MOST_EXPECTATIONS = 500

export const expectationSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('count'),
    of: expectedSchema,
    bounds: boundsSchema.refine(({ low, high }) => low !== null || high !== null, 'An expectation needs one end at least.')
      .refine(({ low, high }) => low === null || high === null || Number(low) <= Number(high), 'The lower end is above the upper one.'),
    /** Among the records with this value in a column of the table alone; null among all. */
    within: z.strictObject({ column: id, value: value.nullable() }).nullable(),
  }),
  /** One record, told by the values of columns, gets a label; null: it gets none. */
  z.strictObject({ kind: z.literal('record'), who: z.array(z.strictObject({ column: id, value })).min(1).max(8), label: value.nullable() }),
])
export type Expectation = z.infer<typeof expectationSchema>

/** @property tableId the table that it is meant for; null for any */
const asked = z.strictObject({ tableId: id.nullable(), expectation: expectationSchema })
  .refine(({ tableId, expectation }) => tableId !== null || (expectation.kind === 'count' && expectation.within === null), 'What is said of a column holds for one table.')
  .refine(({ expectation }) => expectation.kind !== 'count' || expectation.within === null || expectation.of.kind !== 'to look at', 'What is to be looked at is counted among all records alone.')

export const expectationRequestSchema = z.strictObject({ add: z.array(asked).min(1).max(MOST_EXPECTATIONS) })
export type ExpectationRequest = z.infer<typeof expectationRequestSchema>

export const keptExpectationSchema = z.object({ id: z.int(), tableId: z.int().nullable(), expectation: expectationSchema })
export type KeptExpectation = z.infer<typeof keptExpectationSchema>

/**
 * @property got how many records it comes to; of one record, 1 where it got the label
 * @property of how many records there are among whom
 * @property off how many are too many, or below nought missing; 0 where it is met
 * @property label what the one record got; null where it got none, or is not there
 * @property problem why it could not be looked at
 */
export const checkSchema = keptExpectationSchema.extend({ got: z.int(), of: z.int(), off: z.int(), label: z.string().nullable(), problem: z.string().nullable() })
export type Check = z.infer<typeof checkSchema>
