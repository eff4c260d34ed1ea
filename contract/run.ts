/** Runs: what was kept of one gate version on one table version. */
import { z } from 'zod'
import { boundInputsSchema } from './binding'
import { scaleGateSchema } from './gate'
import { bandLookSchema } from './gate-document'
import { columnSchema } from './table'

export const dateSchema = z.iso.date()

/** Everything that a run is made of: a gate's version, a table, the binding as it was seen, and the day that counts as today; the workspace's where none is said. */
export const runRequestSchema = z.strictObject({ gateId: z.int(), version: z.int().positive(), tableId: z.int(), binding: z.int().positive(), asOf: dateSchema.optional() })
export type RunRequest = z.infer<typeof runRequestSchema>

export const scaleCountsSchema = z.object({
  records: z.int(),
  bands: z.array(z.int()),
  held: z.int(),
  unplaced: z.int(),
  onCut: z.array(z.int()),
  blank: z.int(),
  unreadable: z.int(),
})

export const runSummarySchema = z.object({
  id: z.int(),
  /** Runs of a gate are numbered from 1. */
  number: z.int(),
  gateId: z.int(),
  gateName: z.string(),
  gateVersion: z.int(),
  tableId: z.int(),
  tableName: z.string(),
  tableVersion: z.int(),
  asOf: dateSchema,
  keptAt: z.string(),
  state: z.enum(['under way', 'done', 'failed']),
  /** Why it failed. */
  problem: z.string().nullable(),
  /** Records of the table that are decided so far; null where it is not under way. */
  progress: z.int().nullable(),
  records: z.int(),
  /** Null as long as it is not done. */
  counts: scaleCountsSchema.nullable(),
  bands: z.array(bandLookSchema),
})
export type RunSummary = z.infer<typeof runSummarySchema>

export const runSchema = runSummarySchema.extend({
  gate: scaleGateSchema,
  /** The binding as it was. */
  binding: boundInputsSchema,
  columns: z.array(columnSchema),
})
export type Run = z.infer<typeof runSchema>
