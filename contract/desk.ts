/** The desk: everything there is, in short, and the date that counts as today. */
import { z } from 'zod'
import { gateSummarySchema } from './gate'
import { dateSchema, runSummarySchema } from './run'
import { tableSummarySchema } from './table'

export const workspaceSchema = z.strictObject({ asOf: dateSchema })
export type Workspace = z.infer<typeof workspaceSchema>

export const deskSchema = workspaceSchema.extend({
  tables: z.array(tableSummarySchema),
  gates: z.array(gateSummarySchema),
  runs: z.array(runSummarySchema),
})
export type Desk = z.infer<typeof deskSchema>
