/** Review: the exceptions of the last runs, and what becomes of them. */
import { z } from 'zod'
import { EXCEPTION_KINDS } from '@dime-gate/core/result/exception'
import type { Reason } from '@dime-gate/core/result/reason'
import { correctionSchema } from './change'
import { landingSchema } from './comparison'

const id = z.int().positive().max(2 ** 31 - 1)
const text = (most: number) => z.string().max(most).refine((one) => !one.includes('\0'), 'No text can hold a zero byte.')

export const EXCEPTION_STATES = ['open', 'lapsed', 'settled', 'overridden', 'corrected'] as const
/** `lapsed`: what it was settled, overridden or corrected for has changed, and it waits again. */
export type ExceptionState = (typeof EXCEPTION_STATES)[number]
/** Those that wait for somebody. */
export const WAITING = ['open', 'lapsed'] as const satisfies ExceptionState[]

const kindSchema = z.enum(EXCEPTION_KINDS)
const stateSchema = z.enum(EXCEPTION_STATES)

/** How many exceptions there are of one gate on one table, of one kind, in one state. */
export const exceptionCountSchema = z.object({ runId: z.int(), kind: kindSchema, state: stateSchema, records: z.int() })
export type ExceptionCount = z.infer<typeof exceptionCountSchema>

export const reviewRunSchema = z.object({ id: z.int(), number: z.int(), name: z.string().nullable(), gateId: z.int(), gateName: z.string(), tableId: z.int(), tableName: z.string() })
export type ReviewRun = z.infer<typeof reviewRunSchema>

/** Somebody whom exceptions wait for. */
export const reviewerSchema = z.object({ id: z.int(), name: z.string() })
export type Reviewer = z.infer<typeof reviewerSchema>
/** Stands for nobody in particular where a reviewer is told by an id. */
export const NOBODY = 0

/** @property runs the last one of each gate on each table @property looking those whose exceptions are still being found, by their ids @property failed those of which they could not be found @property people whom any were handed to, by name */
export const reviewSchema = z.object({ runs: z.array(reviewRunSchema), counts: z.array(exceptionCountSchema), looking: z.array(z.int()), failed: z.array(z.int()), people: z.array(reviewerSchema) })
export type Review = z.infer<typeof reviewSchema>

/** What is listed: where nothing is said, of any; of the last runs where none are named. @property people whom they wait for, by id, or NOBODY */
export const exceptionFilterSchema = z.strictObject({ runs: z.array(id).max(10_000).nullable(), people: z.array(z.int().nonnegative().max(2 ** 31 - 1)).max(1000).nullable().default(null), kinds: z.array(kindSchema).nullable(), states: z.array(stateSchema).nullable(), text: text(200).nullable() })
export type ExceptionFilter = z.infer<typeof exceptionFilterSchema>
/** As a request says it. */
export type ExceptionFilterAsked = z.input<typeof exceptionFilterSchema>

/**
 * What is listed, and by what: kind by kind, run by run in the order in which the filter names them, or person by person, by name, nobody first. What lapsed
 * comes first, records in their order. The answer is whole numbers of 32 bits, the lowest byte first, three an exception: run, record, and the place of its
 * kind, or LAPSED where it lapsed; person by person whom it waits for, by id.
 */
export const exceptionListingSchema = z.strictObject({ filter: exceptionFilterSchema, by: z.enum(['kind', 'run', 'person']) })
export type ExceptionListing = z.infer<typeof exceptionListingSchema>
export const LAPSED = 100

/** Some of them, by their runs and records. */
export const exceptionRequestSchema = z.strictObject({ of: z.array(z.strictObject({ runId: id, record: z.int().nonnegative() })).max(500) })
export type ExceptionRequest = z.infer<typeof exceptionRequestSchema>

/** @property values by input what the run saw, in canonical text; what could not be read as it was written; null for a blank */
const basisSchema = z.object({ landed: z.string(), rule: z.string().nullable(), values: z.record(z.string(), z.string().nullable()) })
export type Basis = z.infer<typeof basisSchema>

