/** Runs: what was kept of one gate version on one table version. */
import { z } from 'zod'
import type { AllCounts } from '@dime-gate/core/result/counts'
import { standingInputsSchema } from './binding'
import { feedingGateSchema, feedingSeenSchema } from './gate'
import { gateDocumentSchema, labelLookSchema } from './gate-document'
import { columnSchema } from './table'

export const dateSchema = z.iso.date()

/**
 * Everything that a run is made of: a gate's version, a table, the binding and the gates that feed it as they were seen,
 * and the day that counts as today; the workspace's where none is said.
 */
export const runRequestSchema = z.strictObject({
  gateId: z.int(), version: z.int().positive(), tableId: z.int(), binding: z.int().positive(),
  feeding: z.array(feedingSeenSchema).default([]), asOf: dateSchema.optional(),
})
export type RunRequest = z.infer<typeof runRequestSchema>
/** As it is sent. */
export type RunAsked = z.input<typeof runRequestSchema>

/** `same`: all of it as it was; `now`: the last version, on the records, the binding and the date as they are now. */
export const runAgainSchema = z.strictObject({ as: z.enum(['same', 'now']) })

/** Null takes the name away. */
export const runChangeSchema = z.strictObject({ name: z.string().trim().min(1).max(120).nullable() })

const count = z.int()
export const countsSchema: z.ZodType<AllCounts> = z.object({
  records: count, caught: z.array(count), otherwise: count, unplaced: count, held: count, contested: count,
  alone: z.array(count), exceptions: count, unreadable: count, outside: count, onEdge: count, nearEdge: count,
  inputs: z.array(z.object({ input: z.string(), blank: count, unreadable: count, outside: count })),
  edges: z.array(z.object({ of: z.string(), at: z.string(), on: count, short: count, past: count })),
})

export const runSummarySchema = z.object({
  id: z.int(),
  /** Runs of a gate are numbered from 1; below zero where it is of a draft. */
  number: z.int(),
  /** Whether it is of the gate's draft, not kept, and there to be compared alone; the version is the last one then. */
  isDraft: z.boolean(),
  /** Given by people; null where nobody gave one. */
  name: z.string().nullable(),
  gateId: z.int(),
  gateName: z.string(),
  gateVersion: z.int(),
  tableId: z.int(),
  tableName: z.string(),
  tableVersion: z.int(),
  asOf: dateSchema,
  /** Whether the request said so; otherwise it is the day that counted everywhere. */
  isAsOfAsked: z.boolean(),
  keptAt: z.string(),
  state: z.enum(['under way', 'done', 'failed']),
  /** Why it failed. */
  problem: z.string().nullable(),
  /** Records of the table that are decided so far; null where it is not under way. */
  progress: z.int().nullable(),
  /** Whether it waits for other runs first. */
  isWaiting: z.boolean(),
  records: z.int(),
  /** Null as long as it is not done. */
  counts: countsSchema.nullable(),
  /** In the order of the trays, each with its records; none as long as it is not done. */
  labels: z.array(labelLookSchema.extend({ records: count })),
  /** What otherwise gives; null where the gate has none. */
  otherwise: labelLookSchema.nullable(),
})
export type RunSummary = z.infer<typeof runSummarySchema>

export const runSchema = runSummarySchema.extend({
  gate: gateDocumentSchema,
  /** The binding as it was. */
  binding: standingInputsSchema,
  /** The gates that fed it, each after those that feed it. */
  feeding: z.array(feedingGateSchema),
  /** The columns that the run looked at, by id: their values as they were seen are kept in this order. */
  seen: z.array(z.int()),
  columns: z.array(columnSchema),
})
export type Run = z.infer<typeof runSchema>

/** What the two were made of, as far as it differs. */
export const differencesSchema = z.object({
  gate: z.object({ from: z.string(), to: z.string() }).nullable(),
  table: z.object({ from: z.int(), to: z.int() }).nullable(),
  asOf: z.object({ from: dateSchema, to: dateSchema }).nullable(),
  /** Inputs that other columns stand for. */
  binding: z.array(z.string()),
  /** Gates that feed it, by name, with their versions; null where one feeds it no more, or did not yet. */
  feeding: z.array(z.object({ name: z.string(), from: z.int().nullable(), to: z.int().nullable() })),
  /** Figures that are computed otherwise. */
  figures: z.array(z.string()),
})
export type Differences = z.infer<typeof differencesSchema>

/** Whether a run would come out the same if it were made now. */
export const freshSchema = z.object({
  /** What it was made of, and what a run would be made of now; null where none could be made now. */
  differences: differencesSchema.nullable(),
  /** Why none could be made now. */
  problem: z.string().nullable(),
  /** How many records would now get something else, be new or gone; null where that is not known. */
  otherwise: z.int().nullable(),
})
export type Fresh = z.infer<typeof freshSchema>
