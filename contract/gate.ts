/** Gates as they are sent and stored beside their documents. Whether a document can decide the server says: that may hang on other gates. */
import { z } from 'zod'
import { boundInputsSchema, standingInputsSchema } from './binding'
import { gateDocumentSchema, labelLookSchema } from './gate-document'

export const gateSummarySchema = z.object({
  id: z.int(),
  name: z.string(),
  form: z.enum(['scale', 'rules', 'match', 'grid']),
  /** The tables that it is bound to, the one bound last first. */
  tables: z.array(z.object({ id: z.int(), name: z.string() })),
  /** The newest version that was set; 0 where none was. */
  latestVersion: z.int(),
  /** In the order of the trays. */
  labels: z.array(labelLookSchema),
  /** The names of the gates whose outcomes it takes. */
  fedBy: z.array(z.string()),
  changedAt: z.string(),
})
export type GateSummary = z.infer<typeof gateSummarySchema>

export const gateSchema = z.object({
  id: z.int(),
  draft: gateDocumentSchema,
  /** Moves with every change of the draft; a change says which one it saw. */
  draftVersion: z.int(),
  latestVersion: z.int(),
  /** What was last set, to tell whether the draft differs; null where nothing was. */
  latest: gateDocumentSchema.nullable(),
})
export type Gate = z.infer<typeof gateSchema>

/** A gate, and the table that it is bound to first. */
export const newGateSchema = z.strictObject({ draft: gateDocumentSchema, binding: z.strictObject({ tableId: z.int(), inputs: boundInputsSchema }).nullable() })
export type NewGate = z.infer<typeof newGateSchema>

export const draftChangeSchema = z.strictObject({ draft: gateDocumentSchema, seen: z.int() })
export type DraftChange = z.infer<typeof draftChangeSchema>

/** @property note what whoever sets it says of it */
export const versionRequestSchema = z.strictObject({ seen: z.int(), note: z.string().trim().max(500).optional() })

export const versionSummarySchema = z.object({ number: z.int(), setAt: z.string(), note: z.string() })
export type VersionSummary = z.infer<typeof versionSummarySchema>

/** A gate whose outcomes another one takes, as it is used with one table: its last set version, and what stands for its inputs. */
export const feedingGateSchema = z.object({
  gateId: z.int(), version: z.int(), gate: gateDocumentSchema, inputs: standingInputsSchema,
  /** The version of its binding; null where it is bound to nothing of the table, or was kept before that was noted. */
  binding: z.int().nullable().default(null),
})
export type FeedingGate = z.infer<typeof feedingGateSchema>

/** A feeding gate as a request says that it saw it. */
export const feedingSeenSchema = z.strictObject({ gateId: z.int(), version: z.int().positive(), binding: z.int().positive().nullable() })
export type FeedingSeen = z.infer<typeof feedingSeenSchema>

export function feedingSeen(feeding: readonly FeedingGate[]): FeedingSeen[] {
  return feeding.map(({ gateId, version, binding }) => ({ gateId, version, binding }))
}
