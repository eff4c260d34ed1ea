/** Gates as they are sent and stored beside their documents. */
import { z } from 'zod'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { lower } from '@dime-gate/core/rule/lower'
import { boundInputsSchema } from './binding'
import { bandLookSchema, scaleDocumentSchema } from './gate-document'

/** A scale that can decide, on one measured number and with one outcome: what the bench works on today. */
export const scaleGateSchema: z.ZodType<ScaleGate> = scaleDocumentSchema.check(({ value, issues }) => {
  const [input, ...others] = value.inputs
  const isForBench = input?.source.kind === 'given' && input.type === 'number' && others.length === 0 && value.outcomes.length === 1 && value.otherwise === null
  if (!isForBench) issues.push({ code: 'custom', message: 'a scale on the bench has one measured number, one outcome and no otherwise', path: [], input: value })
  const lowering = lower(value)
  for (const { code, path } of 'problems' in lowering ? lowering.problems : []) {
    issues.push({ code: 'custom', message: code, path: path.split('.'), input: value })
  }
})

export const gateSummarySchema = z.object({
  id: z.int(),
  name: z.string(),
  /** The tables that it is bound to, the one bound last first. */
  tables: z.array(z.object({ id: z.int(), name: z.string() })),
  /** The newest version that was set; 0 where none was. */
  latestVersion: z.int(),
  bands: z.array(bandLookSchema),
  changedAt: z.string(),
})
export type GateSummary = z.infer<typeof gateSummarySchema>

export const gateSchema = z.object({
  id: z.int(),
  draft: scaleGateSchema,
  /** Moves with every change of the draft; a change says which one it saw. */
  draftVersion: z.int(),
  latestVersion: z.int(),
  /** What was last set, to tell whether the draft differs; null where nothing was. */
  latest: scaleGateSchema.nullable(),
})
export type Gate = z.infer<typeof gateSchema>

/** A gate, and the table that it is bound to first. */
export const newGateSchema = z.strictObject({ draft: scaleGateSchema, binding: z.strictObject({ tableId: z.int(), inputs: boundInputsSchema }).nullable() })
export type NewGate = z.infer<typeof newGateSchema>

export const draftChangeSchema = z.strictObject({ draft: scaleGateSchema, seen: z.int() })
export type DraftChange = z.infer<typeof draftChangeSchema>

export const versionRequestSchema = z.strictObject({ seen: z.int() })
