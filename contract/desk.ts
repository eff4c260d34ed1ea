/** The desk: everything there is, in short, and the date that counts as today. */
import { z } from 'zod'
import { gateSummarySchema } from './gate'
import { dateSchema, freshSchema, runSummarySchema } from './run'
import { tableSummarySchema } from './table'

/** @property isToday whether that is whatever day it is, instead of a date that somebody stated */
export const workspaceSchema = z.strictObject({ asOf: dateSchema, isToday: z.boolean() })
export type Workspace = z.infer<typeof workspaceSchema>

/** `today`: whatever day it is, from then on. */
export const workspaceChangeSchema = z.strictObject({ asOf: z.union([dateSchema, z.literal('today')]) })
export type WorkspaceChange = z.infer<typeof workspaceChangeSchema>

export const deskSchema = workspaceSchema.extend({
  tables: z.array(tableSummarySchema),
  gates: z.array(gateSummarySchema),
  runs: z.array(runSummarySchema),
  /** By the id of a run whether it would come out the same if it were made now, as far as that is known at once; of the last runs of a gate on a table alone. */
  fresh: z.record(z.string(), freshSchema),
  /** Of the same, how much is expected of it and how much of that is missed. */
  expected: z.record(z.string(), z.object({ of: z.int(), missed: z.int() })),
})
export type Desk = z.infer<typeof deskSchema>