/** What somebody made of an exception. @property act by which it can be taken back @property basis what it stands on */
export const markSchema = z.object({
  id: z.int(), act: z.int(), kind: z.enum(['settled', 'overridden', 'corrected']), note: z.string(), by: z.string(), at: z.string(),
  outcomes: z.record(z.string(), z.string().nullable()).nullable(), keys: z.array(z.string()), basis: basisSchema,
})
export type Mark = z.infer<typeof markSchema>

export const exceptionSchema = z.object({
  runId: z.int(), record: z.int(),
  /** Who the record is, by its identity columns; empty where the table has none. */
  who: z.array(z.string().nullable()),
  kind: kindSchema, state: stateSchema,
  reasons: z.array(z.custom<Reason>((value) => typeof value === 'object' && value !== null && 'kind' in value)),
  keys: z.array(z.string()),
  landing: landingSchema, basis: basisSchema,
  mark: markSchema.nullable(),
  /** The name of whom it waits for; null for nobody in particular. */
  waitsFor: z.string().nullable(),
})
export type Exception = z.infer<typeof exceptionSchema>

/** In the order in which they were asked for; those that are none any more are left out. */
export const exceptionsSchema = z.array(exceptionSchema)

/** One exception with how many others are alike: of its run, waiting, for the same reasons, with the same label by the same rule. */
export const exceptionDetailSchema = exceptionSchema.extend({ alike: z.int() })
export type ExceptionDetail = z.infer<typeof exceptionDetailSchema>

const seen = z.strictObject({ runId: id, record: z.int().nonnegative(), mark: z.int().nullable() })

/**
 * What is done to exceptions.
 * @property of the one that is looked at, with the mark that it had when it was seen
 * @property isAlike whether it is done to all that are alike, which wait
 * @property outcomes by outcome what takes the place of what the gate gave; an override alone has any
 * @property correction the value that is corrected, in the same step; where it is corrected, and nowhere else
 * @property to the name of whom it waits for from now on; empty for nobody in particular. It is said where it is handed, and nowhere else
 */
export const actRequestSchema = z.strictObject({
  kind: z.enum(['settled', 'overridden', 'corrected', 'handed']),
  of: seen,
  isAlike: z.boolean(),
  note: text(2000),
  by: text(120),
  outcomes: z.record(text(200), text(1000).nullable()).nullable(),
  correction: correctionSchema.nullable().default(null),
  to: text(120).nullable().default(null),
}).refine(({ kind, to }) => (kind === 'handed') === (to !== null), 'Whoever hands it on says to whom, and nobody else does.')
  .refine(({ kind, outcomes }) => (kind === 'overridden') === (outcomes !== null && Object.keys(outcomes ?? {}).length > 0), 'An override says what the record gets instead, and nothing else does.')
  .refine(({ kind, correction }) => (kind === 'corrected') === (correction !== null), 'Whoever corrects a value says which and to what, and nobody else does.')
  .refine(({ kind, isAlike }) => kind !== 'corrected' || !isAlike, 'A value is corrected of one record.')
  .refine(({ kind, note }) => kind !== 'overridden' || note.trim() !== '', 'An override needs a reason.')
export type ActRequest = z.infer<typeof actRequestSchema>
/** As a request says it. */
export type ActAsked = z.input<typeof actRequestSchema>

/** @property exception the one that was looked at, as it is now; null where an act was taken back */
export const actAnswerSchema = z.object({ act: z.int(), records: z.int(), exception: exceptionSchema.nullable() })
export type ActAnswer = z.infer<typeof actAnswerSchema>

/** What records of a run were given by hand, as far as that still holds. @property was where the gate let it land */
export const overrideSchema = z.object({ record: z.int(), outcomes: z.record(z.string(), z.string().nullable()), was: landingSchema, note: z.string(), by: z.string(), at: z.string() })
export type Override = z.infer<typeof overrideSchema>
