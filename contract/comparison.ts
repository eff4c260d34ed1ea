/** Two runs of one table compared: what moved from which label to which, and why. */
import { z } from 'zod'
import { CAUSES } from '@dime-gate/core/compare/causes'
import { dateSchema, differencesSchema, runSummarySchema } from './run'

const count = z.int()
/** Where a record lands: at a label, or without one. */
export const landingSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('label'), label: z.string() }),
  z.strictObject({ kind: z.enum(['unplaced', 'held', 'contested']) }),
])
export type KeptLanding = z.infer<typeof landingSchema>

/** @property from null where the record is new @property to null where it is gone */
export const keptMoveSchema = z.object({ from: landingSchema.nullable(), to: landingSchema.nullable(), records: count })
export type KeptMove = z.infer<typeof keptMoveSchema>

export const comparisonSchema = z.object({
  before: runSummarySchema,
  after: runSummarySchema,
  /** Records that land where they landed, by where. */
  stayed: z.array(z.object({ at: landingSchema, records: count })),
  /** The most first; new records and those that are gone among them. */
  moves: z.array(keptMoveSchema),
  differences: differencesSchema,
  /** Of the later run's labels those that have one; the highest rank has the highest number. */
  ranks: z.array(z.object({ label: z.string(), rank: z.int() })),
})
export type Comparison = z.infer<typeof comparisonSchema>

const causeSchema = z.enum(CAUSES)
/** Why records moved: the smallest sets of causes that explain it, each by itself; none where what was kept does not explain it. */
export const moveReasonSchema = z.object({
  sets: z.array(z.array(causeSchema)),
  records: count,
  /** Some of them, by their numbers. */
  examples: z.array(z.int()),
})
export type MoveReason = z.infer<typeof moveReasonSchema>
/** The most first. */
export const moveReasonsSchema = z.array(moveReasonSchema)

/** As many as are looked at at a time. */
const MOST_ROWS = 500
/** @property reason the place of a reason among all; null for any @property move from where to where; null for any */
export const movedRequestSchema = z.strictObject({
  move: z.strictObject({ from: landingSchema.nullable(), to: landingSchema.nullable() }).nullable(),
  reason: z.int().nonnegative().nullable(),
  from: z.int().nonnegative(),
  count: z.int().min(0).max(MOST_ROWS),
})
export type MovedRequest = z.infer<typeof movedRequestSchema>

export const movedRecordSchema = z.object({
  record: z.int(),
  from: landingSchema.nullable(),
  to: landingSchema.nullable(),
  /** The place of its reason among all; null for a new one, and one that is gone. */
  reason: z.int().nullable(),
  /** What both looked at and saw otherwise, in canonical text or as it was written. */
  changes: z.array(z.object({ column: z.int(), name: z.string(), from: z.string().nullable(), to: z.string().nullable() })),
})
export type MovedRecord = z.infer<typeof movedRecordSchema>
export const movedSchema = z.object({ total: count, rows: z.array(movedRecordSchema) })
export type Moved = z.infer<typeof movedSchema>

/** What a record got in one run; null where it was not there. */
export const recordInRunSchema = z.object({
  runId: z.int(),
  number: z.int(),
  name: z.string().nullable(),
  gateVersion: z.int(),
  asOf: dateSchema,
  keptAt: z.string(),
  landing: landingSchema.nullable(),
})
export type RecordInRun = z.infer<typeof recordInRunSchema>
